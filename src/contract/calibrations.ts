import { z } from 'zod';
import {
	byId,
	code,
	csv,
	day,
	done,
	finite,
	flag,
	instant,
	made,
	name,
	note,
	notNegative,
	phOrEc,
	positive,
	shortText,
	tempC,
} from './fields';
import { resource } from './operation';
import { wire } from './wire';

const quantity = phOrEc;
export const grade = z.enum(['good', 'watch', 'fail']);

const pointFound = wire({
	standard: z.string(),
	lot: z.string(),
	nominal: z.number(),
	as_found: z.number().nullable(),
	as_left: z.number().nullable(),
	mv: z.number().nullable(),
});
export const calibrationShape = {
	id: z.number(),
	time: instant,
	kind: z.enum(['check', 'adjust']),
	temp_c: z.number().nullable(),
	settle_s: z.number().nullable(),
	doubts: z.array(z.string()),
	withdrawn: z.boolean(),
	points: z.array(pointFound),
};
const evaluated = wire({
	offset: z.number(),
	offset_mv: z.number().nullable(),
	slope_pct: z.number().nullable(),
	cell_factor: z.number().nullable(),
	verdict: grade,
	reasons: z.array(z.object({ code: z.string(), grade, message: z.string() })),
});

export const lot = wire({
	id: z.number(),
	name: z.string(),
	standard: z.string(),
	own_table: z.array(z.tuple([z.number(), z.number()])).nullable(),
	tolerance: z.number().nullable(),
	opened: z.string().nullable(),
	expires: z.string().nullable(),
	single_use: z.boolean(),
	retired: z.boolean(),
});
export type Lot = z.input<typeof lot>;

const ofOneProbe = z.strictObject({
	instrument: z.string().optional(),
	quantity: quantity.optional(),
	format: csv.optional(),
});

export const calibrations = resource('Probes', {
	'GET /calibrations': {
		summary: 'Calibrations, oldest first; text/csv by Accept',
		query: ofOneProbe,
		answer: z.object({
			calibrations: z.array(
				wire({ ...calibrationShape, instrument: z.string(), quantity, note: z.string() }, { time: 'at' }),
			),
		}),
		alsoAnswers: ['text/csv'],
	},
	'POST /calibrations': {
		summary: 'Store a calibration; the readings before it are restated',
		body: wire(
			{
				instrument: code,
				quantity,
				time: instant.optional().describe('now unless given'),
				kind: z.enum(['check', 'adjust']),
				temp_c: tempC.nullable().default(null),
				settle_s: notNegative.nullable().default(null),
				note: note.default(''),
				accept_doubts: z.boolean().default(false).describe('the doubts were seen, and it is meant'),
				points: z
					.array(
						wire({
							standard: shortText,
							lot: shortText.default(''),
							nominal: finite.nullable().default(null).describe('empty: the standard’s value at temp_c'),
							as_found: finite.nullable().default(null),
							as_left: finite.nullable().default(null),
							mv: finite.nullable().default(null),
						}),
					)
					.min(1, 'give at least one standard')
					.max(5),
			},
			{ time: 'at' },
		),
		query: z.strictObject({ dry_run: flag.optional(), background: flag.optional() }),
		answer: wire({
			id: z.number().nullable().describe('null with dry_run=1'),
			result: evaluated,
			doubts: z.array(z.string()),
			points: z.array(pointFound),
			restated: z.number(),
			rejected: z.number(),
			provisional: z.boolean(),
		}),
		status: 201,
		background: true,
		problems: [
			'bad-calibration',
			'no-answer',
			'nothing-shown',
			'no-points',
			'same-minute',
			'same-standard-twice',
			'wrong-standard',
			'wrong-way',
		],
	},
	'POST /calibrations/:id/withdrawal': {
		summary: 'Withdraw a calibration, or take the withdrawal back; readings are worked out anew',
		params: byId,
		body: z.strictObject({ withdrawn: z.boolean(), reason: note.default('') }),
		query: z.strictObject({ background: flag.optional() }),
		answer: done,
		background: true,
		problems: ['no-such-id', 'no-such-calibration'],
	},
	'GET /restatements': {
		summary: 'Originals beside their restated values as CSV, with the calibrations behind them',
		query: ofOneProbe,
		alsoAnswers: ['text/csv'],
	},
	'GET /lots': { summary: 'Bottles of buffers and standards', answer: z.object({ lots: z.array(lot) }) },
	'POST /lots': {
		summary: 'Add a bottle, or change the one with this name',
		body: wire({
			name,
			standard: shortText,
			own_table: z
				.array(z.tuple([tempC, positive]))
				.min(1)
				.max(40)
				.nullable()
				.default(null),
			tolerance: notNegative.nullable().default(null),
			opened: day.nullable().default(null),
			expires: day.nullable().default(null),
			single_use: z.boolean().default(false),
			retired: z.boolean().default(false).describe('lists forget it; calibrations made with it keep it'),
		}),
		answer: made,
		status: 201,
		problems: ['unknown-standard'],
	},
});
