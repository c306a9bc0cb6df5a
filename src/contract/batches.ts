import { z } from 'zod';
import { BATCH_STEPS } from '@/core/mix/batch-course';
import { pouring } from './events';
import { byId, code, ecUsCm, finite, growingPh, instant, litres, made, name, notNegative, positive } from './fields';
import { resource } from './operation';
import { enteredReading, readingHere } from './readings';
import { wire } from './wire';

const unit = z.enum(['mL', 'g']);
/** Plans of before a field was known lack it; nothing in them is refused any more. */
const plan = wire({
	litres: z.number(),
	water: z.string().nullable(),
	water_ec_us_cm: z.number(),
	pours: z.array(
		wire({
			product: z.string(),
			bottle: z.string(),
			per_l: z.number(),
			unit,
			wait_min: z.number(),
			scales: z.boolean(),
		}),
	),
	target_ec_us_cm: z.number().nullable(),
	ec_range_us_cm: z.tuple([z.number(), z.number()]).nullish(),
	expected_ec_us_cm: z.number().nullish(),
	target_ph: z.number().nullable(),
	recipe: z.string().nullish(),
	strength: z.number().nullish(),
	ph_first: z.boolean().optional(),
});
const step = wire(
	{
		time: instant,
		step: z.enum(BATCH_STEPS),
		expected: z.number().nullable(),
		measured: z.number().nullable(),
		words: z.string(),
		amount: z.number().nullable(),
		flag: z.number().nullable(),
		doubt: z.string().nullable(),
		reading_id: z.number().nullable(),
	},
	{ time: 'at' },
);
export const storedBatch = wire({
	id: z.number(),
	station: z.string(),
	started_at: instant,
	finished_at: instant.nullable(),
	name: z.string(),
	plan,
	log: z.array(step),
});
export type StoredBatch = z.input<typeof storedBatch>;
export type BatchPlan = z.input<typeof plan>;
export type BatchStep = z.input<typeof step>;

export const batches = resource('Mix', {
	'GET /batches': {
		summary: 'Batches with their plans and what each step showed, newest first',
		answer: z.object({ batches: z.array(storedBatch) }),
	},
	'POST /batches': {
		summary: 'Begin a batch; refused when it would overflow the tank',
		body: z.strictObject({
			station: code,
			name: z.string().max(200).default(''),
			event: pouring.nullable().default(null).describe('the filling, logged together with the batch'),
			plan: wire({
				litres,
				water: code.nullable(),
				water_ec_us_cm: ecUsCm,
				pours: z
					.array(
						wire({
							product: name,
							bottle: z
								.string()
								.regex(/^[A-F]?$/, 'a letter, A to F')
								.default(''),
							per_l: notNegative
								.max(100, 'at most 100 mL for each litre: litres written for millilitres?')
								.describe('grams where the product is a powder'),
							unit: unit.default('mL'),
							wait_min: z.number().int().min(0).max(240).default(0).describe('to stir and wait before the next'),
							scales: z.boolean().default(true).describe('is given more of where EC comes out too low'),
						}),
					)
					.min(1, 'name at least one product')
					.max(40)
					.describe('what is poured, one after the other'),
				target_ec_us_cm: ecUsCm.nullable(),
				ec_range_us_cm: z
					.tuple([ecUsCm, ecUsCm])
					.nullable()
					.default(null)
					.describe('where EC may be, where there is no target'),
				expected_ec_us_cm: ecUsCm.nullable().default(null),
				target_ph: growingPh.nullable(),
				recipe: z.string().max(200).nullable().default(null),
				strength: positive.max(3).nullable().default(null),
				ph_first: z.boolean().default(false),
			}),
		}),
		answer: made,
		status: 201,
		problems: ['bad-time', 'unknown-station', 'unknown-product', 'unknown-unit', 'not-a-feed', 'overflow'],
	},
	'POST /batches/:id/steps': {
		summary: 'What was done or read in a step of a batch, with what was poured in it; done ends it',
		params: byId,
		body: wire(
			{
				step: z.enum(BATCH_STEPS),
				follows: z
					.number()
					.int()
					.min(0)
					.describe(
						'how many steps had been kept when this one was made: one that was made meanwhile is not made again',
					),
				expected: finite.nullable().default(null),
				words: z.string().max(500),
				amount: notNegative.max(1e9).nullable().default(null).describe('poured, mL or g'),
				reading: readingHere
					.nullable()
					.default(null)
					.describe('what an EC or pH step showed, as it was typed; where it is doubted it is kept and the step waits'),
				reading_id: z
					.number()
					.int()
					.positive()
					.nullable()
					.default(null)
					.describe('instead: a reading of this tank that is kept already; a doubtful one is stood by with it'),
				events: z.array(pouring).max(40).default([]).describe('what was poured, logged together with the step'),
				time: instant.optional().describe('when it was done; now where nobody says'),
			},
			{ time: 'at' },
		),
		answer: z.object({
			step: step.nullable().describe('as it is kept; null where its reading is doubted: read again, or stand by it'),
			reading: enteredReading.nullable().describe('what the checks say of what was typed'),
		}),
		problems: [
			'no-such-id',
			'no-open-batch',
			'step-done',
			'out-of-order',
			'nothing-entered',
			'bad-reading',
			'no-such-reading',
			'already-corrected',
			'decided-meanwhile',
			'bad-time',
			'unknown-unit',
		],
	},
});
