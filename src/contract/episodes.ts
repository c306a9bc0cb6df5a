import { z } from 'zod';
import { byId, instant, note, quantity } from './fields';
import { resource } from './operation';

/** Doubtful readings of one series and cause that follow each other. */
export const episode = z.object({
	station: z.string(),
	instrument: z.string().nullable(),
	quantity,
	cause: z.string(),
	flag: z.number(),
	from: instant,
	to: instant,
	readings: z.number(),
	newest: z.number().describe('its newest reading: what a decision about the episode names'),
});
export type Episode = z.input<typeof episode>;

export const episodes = resource('Records', {
	'GET /episodes': {
		summary:
			'What waits for a decision, one for each series, cause and stretch of time; the worst first, at most a hundred',
		answer: z.object({ episodes: z.array(episode) }),
	},
	'POST /episodes/:id/decision': {
		summary: 'Keep or discard all readings of an episode, up to the one named; what came since is left',
		params: byId,
		body: z.strictObject({ kind: z.enum(['keep', 'discard']), reason: note.default('') }),
		answer: z.object({ decided: z.number() }),
		problems: ['no-such-id', 'decided-meanwhile', 'reason-needed'],
	},
});
