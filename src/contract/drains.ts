import { z } from 'zod';
import { MISSING, STEP_KINDS } from '@/core/rootzone/advice';
import { readRunTimes } from '@/core/rootzone/schedule';
import { bounded, byId, code, csv, done, ecUsCm, instant, made, note, notNegative, positive } from './fields';
import { resource } from './operation';
import { readingHere } from './readings';
import { wire } from './wire';

export const DRAIN_VERDICTS = ['good', 'watch', 'act', 'flushing', 'check'] as const;

const percents = z.tuple([z.number().min(0).max(95), z.number().min(0).max(95)]);
/** How a system is watered. */
export const watering = wire({
	drippers: z.number().int().min(1).max(1e6).optional(),
	bags: z.number().int().min(1).max(1e6).optional().describe('bags, slabs or pots that drain into trays of their own'),
	dripper_ml_min: positive.max(10_000).optional(),
	plants: z.number().int().min(1).max(1e7).optional(),
	runs_a_day: z.number().int().min(1).max(500).optional(),
	preset: z.enum(['tight', 'usual', 'loose']).optional(),
	watch_us_cm: ecUsCm.optional().describe('own limits, over the feed'),
	act_us_cm: ecUsCm.optional(),
	drain_pct: percents.optional(),
	drain_seasons: z
		.array(z.strictObject({ from: z.string().regex(/^\d\d-\d\d$/), pct: percents }))
		.max(12)
		.optional()
		.describe('from a day of the year on, month and day as 04-01'),
	minutes: positive.max(1440).optional().describe('of one run'),
	run_times: z
		.string()
		.max(500)
		.refine(
			(t) => readRunTimes(t) !== null,
			'write 7:00 9:00 13:00, every 60 min 7:00 to 19:00, or each 120 J/cm2, 1800 a day',
		)
		.optional()
		.describe('7:00 9:00 13:00, every 60 min 7:00 to 19:00, or each 120 J/cm2, 1800 a day'),
	held_l: positive.max(10_000).optional().describe('solution that one bag, slab or pot holds'),
});

const cups = z.array(notNegative.max(100_000, 'at most 100,000 mL in a cup')).max(200).default([]);
const runShape = {
	minutes: positive.max(1440).nullable().default(null),
	first_drain_min: notNegative.max(1440).nullable().default(null).describe('minutes until the first drain'),
	applied_l: positive.max(1e7).nullable().default(null),
	applied_cups_ml: cups.describe('a cup under each of some drippers'),
	drained_l: notNegative.max(1e7).nullable().default(null),
	drained_cups_ml: cups.describe('a tray under each of some bags'),
	note: note.default(''),
};
const names = { time: 'at', applied_cups_ml: 'appliedCups', drained_cups_ml: 'drainedCups' } as const;
const storedRun = wire(
	{ ...runShape, id: z.number(), system: z.string(), time: instant, entered_by: z.string() },
	names,
);

