import { z } from 'zod';
import { AERATION, type Aeration } from '@/core/chem/degassing';
import { isQuantity, QUANTITIES, type Quantity, type Unit, unitNamed } from '@/core/quantity';
import { parseTime } from '@/core/quantity/time';
import { EVENT_KINDS, STATION_KINDS } from '@/core/reading/model';
import { RHYTHMS } from '@/core/rhythm/due';

/** Schemas of what goes over the wire; the views use their types. Field names end in their unit. */

export const finite = z.number({ error: 'must be a number' });
export const positive = finite.positive('must be more than 0');
export const notNegative = finite.nonnegative('must not be negative');
export const tempC = finite.min(-5, 'water is between −5 and 60 °C').max(60, 'water is between −5 and 60 °C');
export const ph = finite.min(0, 'pH is between 0 and 14').max(14, 'pH is between 0 and 14');
/** Beyond 3 % per °C the linear form divides by nearly nothing in cold water. */
export const alpha = finite.min(0, 'at least 0 % per °C').max(3, 'at most 3 % per °C');
export const name = z.string().trim().min(1, 'must not be empty').max(200, 'at most 200 characters');
export const code = name.refine((c) => ![...c].some((x) => x < ' '), 'must not hold control characters');
export const unit = z.string().transform((text, ctx): Unit => {
	const found = unitNamed(text);
	if (found) return found;
	ctx.addIssue({ code: 'custom', message: `“${text.slice(0, 40)}” is not a unit known here` });
	return z.NEVER;
});
export const quantity = z.enum(QUANTITIES);
export const quantityText = z
	.string()
	.refine(isQuantity, 'is not a quantity')
	.transform((q) => q as Quantity);

/** A day that exists, as 2026-07-14. */
export const day = z.iso.date('a day that exists, as 2026-07-14').refine((d) => d >= '1900-01-01', 'a day since 1900');

/** An instant with its offset; a local time would be ambiguous in an API. */
export const instant = z.string().transform((text, ctx): number => {
	const parsed = parseTime(text, 'UTC');
	if (parsed.ok && parsed.local === null) return parsed.at;
	if (parsed.ok && /^\d{4}-\d{2}-\d{2}$/.test(text.trim())) return parsed.at;
	ctx.addIssue({ code: 'custom', message: 'write the time as 2026-03-01T07:30:00Z' });
	return z.NEVER;
});

const value = z.union([finite, z.string().max(40)]).describe('a number, or what was typed: "5,8", "5.0..6.0"');

export const newReading = z.strictObject({
	time: instant.optional().describe('now unless given'),
	station: code,
	instrument: z.string().max(200).nullish(),
	quantity,
	value,
	unit: z.string().max(20).describe('a unit of the readings CSV'),
	temp_c: tempC.nullish(),
	wait_s: notNegative.nullish(),
	note: z.string().max(2000).optional(),
	skipped: z
		.array(z.string().regex(/^[a-z0-9-]{1,40}$/, 'a step code such as rinse'))
		.max(40)
		.optional()
		.describe('steps of the protocol that were left out'),
});
export const newReadings = z.union([
	newReading,
	z.array(newReading).min(1).max(1000),
	z.strictObject({ readings: z.array(newReading).min(1).max(1000) }),
]);

export const verdict = z.object({
	flag: z.union([z.literal(1), z.literal(2), z.literal(3), z.literal(4), z.literal(9)]),
	check: z.string(),
	cause: z.string(),
	suggested: z.number().nullable(),
	message: z.string(),
	next_step: z.string(),
});

export const storedReading = verdict.extend({
	id: z.number(),
	sample_id: z.number(),
	time: z.string(),
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
	entered_at: z.string(),
	entered_by: z.string(),
});
export type StoredReading = z.output<typeof storedReading>;

export const readingQuery = z.strictObject({
	from: instant.optional(),
	to: instant.optional(),
	station: z.string().optional(),
	instrument: z.string().optional(),
	quantity: quantityText.optional(),
	standing: z.enum(['sound', 'doubtful', 'bad']).optional(),
	undecided: z.enum(['0', '1']).optional(),
	format: z.literal('csv').optional().describe('csv: the same as Accept: text/csv, for links'),
	all: z.enum(['0', '1']).optional().describe('1: also what was corrected or undone'),
	order: z.enum(['newest', 'oldest']).optional(),
	cursor: z.string().max(60).optional(),
	limit: z.coerce.number().int().min(1).max(2000).optional(),
});

export const decision = z.strictObject({
	kind: z.enum(['keep', 'discard', 'undo', 'restore', 'retest']),
	reason: z.string().max(2000).optional(),
});
export const correction = z.strictObject({
	value,
	unit: z.string().max(20),
	station: code.optional(),
	reason: z.string().max(2000).optional(),
});

