import { createHash } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Readable, Transform } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { type ImportDone, files as resource } from '@/contract/files';
import { onWire } from '@/contract/wire';
import { importFile } from '@/service/import';
import { judgingIsDue } from '@/service/judging';
import { Refusal } from '@/service/refusal';
import { loadSite, siteForIntake, siteForLooking } from '@/service/site';
import type { Db } from '@/store/pool';
import { handle } from '../dispatch';
import { findJob, type Progress } from '../jobs';
import { judgingJob } from '../keep-judged';

/** Lines named in a refusal. */
const LISTED = 100;
const MAX_FILE = 512 * 1024 * 1024;
const PHASES = { reading: 'lines read', storing: 'lines stored', judging: 'readings judged' } as const;

/** An uploaded body in a temporary file: an import reads it twice and must not hold it in memory. */
interface Spooled {
	path: string;
	digest: string;
	remove: () => Promise<void>;
}

async function spool(request: Request): Promise<Spooled> {
	if (!request.body) throw new Refusal('no-file', [{ path: '', message: 'Send the CSV as the body of the request.' }]);
	if (Number(request.headers.get('content-length') ?? 0) > MAX_FILE)
		throw new Refusal('too-large', [{ path: '', message: 'At most 512 MB a file; split it by year.' }]);
	const dir = await mkdtemp(join(tmpdir(), 'cordwain-import-'));
	const path = join(dir, 'upload.csv');
	const remove = () => rm(dir, { recursive: true, force: true });
	const digest = createHash('sha256');
	let size = 0;
	const limit = new Transform({
		transform(chunk: Uint8Array, _encoding, done) {
			size += chunk.length;
			digest.update(chunk);
			if (size > MAX_FILE)
				done(new Refusal('too-large', [{ path: '', message: 'At most 512 MB a file; split it by year.' }]));
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
	return { path, digest: digest.digest('base64'), remove };
}

/** Nothing was stored although storing was asked for: the status says so too. */
function unlessRefused(report: ImportDone): ImportDone {
	if (report.dryRun || report.bad === 0 || report.stored > 0 || report.duplicates > 0) return report;
	throw new Refusal(
		'bad-lines',
		report.problems
			.slice(0, LISTED)
			.map((p) => ({ path: `line ${p.line}${p.column ? `, column ${p.column}` : ''}`, message: p.message })),
		{
			detail: `${report.bad} of ${report.lines} lines cannot be read. Mend them, or send the file with keep_good=1 to store the ${report.good} good lines.`,
			report: onWire(resource.operations['POST /import'].answer, report),
		},
	);
}

export const files = handle(resource, {
	'POST /import': async ({ query, request, db, who, now, begin, store }) => {
		const file = await spool(request);
		const { dryRun = false, keepGood = false } = query;
		const work = async (on: Db, progress?: Progress) =>
			importFile(on, dryRun ? await siteForLooking(on) : await siteForIntake(on), file.path, {
				dryRun,
				keepGood,
				who,
				now,
				...(progress
					? { progress: (lines: number, phase: keyof typeof PHASES) => progress(lines, PHASES[phase]) }
					: {}),
			});
		const of = { body: file.digest, end: file.remove };
		if (dryRun)
			return query.background ? begin('import', work, { ...of, storesNothing: true }) : work(db).finally(file.remove);
		return query.background
			? begin('import', work, of)
			: store(async (client) => unlessRefused(await work(client)), of);
	},
	'GET /judging': async ({ db }) => {
		const site = await loadSite(db);
		return { waits: site !== null && (await judgingIsDue(db, site)), job: judgingJob() };
	},
	'GET /jobs/:id': ({ params }) => {
		const job = findJob(params.id);
		if (job) return job;
		throw new Refusal('no-such-job', [
			{ path: 'id', message: 'This work is not known here any more; what it stored is in the Ledger.' },
		]);
	},
});
