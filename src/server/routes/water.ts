import { z } from 'zod';
import { formatTime } from '@/core/quantity/time';
import { ION_KEYS } from '@/core/water/ions';
import { readReportText } from '@/core/water/report-text';
import { requireSite } from '@/service/site';
import { saveReport, waterView } from '@/service/water';
import { listReports } from '@/store/water';
import { code, instant, notNegative, ph } from '../contract';
import { operation } from '../operation';
import { ionsBody } from './water-calculators';

const ec = notNegative.max(1e6);
const report = z.strictObject({
	station: code,
	time: instant.optional(),
	lab: z.string().max(200).optional(),
	ions: ionsBody,
	ec_us_cm: ec.nullish(),
	ph: ph.nullish(),
	note: z.string().max(2000).optional(),
});
export const water = [
	operation({
		method: 'GET',
		path: '/reports',
		tag: 'Water',
		summary: 'Laboratory reports, newest first',
		query: z.strictObject({ station: z.string().optional() }),
		response: z.object({ reports: z.array(z.record(z.string(), z.unknown())) }),
		run: async ({ pool, query }) => {
			const context = await requireSite(pool());
			return {
				reports: (await listReports(pool(), context.site.id, query.station)).map((r) => ({
					id: r.id,
					station: r.station,
					time: formatTime(r.at),
					lab: r.lab,
					ions: r.ions,
					ec_us_cm: r.ecUsCm,
					ph: r.ph,
					note: r.note,
				})),
			};
		},
	}),
	operation({
		method: 'POST',
		path: '/reports',
		tag: 'Water',
		summary: 'Keep a laboratory report of a source',
		body: report,
		response: z.object({ id: z.number() }),
		status: 201,
		run: async ({ body, pool, now, who }) => ({
			id: await saveReport(
				pool(),
				await requireSite(pool()),
				{
					station: body.station,
					at: body.time ?? now,
					lab: body.lab ?? '',
					ions: Object.fromEntries(
						[...ION_KEYS, 'b_mg_l' as const].flatMap((k) => (body.ions[k] === undefined ? [] : [[k, body.ions[k]]])),
					),
					ecUsCm: body.ec_us_cm ?? null,
					ph: body.ph ?? null,
					note: body.note ?? '',
				},
				who,
			),
		}),
	}),
	operation({
		method: 'POST',
		path: '/reports/read',
		tag: 'Water',
		summary: 'Understand a report that was typed or pasted line by line, storing nothing',
		body: z.strictObject({ text: z.string().max(20_000) }),
		response: z.object({
			ions: z.record(z.string(), z.number()),
			ec_us_cm: z.number().nullable(),
			ph: z.number().nullable(),
			problems: z.array(z.object({ line: z.number(), message: z.string() })),
		}),
		run: ({ body }) => {
			const r = readReportText(body.text);
			return {
				ions: { ...r.ions, ...(r.boronMgL !== null ? { b_mg_l: r.boronMgL } : {}) },
				ec_us_cm: r.ecUsCm,
				ph: r.ph,
				problems: r.problems,
			};
		},
	}),
	operation({
		method: 'GET',
		path: '/sources',
		tag: 'Water',
		summary: 'Each source: newest values, baseline, shifts, and the membranes',
		response: z.object({
			sources: z.array(z.record(z.string(), z.unknown())),
			membranes: z.array(z.record(z.string(), z.unknown())),
		}),
		run: async ({ pool, now }) => {
			const view = await waterView(pool(), await requireSite(pool()), now);
			return {
				sources: view.sources.map((s) => ({
					station: s.code,
					newest: s.newest,
					alkalinity_mg_l_caco3: s.alkalinityMgLCaco3,
					hardness_mg_l_caco3: s.hardnessMgLCaco3,
					...Object.fromEntries(
						Object.entries(s.charts).map(([q, c]) => [q, { wants: c.wants, baselines: c.segments, shifts: c.shifts }]),
					),
					depends: s.depends,
				})),
				membranes: view.membranes.map((m) => ({ station: m.station, feed: m.feed, state: m.state })),
			};
		},
	}),
];