export const newEvent = z.strictObject({
	time: instant.optional(),
	station: code,
	kind: z.enum(EVENT_KINDS),
	amount: notNegative.nullish(),
	unit: z.string().max(20).optional(),
	product: z.string().max(200).optional(),
	note: z.string().max(2000).optional(),
});
export const storedEvent = z.object({
	id: z.number(),
	time: z.string(),
	station: z.string(),
	kind: z.enum(EVENT_KINDS),
	amount: z.number().nullable(),
	unit: z.string(),
	product: z.string(),
	note: z.string(),
});

const rangePair = z.tuple([finite, finite]).refine(([low, high]) => low < high, 'the lower end comes first');

export const aeration = z.enum(Object.keys(AERATION) as [Aeration, ...Aeration[]]);

export const station = z.strictObject({
	code,
	name: name.optional(),
	kind: z.enum(STATION_KINDS),
	system: z.string().nullish(),
	position: z.number().int().min(0).max(10_000).optional(),
	fed_by: z.array(code).max(50).optional(),
	volume_l: positive.max(1e9).nullish(),
	ranges: z.partialRecord(quantity, rangePair).optional().describe('target range by quantity, in canonical units'),
	note: z.string().max(2000).optional(),
	protocol: z
		.array(z.strictObject({ code: z.string().regex(/^[a-z0-9-]{1,40}$/), text: z.string().trim().min(1).max(200) }))
		.max(40)
		.nullish()
		.describe('own steps of measuring here; null takes the usual ones'),
	rhythm: z.partialRecord(quantity, z.enum(RHYTHMS)).nullish().describe('how often what is measured here'),
	aeration: aeration.nullish().describe('how its water is moved; null: as its system'),
	mix_minutes: notNegative.max(1440).nullish().describe('wait after pouring; null: the usual of its size and movement'),
	least_ph: finite.min(3).max(10).nullish().describe('acid is not advised below it; null: the usual limit'),
	most_ph: finite.min(3).max(10).nullish().describe('base is not advised above it; null: the usual limit'),
});
export type StationBody = z.output<typeof station>;

export const instrument = z.strictObject({
	code,
	name: name.optional(),
	kind: z.enum(['ph', 'ec', 'combined', 'drop_kit', 'sensor_node']),
	quantities: z
		.partialRecord(
			quantity,
			z.strictObject({
				resolution: positive.optional(),
				accuracy: notNegative.optional(),
				accuracyPct: notNegative.optional(),
			}),
		)
		.optional(),
	ppm_scale: z.union([z.literal(500), z.literal(640), z.literal(700)]).nullish(),
	compensates: z.boolean().optional(),
	alpha_pct_per_c: alpha.optional(),
	continuous: z.boolean().optional(),
	calibrate_by: z.enum(['learned', 'weekly', 'before_use', 'monthly', 'maker']).optional(),
	maker_days: positive.max(3650).nullish(),
	remembers_points: z.number().int().min(0).max(5).optional(),
	shows_mv: z.boolean().optional(),
	locks: z.boolean().optional(),
	live: z.enum(['none', 'simulated']).optional().describe('how it speaks by itself'),
	printed_ph: z.array(ph).min(2).max(30).nullish().describe('values printed on the card of a drop kit'),
});
export type InstrumentBody = z.output<typeof instrument>;

export const system = z.strictObject({
	code,
	name: name.optional(),
	kind: z.enum([
		'raft_pond',
		'channel',
		'bucket',
		'passive_tank',
		'drip_to_drain',
		'drip_recirculating',
		'tower',
		'flood_table',
	]),
	volume_l: positive.max(1e9).nullish(),
	medium: z.string().max(200).optional(),
	crop: z.string().max(200).optional(),
	stage: z.string().max(200).optional(),
	aeration: aeration.nullish().describe('how its water is moved; null: as its kind usually is'),
});

export const importReport = z.object({
	format: z.enum(['readings', 'events', 'calibrations']),
	dry_run: z.boolean(),
	lines: z.number(),
	good: z.number(),
	bad: z.number(),
	duplicates: z.number(),
	stored: z.number(),
	flagged: z.record(z.string(), z.number()),
	creates: z.object({ stations: z.array(z.string()), instruments: z.array(z.string()) }),
	notes: z.array(z.string()),
	problems: z.array(z.object({ line: z.number(), column: z.string(), message: z.string() })),
	more_problems: z.number(),
});

/** What somebody entered, for the other pages that are open. */
export const change = z.object({
	seq: z.number().describe('counts up from the start of the server'),
	kind: z.enum(['readings', 'decision', 'event', 'round']),
	station: z.string().nullable(),
	readings: z
		.array(
			z.object({
				time: z.string(),
				quantity: z.string(),
				value: z.string(),
				unit: z.string(),
				instrument: z.string().nullable(),
				flag: z.number(),
			}),
		)
		.optional(),
	by: z.string().describe('the page that entered it'),
});
export type Change = z.output<typeof change>;
