import { water as resource } from '@/contract/water';
import { ION_KEYS } from '@/core/water/ions';
import { readReportText } from '@/core/water/report-text';
import { saveReport, waterView } from '@/service/water';
import { listReports } from '@/store/water';
import { consequenceWords, lineWords } from '@/words/en/source';
import { handle } from '../dispatch';

/** What a report is kept with; other metals are read and not kept. */
const KEPT = [...ION_KEYS, 'b_mg_l' as const];

export const water = handle(resource, {
	'GET /reports': async ({ db, site, query }) => ({
		reports: await listReports(db, (await site()).site.id, query.station),
	}),
	'POST /reports': async ({ body, db, site, now, who }) => {
		const ions = Object.fromEntries(KEPT.flatMap((k) => (body.ions[k] === undefined ? [] : [[k, body.ions[k]]])));
		return { id: await saveReport(db, await site(), { ...body, ions, at: body.at ?? now }, who) };
	},
	'POST /reports/read': ({ body }) => {
		const { ions, boronMgL, problems, ...rest } = readReportText(body.text);
		return {
			...rest,
			problems: problems.map((p) => ({ line: p.line, code: p.code, message: lineWords(p) })),
			ions: { ...ions, ...(boronMgL !== null ? { b_mg_l: boronMgL } : {}) },
		};
	},
	'GET /sources': async ({ db, site, now }) => {
		const view = await waterView(db, await site(), now);
		return {
			sources: view.sources.map((s) => ({
				...s,
				station: s.code,
				depends: s.depends.map(({ means, ...d }) => ({ ...d, words: consequenceWords(means) })),
				charts: Object.fromEntries(
					Object.entries(s.charts).map(([q, c]) => [q, { wants: c.wants, baselines: c.segments, shifts: c.shifts }]),
				),
			})),
			membranes: view.membranes,
		};
	},
});
