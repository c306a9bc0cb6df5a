import { z } from 'zod';
import { resource } from './operation';

export const about = resource('About', {
	'GET /health': {
		summary: 'Answers only when the database answers',
		answer: z.object({ status: z.literal('ok'), version: z.string(), engine: z.number() }),
	},
	'GET /openapi.json': {
		summary: 'This document',
		answer: z.record(z.string(), z.unknown()),
	},
});
