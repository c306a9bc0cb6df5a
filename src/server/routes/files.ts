import { type ImportDone, files as resource } from '@/contract/files';
import { onWire } from '@/contract/wire';
import { importFile } from '@/service/import';
import { judgingIsDue } from '@/service/judging';
import { Refusal } from '@/service/refusal';
import { importSheet, requireMapping } from '@/service/sheets';
import { loadSite, siteForIntake, siteForLooking } from '@/service/site';
import type { Db } from '@/store/pool';
import { handle } from '../dispatch';
import { findJob, type Job, type Progress, stopJob } from '../jobs';
import { judgingJob } from '../keep-judged';
import { spool } from '../uploads';

/** Lines named in a refusal. */
const LISTED = 100;
const PHASES = { reading: 'lines read', storing: 'lines stored', judging: 'readings judged' } as const;

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
		const work = async (on: Db, progress?: Progress) => {
			const context = dryRun ? await siteForLooking(on) : await siteForIntake(on);
			const options = {
				dryRun,
				keepGood,
				who,
				now,
				...(progress
					? { progress: (lines: number, phase: keyof typeof PHASES) => progress(lines, PHASES[phase]) }
					: {}),
			};
			return query.mapping === undefined
				? importFile(on, context, file.path, options)
				: importSheet(on, context, file.path, await requireMapping(on, context, query.mapping), options);
		};
		const of = { body: file.digest, end: file.remove };
		if (dryRun)
			return query.background ? begin('import', work, { ...of, storesNothing: true }) : work(db).finally(file.remove);
		return query.background
			? begin('import', work, of)
			: store(async (client) => unlessRefused(await work(client)), of);
	},
	'GET /judging': async ({ db }) => {
		const site = await loadSite(db);
		return {
			waits: site !== null && (await judgingIsDue(db, site)),
			job: site === null ? null : judgingJob(site.site.id),
		};
	},
	'GET /jobs/:id': ({ params, asker }) => shownJob(findJob(asker.site?.id ?? null, params.id)),
	'DELETE /jobs/:id': async ({ params, asker }) => shownJob(await stopJob(asker.site?.id ?? null, params.id)),
});

function shownJob(job: Job | undefined) {
	if (job) {
		const { siteId: _, ...shown } = job;
		return shown;
	}
	throw new Refusal('no-such-job', [
		{ path: 'id', message: 'This work is not known here any more; what it stored is in the Ledger.' },
	]);
}
