import { z } from 'zod';
import { EVENT_KINDS } from '@/core/reading/model';
import { code, done, finite, instant, notNegative, ph, tempC } from './fields';
import { resource } from './operation';
import { wire } from './wire';

const water = wire({
	ph: ph.optional(),
	ec_us_cm: notNegative.max(200_000).optional(),
	temp_c: tempC.optional(),
});

/** What somebody entered, for the other pages that are open. */
const change = wire(
	{
		seq: z.number().describe('counts up from the start of the server'),
		kind: z.enum(['readings', 'decision', 'event', 'round', 'sensors', 'watch']),
		station: z.string().nullable(),
		what: z.enum(EVENT_KINDS).optional().describe('of an event that is new: what was done'),
		time: instant.optional().describe('of an event that is new: when'),
		readings: z
			.array(
				wire(
					{
						time: instant,
						quantity: z.string(),
						value: z.string(),
						unit: z.string(),
						instrument: z.string().nullable(),
						flag: z.number(),
					},
					{ time: 'at' },
				),
			)
			.optional(),
		by: z.string().describe('the page that entered it'),
	},
	{ time: 'at' },
);
export type Change = z.input<typeof change>;
export type ChangeMade = z.output<typeof change>;

export const meters = resource('Live', {
	'GET /changes': {
		summary: 'What anybody entered after a change that was seen; without `after`, only the number to go on from',
		query: z.strictObject({ after: z.coerce.number<string | number>().int().optional() }),
		answer: z.object({ last: z.number(), changes: z.array(change) }),
	},
	'GET /meters/:code/stream': {
		summary: 'What a live meter shows, several times a second, as server-sent events',
		alsoAnswers: ['text/event-stream'],
		problems: ['no-live-meter'],
	},
	'POST /meters/:code/act': {
		storesNothing: true,
		summary: 'Rinse, dip, swirl, lift or store a simulated meter, or set its compensation and speed',
		body: z.discriminatedUnion('do', [
			z.strictObject({ do: z.enum(['rinse', 'swirl', 'store', 'lift']) }),
			z.strictObject({ do: z.literal('dip'), station: code, water: water.optional() }),
			z.strictObject({
				do: z.literal('set'),
				compensates: z.boolean().optional(),
				speed: finite.min(1).max(60).optional(),
			}),
		]),
		answer: done,
		problems: ['no-live-meter', 'real-meter', 'unknown-station'],
	},
});
