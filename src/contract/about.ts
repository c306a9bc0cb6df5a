import { z } from 'zod';
import { resource } from './operation';

export const about = resource('About', {
	'GET /health': {
		summary: 'Answers only when the database answers; with `deep=1` also what waits to be done',
		query: z.strictObject({ deep: z.enum(['0', '1']).optional() }),
		answer: z.object({
			status: z.literal('ok'),
			version: z.string(),
			engine: z.number(),
			waiting: z.record(z.string(), z.number()).optional().describe('how much waits, by what it is'),
		}),
	},
	'GET /openapi.json': {
		summary: 'This document',
		answer: z.record(z.string(), z.unknown()),
	},
});
