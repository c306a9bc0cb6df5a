import { z } from 'zod';
import { bounded, code, csv, instant, quantity, quantityText } from './fields';
import { resource } from './operation';
import { wire } from './wire';

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

const trend = wire({
	quantity,
	says: z.enum(['rising', 'falling', 'steady', 'unknown']),
	per_day: bounded.nullable().describe('in the canonical unit, with the bounds that hold it in 95 of 100 cases'),
	p: z.number().nullable().describe('how likely chance alone does as much'),
	readings: z.number(),
	spans: z.number().describe('stretches between events, within which values are compared'),
	from: instant.nullable(),
	to: instant.nullable(),
	reaches: z
		.array(z.object({ limit: z.number(), from: instant, middle: instant, to: instant }))
		.describe('when an end of the station’s range is reached if nothing is done: nine times in ten within the window'),
	pace: z
		.object({ since: instant, before: z.number(), after: z.number(), p: z.number() })
		.nullable()
		.describe('another pace since some day, per day (Pettitt 1979)'),
});
export type TrendFound = z.input<typeof trend>;

export const series = resource('Records', {
	'GET /trends': {
		summary:
			'What each quantity of a station does between events: Theil–Sen slope and Mann–Kendall test on believed values; text/csv by Accept',
		query: z.strictObject({
			station: code,
			from: instant.optional().describe('56 days ago unless given'),
			to: instant.optional(),
			format: csv.optional(),
		}),
		answer: z.object({ trends: z.array(trend) }),
		alsoAnswers: ['text/csv'],
		problems: ['unknown-station'],
	},
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
