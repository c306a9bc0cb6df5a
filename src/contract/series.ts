import { z } from 'zod';
import { instant, quantityText } from './fields';
import { resource } from './operation';

const point = z.object({
	at: z.number(),
	value: z.number(),
	low: z.number(),
	high: z.number(),
	u: z.number(),
	count: z.number(),
	flag: z.number(),
	decision: z.string().nullable(),
	id: z.number().nullable(),
	message: z.string(),
	instrument: z.string().nullable(),
	was: z.number().nullable(),
});

export const series = resource('Records', {
	'GET /stations/:code/series': {
		summary: 'One station and quantity over time, at most about 2,000 points with their extremes kept',
		query: z.strictObject({
			quantity: quantityText,
			from: instant,
			to: instant,
			points: z.coerce.number<string | number>().int().min(10).max(2000).optional(),
		}),
		answer: z.object({ points: z.array(point) }),
		problems: ['no-such-station'],
	},
});
