import { createWriteStream } from 'node:fs';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Readable, Transform } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { z } from 'zod';
import { type ImportReport, importFile } from '@/service/import';
import { judgingIsDue } from '@/service/judging';
import { Refusal } from '@/service/refusal';
import { loadSite, siteForIntake } from '@/service/site';
import { importReport } from '../contract';
import { beginJob, findJob } from '../jobs';
import { judgingJob } from '../keep-judged';
import { operation } from '../operation';

const MAX_FILE = 512 * 1024 * 1024;
const PHASES = { reading: 'lines read', storing: 'lines stored', judging: 'readings judged' } as const;
const flag = z.enum(['0', '1']).optional();

/** Keeps an uploaded body in a temporary file: an import reads it twice and must not hold it in memory. */
async function spool(request: Request): Promise<{ path: string; remove: () => Promise<void> }> {
	if (!request.body)
		throw new Refusal(400, 'no-file', [{ path: '', message: 'Send the CSV as the body of the request.' }]);
	if (Number(request.headers.get('content-length') ?? 0) > MAX_FILE)
		throw new Refusal(413, 'too-large', [{ path: '', message: 'At most 512 MB a file; split it by year.' }]);
	const dir = await mkdtemp(join(tmpdir(), 'cordwain-import-'));
	const path = join(dir, 'upload.csv');
	const remove = () => rm(dir, { recursive: true, force: true });
	let size = 0;
	const limit = new Transform({
		transform(chunk: Uint8Array, _encoding, done) {
			size += chunk.length;
			if (size > MAX_FILE)
				done(new Refusal(413, 'too-large', [{ path: '', message: 'At most 512 MB a file; split it by year.' }]));
			else done(null, chunk);
		},
	});
	try {
		await pipeline(
			Readable.fromWeb(request.body as import('node:stream/web').ReadableStream),
			limit,
			createWriteStream(path),
		);
	} catch (error) {
		await remove();
		throw error;
	}
	return { path, remove };
}

function answer(report: ImportReport): Response {
	// Nothing was stored although storing was asked for: say so with the status too.
	const refused = !report.dry_run && report.bad > 0 && report.stored === 0 && report.duplicates === 0;
	if (!refused) return Response.json(report, { headers: { 'cache-control': 'no-store' } });
	return new Response(
		JSON.stringify({
			type: 'about:blank#bad-lines',
			title: 'Nothing was stored',
			status: 422,
			detail: `${report.bad} of ${report.lines} lines cannot be read. Mend them, or send the file with keep_good=1 to store the ${report.good} good lines.`,
			errors: report.problems
				.slice(0, 100)
				.map((p) => ({ path: `line ${p.line}${p.column ? `, column ${p.column}` : ''}`, message: p.message })),
			report,
		}),
		{ status: 422, headers: { 'content-type': 'application/problem+json; charset=utf-8' } },
	);
}

export const intake = [
	operation({
		method: 'POST',
		path: '/import',
		tag: 'Files',
		summary: 'Take in a CSV of readings or events; the header says which',
		query: z.strictObject({ dry_run: flag, keep_good: flag, background: flag }),
		rawBody: ['text/csv'],
		response: importReport,
		run: async ({ query, request, pool, who, now }) => {
			const file = await spool(request);
			const options = { dryRun: query.dry_run === '1', keepGood: query.keep_good === '1', who, now };
			const work = async (progress?: (lines: number, phase: string) => void) => {
				try {
					return await importFile(pool(), await siteForIntake(pool()), file.path, {
						...options,
						progress: progress && ((lines, phase) => progress(lines, PHASES[phase])),
					});
				} finally {
					await file.remove();
				}
			};
			if (query.background === '1') return Response.json({ job: beginJob('import', work) }, { status: 202 });
			return answer(await work());
		},
	}),
	operation({
		method: 'GET',
		path: '/judging',
		tag: 'Records',
		summary:
			'Whether readings wait to be judged again after something was learned of the past, and the job that does it',
		response: z.object({
			waits: z.boolean(),
			job: z.string().nullable().describe('to be followed at /jobs/{id}; null where none runs'),
		}),
		run: async ({ pool }) => {
			const site = await loadSite(pool());
			return { waits: site !== null && (await judgingIsDue(pool(), site)), job: judgingJob() };
		},
	}),
	operation({
		method: 'GET',
		path: '/jobs/:id',
		tag: 'Files',
		summary: 'How far long work has come, and its result',
		response: z.object({
			id: z.string(),
			kind: z.string(),
			state: z.enum(['running', 'done', 'failed']),
			done: z.number(),
			phase: z.string(),
			result: z.unknown(),
			message: z.string(),
		}),
		run: ({ params }) => {
			const job = findJob(params.id ?? '');
			if (!job)
				throw new Refusal(404, 'no-such-job', [
					{ path: 'id', message: 'This work is not known here any more; what it stored is in the Ledger.' },
				]);
			return job;
		},
	}),
];
