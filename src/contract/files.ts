import { z } from 'zod';
import { flag } from './fields';
import { resource } from './operation';
import { wire } from './wire';

const importReport = wire({
	format: z.enum(['readings', 'events', 'calibrations', 'irrigations']),
	dry_run: z.boolean(),
	lines: z.number(),
	good: z.number(),
	bad: z.number(),
	duplicates: z.number(),
	stored: z.number(),
	flagged: z.record(z.string(), z.number()),
	creates: z.object({ stations: z.array(z.string()), instruments: z.array(z.string()) }),
	notes: z.array(z.string()),
	problems: z.array(z.object({ line: z.number(), column: z.string(), message: z.string() })),
	more_problems: z.number(),
});
export type ImportDone = z.output<typeof importReport>;

/** A workbook. */
export const XLSX = 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet';

const job = z.object({
	id: z.string(),
	kind: z.string(),
	state: z.enum(['running', 'done', 'failed', 'stopped']),
	done: z.number(),
	phase: z.string(),
	result: z.unknown().describe('what the operation that began it answers with'),
	message: z.string(),
});

export const files = resource('Files', {
	'POST /import': {
		summary: 'Take in a CSV of readings or events; the header says which',
		query: wire({
			dry_run: flag.optional(),
			keep_good: flag.optional(),
			background: flag.optional(),
			mapping: z
				.string()
				.max(200)
				.optional()
				.describe('a spreadsheet, CSV or .xlsx, read by what is kept under this name (POST /mappings)'),
		}),
		rawBody: ['text/csv', XLSX],
		answer: importReport,
		background: true,
		problems: ['no-file', 'not-text', 'wrong-header', 'bad-lines', 'no-such-mapping'],
	},
	'GET /judging': {
		summary:
			'Whether readings wait to be judged again after something was learned of the past, and the job that does it',
		answer: z.object({
			waits: z.boolean(),
			job: z.string().nullable().describe('to be followed at /jobs/{id}; null where none runs'),
		}),
	},
	'GET /jobs/:id': {
		summary: 'How far long work has come, and its result',
		answer: job,
		problems: ['no-such-job'],
	},
	'DELETE /jobs/:id': {
		summary:
			'Give long work up: nothing of it is stored. Answers once it has stopped; work that has ended, or goes on in parts, stays as it is',
		answer: job,
		storesNothing: true,
		problems: ['no-such-job'],
	},
});
