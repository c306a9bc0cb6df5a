import { z } from 'zod';
import { SERIES_QUANTITIES } from '@/core/quantity';
import { ION_KEYS, type IonKey, TRACE_KEYS, type TraceKey } from '@/core/water/ions';
import { code, ecUsCm, instant, made, mgL, note, ph, shortText } from './fields';
import { resource } from './operation';
import { wire } from './wire';

/** mg/L of each ion, by its name. Boron, iron, manganese and silicon carry no charge that the balance counts. */
export const ions = z.strictObject(
	Object.fromEntries([...ION_KEYS, ...TRACE_KEYS].map((k) => [k, mgL.optional()])) as Record<
		IonKey | TraceKey,
		z.ZodOptional<typeof mgL>
	>,
);
const storedIons = z.record(z.string(), z.number());

const report = wire(
	{
		id: z.number(),
		station: z.string(),
		time: instant,
		lab: z.string(),
		ions: storedIons,
		ec_us_cm: z.number().nullable(),
		ph: z.number().nullable(),
		note: z.string(),
	},
	{ time: 'at' },
);

const baseline = wire({
	mean: z.number(),
	mean_range: z.number(),
	low: z.number(),
	high: z.number(),
	from: z.number(),
});
const shift = z.object({
	since: instant,
	from: z.number(),
	to: z.number(),
	confirmed: z.boolean(),
	rule: z.string(),
});
const chart = z.object({
	wants: z.enum(['more', 'confirm', 'nothing']),
	baselines: z.array(baseline),
	shifts: z.array(shift),
});
const window = z.object({ likely: instant, early: instant, late: instant.nullable() }).nullable();

export const water = resource('Water', {
	'GET /reports': {
		summary: 'Laboratory reports, newest first',
		query: z.strictObject({ station: z.string().optional() }),
		answer: z.object({ reports: z.array(report) }),
	},
	'POST /reports': {
		summary: 'Keep a laboratory report of a source',
		body: wire(
			{
				station: code,
				time: instant.optional().describe('now unless given'),
				lab: shortText.default(''),
				ions,
				ec_us_cm: ecUsCm.nullable().default(null),
				ph: ph.nullable().default(null),
				note: note.default(''),
			},
			{ time: 'at' },
		),
		answer: made,
		status: 201,
		problems: ['unknown-station', 'nothing-entered'],
	},
	'POST /reports/read': {
		storesNothing: true,
		summary: 'Understand a report that was typed or pasted line by line, storing nothing',
		body: z.strictObject({ text: z.string().max(20_000) }),
		answer: wire({
			ions: storedIons,
			ec_us_cm: z.number().nullable(),
			ph: z.number().nullable(),
			hardness_mg_l_caco3: z.number().nullable(),
			tds_mg_l: z.number().nullable(),
			understood: z
				.array(z.object({ line: z.number(), key: z.string(), value: z.number(), below: z.boolean() }))
				.describe('what each line was taken for, in mg/L; below: less than could be found'),
			problems: z.array(z.object({ line: z.number(), code: z.string(), message: z.string() })),
		}),
	},
	'GET /sources': {
		summary: 'Each source: newest values, baseline, shifts, and the membranes',
		answer: z.object({
			sources: z.array(
				wire({
					station: z.string(),
					newest: z.partialRecord(
						z.enum(SERIES_QUANTITIES),
						wire({ value: z.number(), time: instant }, { time: 'at' }),
					),
					alkalinity_mg_l_caco3: z.number().nullable(),
					hardness_mg_l_caco3: z.number().nullable(),
					charts: z.partialRecord(z.enum(SERIES_QUANTITIES), chart),
					depends: z
						.array(z.object({ kind: z.string(), name: z.string(), words: z.string(), path: z.string() }))
						.describe('what hangs on its EC, where that has changed'),
				}),
			),
			membranes: z.array(
				z.object({
					station: z.string(),
					feed: z.string(),
					state: z.union([
						z.object({ known: z.literal(false), reason: z.literal('too-few') }),
						wire({
							known: z.literal(true),
							rejection: z.number(),
							grade: z.enum(['good', 'watch', 'replace']),
							slope_per_day: z.number(),
							slope_low: z.number(),
							slope_high: z.number(),
							reaches: z.object({ watch: window, replace: window }),
							why: z.enum(['membrane', 'feed', 'both', 'steady']),
						}),
					]),
				}),
			),
		}),
	},
});
