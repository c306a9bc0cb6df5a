import { z } from 'zod';
import { attachment } from './attachments';
import { storedBatch } from './batches';
import { storedEvent } from './events';
import { instant, quantity } from './fields';
import { resource } from './operation';
import { storedReading } from './readings';
import { wire } from './wire';

const readRow = wire(
	{
		station: z.string(),
		quantity,
		taken: z.number(),
		counted: z.number().describe('without what is not believed'),
		least: z.number().nullable(),
		greatest: z.number().nullable(),
		mean: z.number().nullable(),
		in_range: z.number().nullable().describe('of those that count; null where there is no range'),
		restated: z.number(),
		newest: instant,
	},
	{ newest: 'newestAt' },
);
const decidedRow = wire(
	{
		id: z.number(),
		time: instant,
		who: z.string(),
		kind: z.string().describe('a decision, or corrected'),
		reason: z.string(),
		station: z.string(),
		quantity,
		value: z.string(),
		unit: z.string(),
		taken: instant,
	},
	{ time: 'at', value: 'digits', unit: 'unitText', taken: 'takenAt' },
);
const calibrated = wire(
	{
		id: z.number(),
		time: instant,
		instrument: z.string(),
		quantity: z.enum(['ph', 'ec']),
		kind: z.enum(['check', 'adjust']),
		points: z.array(wire({ nominal: z.number(), as_found: z.number().nullable(), as_left: z.number().nullable() })),
	},
	{ time: 'at' },
);
export const weekAnswer = wire({
	day: z.string().describe('its first day'),
	from: instant,
	to: instant,
	read: z.array(readRow),
	events: z.array(storedEvent),
	batches: z.array(storedBatch).describe('those that were begun in it, with what each step showed'),
	attached: z.array(attachment).describe('photos and files that were added in it'),
	decided: z.array(decidedRow),
	calibrations: z.array(calibrated),
	open: z.array(storedReading).describe('doubts of the week that wait for a decision'),
	open_in_all: z.number(),
});
export type Week = z.input<typeof weekAnswer>;

export const week = resource('Records', {
	'GET /week': {
		summary:
			'A week of the book: what was read, done, calibrated and decided, and what is open; the last seven days unless given',
		query: z.strictObject({ from: z.string().max(10).optional().describe('its first day, as 2026-07-06') }),
		answer: weekAnswer,
		problems: ['bad-time'],
	},
});
