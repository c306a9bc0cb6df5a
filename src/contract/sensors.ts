import { z } from 'zod';
import { byId, code, done, finite, instant, name, note, phOrEc, quantity } from './fields';
import { resource } from './operation';
import { wire } from './wire';

const told = wire({
	quantity,
	instrument: z.string(),
	newest_at: instant.nullable(),
	usual_s: z.number().describe('seconds between two; 0 while unknown'),
});
const node = wire({
	code,
	name,
	station: z.string(),
	instrument: z.string().describe('what its samples are of where they name no probe'),
	quantities: z.array(quantity),
	keep_days: z.number().nullable().describe('samples go after so many days, rollups stay; null: all is kept'),
	token_made_at: instant.nullable().describe('null: it has no token, or its token was revoked'),
	heard_at: instant.nullable(),
	retired: z.boolean(),
	series: z.array(told).describe('what it has told so far'),
});
export type SensorNode = z.input<typeof node>;

const episode = wire({
	id: z.number(),
	station: z.string(),
	instrument: z.string(),
	node: z.string(),
	quantity,
	cause: z.string(),
	flag: z.number(),
	since: instant,
	until: instant,
	samples: z.number(),
	goes_on: z.boolean().describe('the newest sample of its series is one of it'),
	decision: z.string().nullable(),
	least: z.number().nullable(),
	greatest: z.number().nullable(),
});
export type SensorEpisode = z.input<typeof episode>;

const KEEP_DAYS_MOST = 36_500;

export const sensors = resource('Sensors', {
	'GET /nodes': { summary: 'Sensor nodes, and what each has told', answer: z.object({ nodes: z.array(node) }) },
	'POST /nodes': {
		summary: 'Make a node, or change the one with this code; it begins without a token',
		body: wire({
			code,
			name: name.optional(),
			station: code,
			quantities: z.array(quantity).max(30).optional().describe('what it is going to tell; it may tell more'),
			keep_days: finite
				.int('whole days')
				.min(1, 'at least a day')
				.max(KEEP_DAYS_MOST, 'at most a hundred years')
				.nullish(),
			retired: z.boolean().optional(),
		}),
		answer: node,
		status: 201,
		problems: ['unknown-station'],
	},
	'POST /nodes/:code/token': {
		summary: 'A new token for a node, shown this once; one that it had before is revoked',
		answer: z.object({ token: z.string() }),
		storesNothing: true,
		problems: ['no-such-node'],
	},
	'DELETE /nodes/:code/token': {
		summary: 'Revokes the token of a node',
		answer: done,
		storesNothing: true,
		problems: ['no-such-node'],
	},
	'POST /ingest': {
		summary:
			'What a node has measured, with its bearer token: JSON {"samples":[{"at","probe","quantity","value","unit"}]} or the readings CSV, gzip allowed; at most 10,000 samples, all or nothing. The same probe, quantity and time again is a duplicate and changes nothing. Answers once it is stored',
		rawBody: ['application/json', 'text/csv'],
		storesNothing: true,
		status: 202,
		answer: z.object({
			accepted: z.number(),
			duplicates: z.number(),
			flagged: z.record(z.string(), z.number()).describe('how many were found suspect (3) and bad (4)'),
		}),
		problems: [
			'unknown-token',
			'too-often',
			'bad-samples',
			'probe-of-another',
			'too-many-samples',
			'not-text',
			'wrong-header',
		],
	},
	'GET /sensors/episodes': {
		summary: 'Doubtful stretches of sensors that nobody decided about, the newest first, at most a hundred',
		answer: z.object({ episodes: z.array(episode) }),
	},
	'GET /sensors/apart': {
		summary:
			'Sensors of pH or EC in one water that came apart in the last two weeks, and which of them hand readings speak against',
		answer: z.object({
			apart: z.array(
				wire({
					station: z.string(),
					quantity: phOrEc,
					first: z.string(),
					second: z.string(),
					since: instant,
					by: z.number().describe('how much more the first shows: pH, or share of EC'),
					comparisons: z.number(),
					off: z.string().nullable().describe('the one that hands speak against; null where nobody knows'),
				}),
			),
		}),
	},
	'POST /sensors/episodes/:id/decision': {
		summary:
			'Keep or discard a doubtful stretch as it was seen, or undo what was decided about it; what came since is left',
		params: byId,
		body: z.strictObject({
			kind: z.enum(['keep', 'discard', 'undo']),
			until: instant.describe('the end of the stretch as it was seen'),
			reason: note.default(''),
		}),
		answer: done,
		problems: ['no-such-id', 'no-such-episode', 'reason-needed'],
	},
});
