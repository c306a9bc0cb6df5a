import { z } from 'zod';
import { PROBE_EVENT_KINDS, STORAGES } from '@/core/probe/care';
import { calibrationShape, grade } from './calibrations';
import { code, day, done, finite, instant, made, note, phOrEc, shortText } from './fields';
import { resource } from './operation';
import { storedReading } from './readings';
import { wire } from './wire';

const quantity = phOrEc;

const probeShape = {
	instrument: z.string(),
	name: z.string(),
	kind: z.string(),
	quantity,
	compensates: z.boolean(),
	alpha_pct_per_c: z.number(),
	shows_mv: z.boolean(),
	points: z.number(),
	storage: z.enum(STORAGES).nullable(),
	in_service: z.string().nullable(),
	storage_refilled: z.string().nullable(),
	storage_overdue_days: z.number().nullable().describe('days by which the solution in its cap wants renewing'),
	serial: z.string(),
	last_at: instant.nullable(),
	verdict: grade.nullable(),
	reasons: z.array(z.string()),
	last_offset: z.number().nullable(),
	last_slope_pct: z.number().nullable(),
	last_cell_factor: z.number().nullable(),
	sigma_per_root_day: z.number(),
	rate_per_day: z.number(),
	learned_from: z.number(),
	interval_days: z.number(),
	interval_reason: z.string(),
	due_at: instant.nullable(),
	due_reason: z.string(),
	u_today: z
		.number()
		.describe('standard uncertainty of a reading taken now, its known error taken off: pH, or percent for EC'),
	error_today: z.number().describe('what it is probably wrong by now, as shown less true: pH, or percent for EC'),
	error_u: z.number().describe('standard uncertainty of error_today'),
	error_told: z.boolean().describe('the error is beyond what may be left alone, and known well enough to say so'),
	life: wire({
		now_pct: z.number(),
		per_year_pct: z.number(),
		earliest: instant,
		latest: instant.nullable(),
	}).nullable(),
};
const names = { alpha_pct_per_c: 'alphaPct', storage_overdue_days: 'renewalOverdueDays' } as const;
export const probe = wire(probeShape, names);
export type Probe = z.input<typeof probe>;
export type ShownProbe = z.output<typeof probe>;

export const apart = z.object({
	quantity,
	a: z.string(),
	b: z.string(),
	by: z.number().describe('what the first shows more than the second in one water: pH, or percent for EC'),
	u: z.number(),
});
export type Apart = z.output<typeof apart>;
export const bestDip = z.object({
	instrument: z.string(),
	quantity,
	share: z.number().describe('of all that is unknown of the probes, what it would take away: 0 to 1'),
});
export type BestDip = z.output<typeof bestDip>;

/** A calibration with what it says of the probe. */
const toldCalibration = wire(
	{
		...calibrationShape,
		offset: z.number().nullable(),
		slope_pct: z.number().nullable(),
		cell_factor: z.number().nullable(),
		verdict: grade.nullable(),
		reasons: z.array(z.string()),
	},
	{ time: 'at' },
);
export type ToldCalibration = z.input<typeof toldCalibration>;

export const probeStory = wire(
	{
		...probeShape,
		calibrations: z.array(toldCalibration),
		events: z.array(
			wire(
				{
					id: z.number(),
					kind: z.enum(PROBE_EVENT_KINDS),
					time: instant,
					before: z.number().nullable(),
					after: z.number().nullable(),
					note: z.string(),
				},
				{ time: 'at' },
			),
		),
		curve: z
			.array(z.object({ time: instant, error: z.number(), u: z.number() }))
			.describe('its error by all that is known of it: pH, or percent for EC'),
		met: z
			.array(
				z.object({
					time: instant,
					other: z.string(),
					error: z.number().describe('what it showed less what the other one did, without the error known of that'),
					weight: z.number().describe('how much it counts: 1 all, 0 not at all'),
				}),
			)
			.describe('readings of one water by it and another instrument'),
		note: z
			.string()
			.describe(
				'what is true of all its readings, such as waters far from the temperature of its calibration; empty for nothing',
			),
		touched: z.array(storedReading),
		touched_count: z.number().describe('how many of its readings are worth something else than they showed'),
		rejected: z.number(),
		turned: z
			.array(
				wire(
					{
						id: z.number(),
						time: instant,
						station: z.string(),
						value: z.number(),
						restated: z.number(),
						was: z.string(),
						truly: z.string(),
						doses: z.array(wire({ time: instant, words: z.string() }, { time: 'at' })),
					},
					{ time: 'at' },
				),
			)
			.describe('decisions that stood on a number which was put right later'),
	},
	names,
);
export type ProbeStory = z.input<typeof probeStory>;
export type ShownProbeStory = z.output<typeof probeStory>;

const thisProbe = z.object({ instrument: z.string(), quantity });

export const probes = resource('Probes', {
	'GET /probes': {
		summary: 'Every probe, the most trustworthy today first',
		answer: z.object({
			probes: z.array(probe),
			apart: z
				.array(apart)
				.describe('probes that cannot both be right, where it is not known which of the two is wrong'),
			dip: bestDip.nullable().describe('the one dip in a standard that would tell most of all probes together'),
		}),
	},
	'GET /probes/:instrument/:quantity': {
		summary: 'One probe: calibrations, story, the readings it touched, the decisions those would have turned',
		params: thisProbe,
		answer: probeStory,
		problems: ['no-such-id', 'no-such-probe'],
	},
	'PUT /probes/:instrument/:quantity': {
		summary: 'Serial, in service since, storage',
		params: thisProbe,
		body: wire({
			serial: shortText.default(''),
			in_service: day.nullable().default(null),
			storage: z.enum(STORAGES).optional().describe('the usual of its kind unless given'),
			storage_refilled: day.nullable().default(null),
			note: note.default(''),
		}),
		answer: done.extend({ warning: z.string() }),
		problems: ['no-such-id', 'unknown-instrument'],
	},
	'POST /probe-events': {
		summary: 'What happened to a probe: dropped, dried out, cleaned, rehydrated, stored wrong, replaced',
		body: wire(
			{
				instrument: code,
				quantity,
				time: instant.optional().describe('now unless given'),
				kind: z.enum(PROBE_EVENT_KINDS),
				before: finite.nullable().default(null).describe('the same water before cleaning'),
				after: finite.nullable().default(null).describe('and after'),
				note: note.default(''),
			},
			{ time: 'at' },
		),
		answer: made,
		status: 201,
		problems: ['unknown-instrument', 'half-a-pair'],
	},
});
