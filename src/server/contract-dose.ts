import { z } from 'zod';

/** Advice on a dose as it goes over the wire. */
export const doseAnswer = z.object({
	do: z.enum(['dose', 'wait', 'nothing', 'refuse', 'titrate']),
	code: z.string().describe('what decided it'),
	message: z.string().describe('the same in words, and what else is to be known'),
	wait_minutes: z.number().optional().describe('before the pH is read: after this dose, or still where it says wait'),
	ph: z.number(),
	ph_time: z.string().nullable(),
	volume_l: z.number(),
	strength_meq_per_ml: z.number().nullable(),
	meq_per_l: z.number().optional(),
	ml: z.number().optional(),
	ml_to_target: z.number().optional(),
	predicted_ph: z.number().optional().describe('when it is measured after the wait'),
	low_ph: z.number().optional(),
	high_ph: z.number().optional(),
	part: z.number().optional().describe('share of the whole way'),
	alkalinity_left_meq_l: z.object({ value: z.number(), low: z.number(), high: z.number() }).optional(),
	rebound: z
		.array(
			z.object({
				time: z.string(),
				when: z.enum(['hour', 'evening', 'day']),
				ph: z.number(),
				low_ph: z.number(),
				high_ph: z.number(),
			}),
		)
		.optional()
		.describe('where the pH goes by itself after this dose, as carbon dioxide leaves'),
	rebound_ends: z.string().optional().describe('what ends it'),
	changed_factor: z.number().nullable().describe('the last dose moved the pH so many times as far as expected'),
	past: z.array(
		z.object({
			time: z.string(),
			ml: z.number(),
			ph_before: z.number(),
			ph_after: z.number(),
			answered: z.enum(['as expected', 'stronger', 'weaker', 'wrong way']),
			other_water: z.boolean(),
			jug: z.boolean(),
			litres: z.number(),
		}),
	),
	same_start: z.object({ time: z.string(), ml: z.number(), ph_after: z.number() }).nullable(),
	curve: z.array(z.object({ ml_per_l: z.number(), ph: z.number(), low_ph: z.number(), high_ph: z.number() })),
});
export type DoseAnswer = z.output<typeof doseAnswer>;
