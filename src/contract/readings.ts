import { z } from 'zod';
import {
	byId,
	code,
	csv,
	done,
	finite,
	flag,
	instant,
	note,
	notNegative,
	quantity,
	quantityText,
	tempC,
} from './fields';
import { resource } from './operation';
import { wire } from './wire';

export const DECISIONS = ['keep', 'discard', 'undo', 'restore', 'retest'] as const;

const value = z.codec(
	z.union([finite, z.string().max(40)]).describe('a number, or what was typed: "5,8", "5.0..6.0"'),
	z.string(),
	{ decode: String, encode: (text) => text },
);

const typedShape = {
	time: instant.optional().describe('now unless given'),
	instrument: z.string().max(200).nullable().default(null),
	quantity,
	value,
	unit: z.string().max(20).describe('a unit of the readings CSV'),
	temp_c: tempC.nullable().default(null),
	wait_s: notNegative.nullable().default(null),
	note: note.default(''),
	skipped: z
		.array(z.string().regex(/^[a-z0-9-]{1,40}$/, 'a step code such as rinse'))
		.max(40)
		.optional()
		.describe('steps of the protocol that were left out'),
};
export const newReading = wire({ station: code, ...typedShape }, { time: 'at' });
/** The same, of a station that is known beside it. */
export const readingHere = wire(typedShape, { time: 'at' });
export type ReadingHere = z.output<typeof readingHere>;
export type NewReading = z.input<typeof newReading>;
export type TypedReading = z.output<typeof newReading>;
const newReadings = z.union([
	newReading,
	z.array(newReading).min(1).max(1000),
	z.strictObject({ readings: z.array(newReading).min(1).max(1000) }),
]);

export const verdictShape = {
	flag: z.union([z.literal(1), z.literal(2), z.literal(3), z.literal(4), z.literal(9)]),
	check: z.string(),
	cause: z.string(),
	suggested: z.number().nullable(),
	message: z.string(),
	next_step: z.string(),
};
const verdict = wire(verdictShape);

/** A reading as it is kept, with what the checks, the calibrations and people say of it. */
export const storedReading = wire(
	{
		...verdictShape,
		id: z.number(),
		sample_id: z.number(),
		time: instant,
		station: z.string(),
		instrument: z.string().nullable(),
		quantity,
		value: z.string().describe('the digits as entered'),
		unit: z.string(),
		canonical_value: z.number().describe('pH, µS/cm at 25 °C, °C, L, mm, mg/L or mV'),
		canonical_unit: z.string(),
		uncertainty: z.number().nullable().describe('standard uncertainty in the canonical unit'),
		temp_c: z.number().nullable(),
		wait_s: z.number().nullable(),
		note: z.string(),
		decision: z.string().nullable(),
		reason: z.string().nullable(),
		supersedes: z.number().nullable(),
		superseded: z.boolean(),
		restated: z
			.number()
			.nullable()
			.describe('canonical value as calibrations put it right; the original stands beside it'),
		restated_status: z.string().nullable(),
		restated_provisional: z.boolean(),
		restated_partial: z.boolean(),
		from_calibration: z.number().nullable(),
		to_calibration: z.number().nullable(),
		uncertainty_parts: z.object({ instrument: z.number(), standards: z.number(), drift: z.number() }).nullable(),
		entered_at: instant,
		entered_by: z.string(),
	},
	{ time: 'at', value: 'digits', unit: 'unitText', canonical_value: 'value', uncertainty: 'u' },
);
export type StoredReading = z.input<typeof storedReading>;
export type ShownReading = z.output<typeof storedReading>;

const cursor = z.codec(z.string().max(60), z.object({ at: z.number(), id: z.number() }), {
	decode: (text, context) => {
		const m = /^(-?\d+)_(\d+)$/.exec(text);
		if (m && Math.abs(Number(m[1])) <= 8.64e15) return { at: Number(m[1]), id: Number(m[2]) };
		context.issues.push({ code: 'custom', input: text, message: 'Give the cursor exactly as it came.' });
		return z.NEVER;
	},
	encode: (c) => `${c.at}_${c.id}`,
});

/** A reading that was just stored, with what the checks say of it. */
export const enteredReading = wire({ ...verdictShape, id: z.number() });

const entered = z.object({
	samples: z.array(
		wire({
			sample_id: z.number(),
			readings: z.array(enteredReading),
			round_finished_at: instant.nullable().describe('when the round it was entered for had been finished before'),
			retests: z
				.array(wire({ reading_id: z.number(), answered_before_at: instant.nullable() }))
				.describe('requests to read again that this sample answers'),
		}),
	),
});

const decisionMade = wire(
	{
		id: z.number(),
		reading_id: z.number(),
		kind: z.string(),
		reason: z.string(),
		who: z.string(),
		time: instant,
	},
	{ time: 'at' },
);

const belief = z.object({ error: z.number(), u: z.number() });
const evidence = z.object({
	all: belief.describe('pH, or percent for EC: by everything that is known'),
	calibrations: belief.describe('by the calibrations before and after it alone'),
	from: instant.nullable(),
	to: instant.nullable(),
	beside: z.array(
		z.object({
			other: z.string(),
			times: z.number().describe('waters that both were dipped into between those calibrations'),
			counted: z.number().describe('those of them that were no slips'),
			share: z.number().describe('part of what is known that would not be without them: 0 to 1'),
		}),
	),
});
export type Evidence = z.input<typeof evidence>;

