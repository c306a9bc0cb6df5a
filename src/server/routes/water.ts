import { water as resource } from '@/contract/water';
import { readReportText } from '@/core/water/report/read';
import { saveReport, waterView } from '@/service/water';
import { listReports } from '@/store/water';
import { consequenceWords, lineWords } from '@/words/en/source';
import { handle } from '../dispatch';

export const water = handle(resource, {
	'GET /reports': async ({ db, site, query }) => ({
		reports: await listReports(db, (await site()).site.id, query.station),
	}),
	'POST /reports': async ({ body, db, site, now, who }) => {
		return { id: await saveReport(db, await site(), { ...body, at: body.at ?? now }, who) };
	},
	'POST /reports/read': ({ body }) => {
		const { ions, traces, problems, understood, ...rest } = readReportText(body.text);
		return {
			...rest,
			problems: problems.map((p) => ({ line: p.line, code: p.code, message: lineWords(p) })),
			ions: { ...ions, ...traces },
			understood: understood.map(({ line, key, value, below }) => ({ line, key, value, below })),
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
