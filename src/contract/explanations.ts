import { z } from 'zod';
import { CAUSES, EVIDENCE } from '@/core/explain/explain';
import { code, csv, instant, phOrEc } from './fields';
import { resource } from './operation';
import { wire } from './wire';

const uncertain = z.object({ value: z.number(), u: z.number().describe('standard uncertainty') });
const explanation = wire({
	quantity: phOrEc,
	says: z
		.enum(['explained', 'cannot-tell', 'steady', 'unknown'])
		.describe('cannot-tell: more than one cause would do; unknown: too few readings'),
	way: z.enum(['up', 'down']).nullable(),
	moved: uncertain
		.nullable()
		.describe('what there is to explain, without what doses were meant to do; pH, or ln of EC'),
	days: z.number(),
	readings: z.number(),
	doubtful: z.number().describe('readings of that time that wait in Review: look at these first'),
	causes: z
		.array(
			z.object({
				cause: z.enum(CAUSES),
				chance: z.number().describe('0 to 1, among the causes named here and what nobody thought of'),
				moved: uncertain.describe('what it would have moved'),
				evidence: z.array(
					z.object({
						says: z.enum(EVIDENCE),
						value: z.number(),
						weight: z.number().describe('ln of how much likelier it makes the cause; below 0 it speaks against it'),
					}),
				),
			}),
		)
		.describe('likeliest first'),
});
export type ExplanationShown = z.input<typeof explanation>;

export const explanations = resource('Records', {
	'GET /explanations': {
		summary:
			'What would explain that pH or EC of a station wanders, ranked, with what speaks for and against each; text/csv by Accept',
		query: z.strictObject({
			station: code,
			from: instant.optional().describe('28 days before the end unless given; no more than 56 are looked at'),
			to: instant.optional(),
			format: csv.optional(),
		}),
		answer: z.object({ station: z.string(), explanations: z.array(explanation) }),
		alsoAnswers: ['text/csv'],
		problems: ['unknown-station'],
	},
});
