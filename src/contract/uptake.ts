import { z } from 'zod';
import { bounded, code, instant, quantity } from './fields';
import { resource } from './operation';
import { wire } from './wire';

const taken = wire({
	drunk_l: z.number(),
	days: z.number(),
	per_day_l: bounded,
	taken: bounded.describe('concentration of what was taken; EC in µS/cm, ions in mg/L'),
	tank: z.number().describe('mean in the tank meanwhile'),
	unknown: z.boolean().describe('the bounds are wider than the tank is strong'),
	says: z.enum(['takes-more', 'takes-less', 'even', 'unknown']).describe('salt against water, as it is in the tank'),
});
export const uptakeAnswer = wire({
	station: z.string(),
	missing: z
		.enum(['volume', 'level', 'ec', 'additions'])
		.nullable()
		.describe('what would have to be known: what it holds, a level or written amounts, its EC, when it was filled'),
	known: z.enum(['level', 'mark']).nullable().describe('litres by the dipstick, or as if filled to the same mark'),
	full_l: z.number().nullable(),
	now: z.object({ litres: z.number(), ec_us_cm: z.number(), time: instant }).nullable(),
	target_us_cm: z.number().nullable(),
	per_plant_l: bounded.nullable().describe('a day'),
	ec: taken.nullable(),
	ions: z.array(z.object({ quantity, taken })),
	stretches: z.array(
		z.object({
			from: instant,
			to: instant,
			drunk_l: z.number(),
			ec_from: z.number(),
			ec_to: z.number(),
			taken: z.number(),
		}),
	),
	next: wire({
		from_days: z.number(),
		to_days: z.number(),
		add_l: z.number(),
		least_l: z.number(),
		then_ec_us_cm: bounded,
		with_ec_us_cm: bounded.describe(
			'of what is added, so that it comes out on target; below nothing no water is weak enough',
		),
		still_us_cm: z.number().nullable().describe('where it comes out with pure water, where that is still too strong'),
	}).nullable(),
});
export type UptakeShown = z.input<typeof uptakeAnswer>;

export const uptake = resource('Root zone', {
	'GET /uptake': {
		summary: 'What the plants of a tank drink and take between additions, and the next top-up that lands on target',
		query: z.strictObject({
			station: code,
			days: z.coerce.number<string | number>().int().min(1).max(1100).optional().describe('28 unless given'),
			least_pct: z.coerce
				.number<string | number>()
				.min(5)
				.max(99)
				.optional()
				.describe('topped up when so much is left; 85'),
		}),
		answer: uptakeAnswer,
		problems: ['unknown-station'],
	},
});
