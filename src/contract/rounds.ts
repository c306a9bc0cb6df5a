import { z } from 'zod';
import { RHYTHMS } from '@/core/rhythm/due';
import { byId, code, instant, quantity } from './fields';
import { resource } from './operation';
import { wire } from './wire';

const round = wire({
	id: z.number(),
	started_at: instant,
	finished_at: instant.nullable(),
	left_out: z.array(z.object({ station: z.string(), reason: z.string() })),
});

export const rounds = resource('Rounds', {
	'GET /rounds/today': {
		summary: 'The round of the last half day, and what is due along the line now',
		answer: z.object({
			round: round.nullable(),
			stations: z.array(
				z.object({
					station: z.string(),
					due: z.array(z.object({ quantity, rhythm: z.enum(RHYTHMS), due: z.boolean(), days: z.number().nullable() })),
					retests: z.array(wire({ reading_id: z.number(), quantity: z.string() })),
				}),
			),
		}),
	},
	'POST /rounds': {
		summary: 'Begin a round, or go on with the one that is under way',
		answer: round,
		status: 201,
	},
	'POST /rounds/:id/finish': {
		summary: 'Finish a round, with what was left out and why; finishing twice changes nothing',
		params: byId,
		body: wire({
			left_out: z
				.array(z.strictObject({ station: code, reason: z.string().max(500) }))
				.max(500)
				.default([]),
		}),
		answer: round,
		problems: ['no-such-id', 'no-such-round', 'unknown-station'],
	},
});
