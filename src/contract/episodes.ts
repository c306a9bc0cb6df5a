import { z } from 'zod';
import { byId, instant, note, quantity } from './fields';
import { resource } from './operation';
import { storedReading } from './readings';
import { wire } from './wire';

/** Doubtful readings of one series and cause that follow each other. */
const episode = wire({
	station: z.string(),
	instrument: z.string().nullable(),
	quantity,
	cause: z.string(),
	flag: z.number(),
	from: instant,
	to: instant,
	readings: z.number(),
	newest: z.number().describe('its newest reading: what a decision about the episode names'),
	reading: storedReading.describe('that reading'),
});
export type Episode = z.input<typeof episode>;
const score = z.object({ cause: z.string(), decided: z.number(), right: z.number() });
/** How often a person agreed with the doubts of one cause. */
export type Score = z.input<typeof score>;
export const review = wire({ episodes: z.array(episode), scores: z.array(score) });

export const episodes = resource('Records', {
	'GET /episodes': {
		summary:
			'What waits for a decision, an episode each with its newest reading, the worst first, at most a hundred; and how often each check was right',
		answer: review,
	},
	'POST /episodes/:id/decision': {
		summary: 'Keep or discard all readings of an episode, up to the one named; what came since is left',
		params: byId,
		body: z.strictObject({ kind: z.enum(['keep', 'discard']), reason: note.default('') }),
		answer: z.object({ decided: z.number() }),
		problems: ['no-such-id', 'decided-meanwhile', 'reason-needed'],
	},
});