const seenDecision = z
	.string()
	.max(20)
	.nullish()
	.describe('the decision that was seen: what was settled meanwhile is not settled otherwise without it');

export const readings = resource('Records', {
	'GET /readings': {
		summary: 'Readings with their standing, newest first; text/csv by Accept',
		query: z.strictObject({
			from: instant.optional(),
			to: instant.optional(),
			station: z.string().optional(),
			instrument: z.string().optional(),
			quantity: quantityText.optional(),
			standing: z.enum(['sound', 'doubtful', 'bad']).optional(),
			undecided: flag.optional(),
			format: csv.optional(),
			all: flag.optional().describe('1: also what was corrected or undone'),
			order: z.enum(['newest', 'oldest']).optional(),
			cursor: cursor.optional(),
			limit: z.coerce.number<string | number>().int().min(1).max(2000).optional(),
		}),
		answer: wire({ readings: z.array(storedReading), next_cursor: cursor.nullable() }),
		alsoAnswers: ['text/csv'],
	},
	'POST /readings': {
		summary: 'Store one or more readings; those of one station and time are one sample',
		body: newReadings,
		query: z.strictObject({
			source: z.enum(['api', 'bench', 'quick', 'sheet']).optional(),
			round: z.coerce.number<string | number>().int().positive().optional().describe('the round it is taken on'),
			page: z.string().max(60).optional().describe('names the page that entered it, for /changes'),
		}),
		answer: entered,
		status: 201,
		problems: ['unknown-station', 'nothing-entered', 'bad-time', 'bad-reading', 'no-such-round'],
	},
	'POST /readings/judge': {
		storesNothing: true,
		summary: 'What the checks would say of one sample, storing nothing',
		body: newReadings,
		answer: z.object({ readings: z.array(verdict) }),
		problems: ['one-sample', 'unknown-station', 'nothing-entered', 'bad-time', 'bad-reading'],
	},
	'POST /readings/undo': {
		summary: 'Take back the newest typed sample; nothing is deleted',
		answer: z.object({ undone: z.array(storedReading) }),
	},
	'GET /readings/:id/history': {
		summary: 'A reading, everything it replaced or was replaced by, and the decisions',
		params: byId,
		answer: z.object({
			readings: z.array(storedReading),
			decisions: z.array(decisionMade),
			evidence: evidence.nullable().describe('what the error of its probe is known from; null where it has none'),
		}),
		problems: ['no-such-id', 'no-such-reading'],
	},
	'POST /readings/:id/decision': {
		summary: 'Keep, discard with a reason, undo, restore, or ask for a retest',
		params: byId,
		body: z.strictObject({
			kind: z.enum(DECISIONS),
			reason: note.default(''),
			after: seenDecision,
		}),
		answer: done,
		problems: ['no-such-id', 'no-such-reading', 'already-corrected', 'decided-meanwhile', 'reason-needed'],
	},
	'POST /readings/:id/correction': {
		summary: 'Correct a reading, whatever was wrong with it: a new one that supersedes it; the original stays',
		params: byId,
		body: wire(
			{
				value: value.optional(),
				unit: z.string().max(20).optional(),
				quantity: quantity.optional(),
				station: code.optional(),
				instrument: code.nullish().describe('null: nobody said'),
				time: instant.optional(),
				note: note.optional(),
				whole_sample: z
					.boolean()
					.default(false)
					.describe(
						'true: station and time were wrong of everything of its sample, the instrument of what was measured with the same',
					),
				reason: note.default(''),
			},
			{ time: 'at', whole_sample: 'wholeSample' },
		),
		answer: entered,
		status: 201,
		problems: ['no-such-id', 'no-such-reading', 'already-corrected', 'unknown-station', 'bad-reading', 'bad-time'],
	},
	'POST /readings/decisions': {
		summary: 'The same decision about many readings, all or none',
		body: z.strictObject({
			readings: z
				.array(z.strictObject({ id: z.number().int().positive(), after: seenDecision }))
				.min(1)
				.max(500),
			kind: z.enum(DECISIONS),
			reason: note.default(''),
		}),
		answer: done,
		problems: ['no-such-reading', 'already-corrected', 'decided-meanwhile', 'reason-needed'],
	},
	'POST /readings/corrections': {
		summary: 'Many readings were of another station or instrument: new ones that supersede them, all or none',
		body: z
			.strictObject({
				ids: z.array(z.number().int().positive()).min(1).max(500),
				station: code.optional(),
				instrument: code.nullish().describe('null: nobody said'),
				reason: note.default(''),
			})
			.refine((c) => c.station !== undefined || c.instrument !== undefined, {
				path: ['station'],
				message: 'Say which station or instrument it was.',
			}),
		answer: entered,
		status: 201,
		problems: ['no-such-reading', 'already-corrected', 'unknown-station', 'bad-reading'],
	},
});
