import { z } from 'zod';
import { EVENT_KINDS } from '@/core/reading/model';
import { byId, code, csv, done, instant, made, note, notNegative, shortText } from './fields';
import { resource } from './operation';
import { wire } from './wire';

const kind = z.enum(EVENT_KINDS);
const eventShape = {
	id: z.number(),
	time: instant,
	station: z.string(),
	kind,
	amount: z.number().nullable(),
	unit: z.string(),
	product: z.string(),
	note: z.string(),
};
const renamed = { time: 'at', unit: 'unitText' } as const;
export const storedEvent = wire(eventShape, renamed);
export type StoredEvent = z.input<typeof storedEvent>;

const keptEvent = wire(
	{
		...eventShape,
		superseded: z.boolean().describe('another stands in its place'),
		withdrawn: z.boolean().describe('taken back'),
		entered_at: instant,
		entered_by: z.string(),
	},
	renamed,
);

const unit = z.string().max(20);
/** What was poured, logged together with a step of a batch. */
export const pouring = wire(
	{
		time: instant.optional().describe('now unless given'),
		kind,
		amount: notNegative,
		unit,
		product: shortText.default(''),
		note: note.default(''),
	},
	renamed,
);
export type Pouring = z.output<typeof pouring>;

export const events = resource('Records', {
	'GET /events': {
		summary: 'Events as they stand, oldest first unless asked otherwise; text/csv by Accept',
		query: z.strictObject({
			from: instant.optional(),
			to: instant.optional(),
			station: z.string().optional(),
			kind: kind.optional(),
			order: z.enum(['oldest', 'newest']).optional(),
			format: csv.optional(),
			limit: z.coerce.number<string | number>().int().min(1).max(5000).optional(),
		}),
		answer: z.object({ events: z.array(storedEvent) }),
		alsoAnswers: ['text/csv'],
	},
	'POST /events': {
		summary: 'Log something done to the water',
		body: wire(
			{
				time: instant.optional().describe('now unless given'),
				station: code,
				kind,
				amount: notNegative.nullable().default(null),
				unit: unit.default(''),
				product: shortText.default(''),
				note: note.default(''),
			},
			renamed,
		),
		answer: made,
		status: 201,
		problems: ['bad-time', 'unknown-station', 'unknown-unit'],
	},
	'GET /events/:id/history': {
		summary: 'An event with all that it corrects or that corrects it, as they were entered',
		params: byId,
		answer: z.object({ events: z.array(keptEvent) }),
		problems: ['no-such-id', 'no-such-event'],
	},
	'POST /events/:id/correction': {
		summary:
			'Correct an event: a new one that supersedes it, with what is not given as it was; what hung on either is judged anew',
		params: byId,
		body: wire(
			{
				time: instant.optional(),
				station: code.optional(),
				kind: kind.optional(),
				amount: notNegative.nullish(),
				unit: unit.optional(),
				product: shortText.optional(),
				note: note.optional(),
				reason: note.default(''),
			},
			renamed,
		),
		answer: made,
		status: 201,
		problems: [
			'no-such-id',
			'no-such-event',
			'already-corrected',
			'withdrawn',
			'bad-time',
			'unknown-station',
			'unknown-unit',
		],
	},
	'POST /events/:id/withdrawal': {
		summary: 'Take an event back, or put it back; it stays in the record, and what hung on it is judged anew',
		params: byId,
		body: z.strictObject({ withdrawn: z.boolean(), reason: note.default('') }),
		answer: done,
		problems: ['no-such-id', 'no-such-event', 'already-corrected'],
	},
});