const balance = wire({
	applied_l: z.number(),
	drained_l: z.number(),
	leaching_fraction: bounded,
	ec_delta_us_cm: bounded,
	drunk_l: bounded,
	uptake_ec_us_cm: bounded.nullable(),
	flushing: z.number().describe('how sure it is that more salt ran off than was given'),
	uptake_unknown: z.boolean().describe('its bounds are farther apart than the feed is strong'),
});
const reading = wire(
	{ id: z.number(), time: instant, value: z.number(), uncertainty: z.number(), instrument: z.string().nullable() },
	{ time: 'at', uncertainty: 'u' },
);
const found = wire(
	{
		time: instant,
		drain: reading,
		feed: reading,
		drain_ph: reading.nullable(),
		feed_ph: reading.nullable(),
		ec_delta_us_cm: z.number(),
		ec_delta_u: z.number().describe('standard uncertainty'),
		ph_delta: z.number().nullable(),
		balance: balance.nullable().describe('where volumes were measured'),
		verdict: z.enum(DRAIN_VERDICTS),
		close: z.boolean().describe('so near a limit that another reading may fall on its other side'),
		actions: z.array(z.string()).describe('in the order they are to be tried'),
	},
	{ time: 'at' },
);
const pool = wire({
	from: instant,
	to: instant,
	samples: z.number(),
	balance: balance.nullable(),
	feed_us_cm: z.number(),
	drain_us_cm: z.number(),
});
const expected = wire({
	drain_us_cm: bounded.nullable().describe('null where so little runs off that what is held may be far stronger'),
	share: bounded.describe('of what is given that runs off'),
});
const stepShape = {
	kind: z.enum(STEP_KINDS),
	runs_a_day: z.number().int().min(1).max(500),
	minutes: positive.max(1440).nullable(),
	feed_us_cm: ecUsCm,
	flush_l: positive.max(10_000).nullable().describe('litres for each bag'),
};
const advice = wire({
	kind: z.enum([...STEP_KINDS, 'measure', 'wait', 'hold', 'beyond']),
	missing: z.enum(MISSING).nullable().describe('what is to be measured first'),
	until: instant.nullable().describe('when to look'),
	working: z.boolean().nullable().describe('the last step brings the drain down'),
	step: wire({ ...stepShape, look_at: instant, expect: expected, run_times: z.string().nullable() }).nullable(),
}).describe('the next step, or why there is none');
const takenStep = wire(
	{
		...stepShape,
		id: z.number(),
		time: instant,
		look_at: instant,
		expect: expected,
		entered_by: z.string(),
		before: z.object({ share: z.number().nullable(), drain_us_cm: z.number(), rise_us_cm: z.number() }).nullable(),
		after: z
			.object({
				share: z.number().nullable(),
				drain_us_cm: z.number(),
				rise_us_cm: z.number(),
				as_expected: z.boolean().nullable(),
			})
			.nullable()
			.describe('the first drain read once it had time to work'),
	},
	{ time: 'at' },
);
export const drainsAnswer = wire({
	system: z.string(),
	drain_station: z.string().nullable(),
	feed_station: z.string().nullable(),
	watering: watering,
	preset: z.enum(['tight', 'usual', 'loose']),
	watch_us_cm: z.number(),
	act_us_cm: z.number(),
	drain_pct: z.tuple([z.number(), z.number()]).describe('aimed at, percent of what is given'),
	runs_a_day: z.number().nullable(),
	advice,
	steps: z.array(takenStep).describe('newest first'),
	outlook: wire({
		fraction: z.number(),
		drain_us_cm: bounded,
		needed_fraction: z.number().nullable().describe('null where the plants take salt as fast as it comes'),
	})
		.nullable()
		.describe(
			'where the drain settles with as much drain as is aimed at, while the plants drink as in the newest week',
		),
	samples: z.array(found),
	days: z.array(pool),
	weeks: z.array(pool),
	runs: z.array(storedRun),
	noted: z
		.array(
			wire(
				{ event_id: z.number(), time: instant, minutes: z.number().nullable(), applied_l: z.number().nullable() },
				{ time: 'at' },
			),
		)
		.describe('irrigations that were logged as events, as by the quick line; newest first, at most ten'),
});
export type Drains = z.input<typeof drainsAnswer>;

export const drains = resource('Root zone', {
	'GET /drains': {
		summary:
			'Drain beside feed of a system: what ran off, what the plants took, and what to do first; text/csv by Accept, a line for each sample',
		query: z.strictObject({
			system: code,
			days: z.coerce.number<string | number>().int().min(1).max(1100).optional().describe('56 unless given'),
			format: csv.optional(),
		}),
		answer: drainsAnswer,
		alsoAnswers: ['text/csv'],
		problems: ['unknown-system'],
	},
	'GET /irrigations': {
		summary: 'Irrigations that were measured, newest first; text/csv by Accept',
		query: z.strictObject({
			system: code.optional(),
			from: instant.optional(),
			to: instant.optional(),
			format: csv.optional(),
		}),
		answer: z.object({ irrigations: z.array(storedRun) }),
		alsoAnswers: ['text/csv'],
		problems: ['unknown-system'],
	},
	'POST /irrigations': {
		summary: 'Log an irrigation with what was given and what ran off, and what was read of feed and drain, all or none',
		body: wire(
			{
				...runShape,
				system: code,
				time: instant.optional().describe('now unless given'),
				feed: z.array(readingHere).max(10).default([]),
				drain: z.array(readingHere).max(10).default([]),
			},
			names,
		),
		answer: made,
		status: 201,
		problems: [
			'unknown-system',
			'unknown-station',
			'nothing-entered',
			'bad-time',
			'bad-reading',
			'more-drained-than-given',
		],
	},
	'POST /irrigation-steps': {
		summary:
			'Take the step that is advised now: the watering is set by it, and what it expects is kept beside what comes',
		body: z.strictObject({ system: code, kind: z.enum(STEP_KINDS) }),
		answer: made,
		status: 201,
		problems: ['unknown-system', 'not-advised'],
	},
	'POST /irrigation-steps/:id/withdrawal': {
		summary: 'Take a step back that was not carried out: the watering is as before it, where nothing was changed since',
		params: byId,
		body: z.strictObject({}),
		answer: done,
		problems: ['no-such-id', 'no-such-step'],
	},
	'POST /irrigations/:id/withdrawal': {
		summary: 'Take an irrigation back, or put it back; what was read with it stays',
		params: byId,
		body: z.strictObject({ withdrawn: z.boolean() }),
		answer: done,
		problems: ['no-such-id', 'no-such-irrigation'],
	},
});
