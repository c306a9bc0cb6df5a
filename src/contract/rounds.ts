import { z } from 'zod';
import { RHYTHMS } from '@/core/rhythm/due';
import { byId, code, instant, phOrEc, quantity } from './fields';
import { resource } from './operation';
import { storedReading, verdictShape } from './readings';
import { wire } from './wire';

const round = wire({
	id: z.number(),
	started_at: instant,
	finished_at: instant.nullable(),
	left_out: z.array(z.object({ station: z.string(), reason: z.string() })),
});

/** What Round shows of a reading: a line of two hundred stations carries no more. */
const roundReading = wire(
	{
		id: z.number(),
		quantity,
		canonical_value: z.number(),
		restated: z.number().nullable(),
		uncertainty: z.number().nullable(),
		flag: verdictShape.flag,
		cause: verdictShape.cause,
		decision: z.string().nullable(),
		message: verdictShape.message,
	},
	{ canonical_value: 'value', uncertainty: 'u' },
);
export type RoundReading = z.input<typeof roundReading>;

const told = wire({
	quantity,
	value: z.number().describe('canonical, as it was read'),
	restated: z.number().nullable(),
	at: instant,
	flag: z.number(),
	cause: z.string(),
	decision: z.string().nullable(),
});

const lineStation = wire({
	station: z.string(),
	name: z.string(),
	about: z.string().describe('its crop or its kind, and how much it holds'),
	fed_by: z.array(z.string()),
	ph: roundReading.nullable(),
	ec: roundReading.nullable(),
	told: z.array(told).describe('what its sensors told last of pH and EC, within a day'),
	newest: instant.nullable().describe('of any quantity'),
	due: z.array(quantity),
	overdue_days: z.number(),
	next_in_days: z.number().nullable().describe('until something is due here; null where nothing will be'),
	retest: z.array(z.string()).describe('quantities that want to be taken again'),
});
export type LineStation = z.input<typeof lineStation>;

/** What the page Round shows, and what it asks for again once something was entered. */
export const roundLine = wire({
	round: round.nullable(),
	stations: z.array(lineStation),
	to_decide: z.array(storedReading).describe('up to twelve that wait for a decision, newest first'),
	wants_standard: z.array(wire({ instrument: z.string(), quantity: phOrEc, due_at: instant, reason: z.string() })),
	wants_solution: z
		.array(wire({ instrument: z.string(), quantity: phOrEc, days: z.number() }))
		.describe('caps whose solution wants renewing, and since how many days'),
});

export const rounds = resource('Rounds', {
	'GET /rounds/line': {
		summary: 'The line in the order the water runs: each station with what it last showed, what is due, what waits',
		answer: roundLine,
	},
	'GET /rounds/today': {
		summary: 'The round of the last half day, and what is due along the line now',
		answer: z.object({
			round: round.nullable(),
			stations: z.array(
				z.object({
					station: z.string(),
					due: z.array(z.object({ quantity, rhythm: z.enum(RHYTHMS), due: z.boolean(), days: z.number().nullable() })),
					retests: z.array(wire({ reading_id: z.number(), quantity: z.string() })),
				}),
			),
		}),
	},
	'POST /rounds': {
		summary: 'Begin a round, or go on with the one that is under way',
		answer: round,
		status: 201,
	},
	'POST /rounds/:id/finish': {
		summary: 'Finish a round, with what was left out and why; finishing twice changes nothing',
		params: byId,
		body: wire({
			left_out: z
				.array(z.strictObject({ station: code, reason: z.string().max(500) }))
				.max(500)
				.default([]),
		}),
		answer: round,
		problems: ['no-such-id', 'no-such-round', 'unknown-station'],
	},
});
