import { z } from 'zod';
import { code, growingPh, instant, litres, name, notNegative, ph, positive } from './fields';
import { resource } from './operation';
import { wire } from './wire';

/** Advice on a dose. */
const advice = wire(
	{
		do: z.enum(['dose', 'wait', 'nothing', 'refuse', 'titrate']),
		code: z.string().describe('what decided it'),
		message: z.string().describe('the same in words, and what else is to be known'),
		wait_minutes: z.number().optional().describe('before the pH is read: after this dose, or still where it says wait'),
		ph: z.number(),
		ph_time: instant.nullable(),
		volume_l: z.number(),
		strength_meq_per_ml: z.number().nullable(),
		meq_per_l: z.number().optional(),
		ml: z.number().optional(),
		ml_to_target: z.number().optional(),
		predicted_ph: z.number().optional().describe('when it is measured after the wait'),
		low_ph: z.number().optional(),
		high_ph: z.number().optional(),
		part: z.number().optional().describe('share of the whole way'),
		alkalinity_left_meq_l: wire({ value: z.number(), low: z.number(), high: z.number() }, { value: 'meqL' }).optional(),
		rebound: z
			.array(
				wire(
					{
						time: instant,
						when: z.enum(['hour', 'evening', 'day']),
						ph: z.number(),
						low_ph: z.number(),
						high_ph: z.number(),
					},
					{ time: 'at' },
				),
			)
			.optional()
			.describe('where the pH goes by itself after this dose, as carbon dioxide leaves'),
		rebound_ends: z.string().optional().describe('what ends it'),
		changed_factor: z.number().nullable().describe('the last dose moved the pH so many times as far as expected'),
		past: z.array(
			wire(
				{
					time: instant,
					ml: z.number(),
					ph_before: z.number(),
					ph_after: z.number(),
					reading_before: z.number().int().nullable().describe('ID of the reading; null of a jug'),
					reading_after: z.number().int().nullable(),
					answered: z.enum(['as expected', 'stronger', 'weaker', 'wrong way']),
					other_water: z.boolean(),
					jug: z.boolean(),
					litres: z.number(),
				},
				{ time: 'at', reading_before: 'idBefore', reading_after: 'idAfter' },
			),
		),
		same_start: wire({ time: instant, ml: z.number(), ph_after: z.number() }, { time: 'at' }).nullable(),
		curve: z.array(
			wire(
				{ ml_per_l: z.number(), ph: z.number(), low_ph: z.number(), high_ph: z.number() },
				{ low_ph: 'low', high_ph: 'high' },
			),
		),
	},
	{
		ph_time: 'phAt',
		strength_meq_per_ml: 'strengthMeqMl',
		meq_per_l: 'meqL',
		low_ph: 'low',
		high_ph: 'high',
		alkalinity_left_meq_l: 'alkalinityLeft',
		changed_factor: 'changed',
	},
);
export type Advice = z.input<typeof advice>;
export type AdviceShown = z.output<typeof advice>;

export const doses = resource('Mix', {
	'POST /mix/dose': {
		storesNothing: true,
		summary:
			'The next dose of acid or base for a tank, by what earlier ones did, with the pH it leads to and what follows',
		body: wire(
			{
				station: code,
				product: name,
				target_ph: growingPh,
				ph: ph.nullable().default(null).describe('read just now; the newest reading unless given'),
				volume_l: litres.nullable().default(null).describe('of the tank unless given'),
				leave_in_range: z
					.boolean()
					.default(false)
					.describe('nothing is advised while the pH is in the station’s range'),
				time: instant.optional().describe('as of then, by what was written until then; now unless given'),
			},
			{ time: 'at' },
		),
		answer: advice,
		problems: ['unknown-station', 'unknown-product', 'not-a-ph-product', 'no-volume', 'no-reading'],
	},
	'POST /mix/jug': {
		summary: 'A jug titration: the strength of a product from drops against pH in some litres',
		body: z.strictObject({
			product: name,
			station: code
				.nullable()
				.default(null)
				.describe('the tank whose solution is in the jug: its steps teach as doses do'),
			litres: positive.max(20, 'a jug, not a tank'),
			steps: z
				.array(z.strictObject({ ml: notNegative.max(1000), ph }))
				.min(2, 'the pH before, and at least one step')
				.max(200),
		}),
		answer: wire(
			{ strength_meq_per_ml: z.number(), buffer_meq_per_l_ph: z.number() },
			{ strength_meq_per_ml: 'strengthMeqMl', buffer_meq_per_l_ph: 'bufferMeqLPh' },
		),
		problems: ['unknown-product', 'unknown-station', 'cannot-be-computed', 'not-a-ph-product'],
	},
});
