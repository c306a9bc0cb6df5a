import { z } from 'zod';
import { NUTRIENTS } from '@/core/crop/availability';
import { LEAF_CAUSES, LEAF_EVIDENCE, LEAVES, SIGNS, type Sign } from '@/core/crop/leaf';
import { EVENT_KINDS } from '@/core/reading/model';
import { code, instant } from './fields';
import { resource } from './operation';
import { wire } from './wire';

const isSign = (s: string): s is Sign => (SIGNS as readonly string[]).includes(s);
const signs = z.codec(z.string(), z.array(z.enum(SIGNS)), {
	decode: (text, context) => {
		const named = [...new Set(text.split(',').map((s) => s.trim()))].filter((s) => s !== '');
		if (named.length > 0 && named.every(isSign)) return named;
		context.issues.push({
			code: 'custom',
			input: text,
			message: `one or more of ${SIGNS.join(', ')}, with commas between`,
		});
		return z.NEVER;
	},
	encode: (list) => list.join(','),
});

export const leafAnswer = wire({
	system: z.string(),
	from: instant.describe('what is read and done is looked at since then'),
	ph: wire({
		station: z.string(),
		readings: z.number(),
		newest: z.number(),
		newest_time: instant,
		low: z.number(),
		high: z.number(),
		median: z.number(),
		range: z.tuple([z.number(), z.number()]),
		above_share: z.number().describe('of the readings, more than 0.3 above the range'),
		below_share: z.number(),
	})
		.nullable()
		.describe('where the roots are: of the drain, else of the feed or tank'),
	scarce: z.array(z.enum(NUTRIENTS)).describe('what the middle of these pH makes scarce'),
	ec: wire({
		station: z.string(),
		median_us_cm: z.number(),
		range: z.tuple([z.number(), z.number()]).nullable(),
	}).nullable(),
	drain: wire({ above_us_cm: z.number(), act_us_cm: z.number() }).nullable(),
	temp_c: z.number().nullable(),
	oxygen_mg_l: z.number().nullable(),
	sodium_mmol_l: z.number().nullable(),
	changes: z
		.array(
			z.object({
				id: z.number(),
				time: instant,
				station: z.string(),
				kind: z.enum(EVENT_KINDS),
				amount: z.number().nullable(),
				unit: z.string(),
				product: z.string(),
				note: z.string(),
			}),
		)
		.describe('what was done meanwhile, newest first'),
	findings: z
		.array(
			z.object({
				cause: z.enum(LEAF_CAUSES),
				chance: z.number(),
				evidence: z.array(z.object({ says: z.enum(LEAF_EVIDENCE), value: z.number(), weight: z.number() })),
			}),
		)
		.describe('likeliest first; never a disease'),
});
export type LeafShown = z.input<typeof leafAnswer>;

export const leaf = resource('Root zone', {
	'GET /leaf': {
		summary:
			'From what is seen on plants of a system to what may be behind it, with what the book knows; no diagnosis of disease',
		query: z.strictObject({
			system: code,
			leaves: z.enum(LEAVES).describe('which showed it first'),
			signs: signs.describe(`${SIGNS.join(', ')}, with commas between`),
		}),
		answer: leafAnswer,
		problems: ['unknown-system'],
	},
});
