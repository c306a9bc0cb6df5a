import { z } from 'zod';
import { QUANTITIES } from '@/core/quantity';
import { RESOLUTIONS } from '@/core/series/rollup';
import { bounded, code, csv, instant, quantity } from './fields';
import { resource } from './operation';
import { wire } from './wire';

const point = wire(
	{
		at: instant,
		value: z.number().describe('as it was read; the mean of what is believed where several stand for one'),
		least: z.number(),
		greatest: z.number(),
		count: z.number(),
		worst_flag: z.number(),
		restated: z.number().nullable().describe('what calibrations made of it; null where they changed nothing'),
		u: z.number().describe('standard uncertainty'),
		believed: z.number().describe('the share of its samples that is believed'),
		decision: z.string().nullable(),
		id: z.number().nullable().describe('of a hand reading'),
		instrument: z.string().nullable(),
		message: z.string(),
	},
	{ worst_flag: 'flag' },
);

/** What a chart can show: what is measured, and what is computed from it. */
export const CHARTED = [...QUANTITIES, 'vpd'] as const;
export type Charted = (typeof CHARTED)[number];

const doubt = wire({
	id: z.number(),
	since: instant,
	until: instant,
	cause: z.string(),
	flag: z.number(),
	samples: z.number(),
	decision: z.string().nullable(),
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
		mayLag: true,
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
		mayLag: true,
		summary:
			'One station and quantity over time, at most `points` (2,000) of them with their extremes kept: what a sensor tells, else what hands read; text/csv by Accept',
		query: z.strictObject({
			quantity: z
				.enum(CHARTED)
				.describe('vpd: vapour-pressure deficit in kPa, computed from air_temp and humidity of one probe'),
			of: z.enum(['sensor', 'hands']).optional().describe('a sensor where there is one, unless given'),
			probe: code.optional().describe('of several at one station; else the one heard last'),
			format: csv.optional(),
			from: instant,
			to: instant,
			points: z.coerce.number<string | number>().int().min(10).max(2000).optional(),
		}),
		answer: wire({
			rollup: z.enum(RESOLUTIONS),
			probe: z.string().nullable().describe('null: what hands read'),
			usual_s: z.number().describe('seconds between two samples of the sensor; 0 of hands'),
			points: z.array(point),
			doubts: z.array(doubt).describe('stretches of a sensor that are doubtful'),
		}),
		alsoAnswers: ['text/csv'],
		problems: ['no-such-station'],
	},
});
