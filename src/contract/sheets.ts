import { z } from 'zod';
import { code, done, instant, name, quantity, shortText } from './fields';
import { XLSX } from './files';
import { resource } from './operation';
import { wire } from './wire';

const use = z.union([
	z.strictObject({ as: z.enum(['ignore', 'time', 'date', 'clock', 'station', 'instrument', 'note']) }),
	z.strictObject({ as: z.literal('quantity'), quantity, unit: z.string().min(1).max(20) }),
]);
const mapping = wire({
	lines_before: z.number().int().min(0).max(50).describe('lines before the one that names the columns'),
	columns: z
		.array(z.strictObject({ name: z.string().max(200), use }))
		.min(1)
		.max(200),
	date_order: z.enum(['ymd', 'dmy', 'mdy']),
	station: z.union([code, z.literal('')]).describe('where no column says it'),
	instrument: shortText,
	clock: z.string().regex(/^$|^\d{2}:\d{2}$/, 'as 07:30'),
});

export const sheets = resource('Files', {
	'POST /sheets/look': {
		summary: 'What a spreadsheet holds, and a first guess at what its columns mean; nothing is stored',
		rawBody: ['text/csv', XLSX],
		storesNothing: true,
		answer: z.object({
			rows: z.array(z.array(z.string())).describe('the first of them'),
			guess: mapping,
			orders: z
				.array(z.enum(['ymd', 'dmy', 'mdy']))
				.describe('by which its dates are dates; of two somebody has to say'),
		}),
		problems: ['no-file', 'not-text'],
	},
	'GET /mappings': {
		summary: 'What the columns of the grower’s own spreadsheets mean, as it was said once',
		answer: z.object({ mappings: z.array(z.object({ name: z.string(), mapping })) }),
	},
	'POST /mappings': {
		summary: 'Keeps what the columns of a spreadsheet mean, under a name',
		body: z.object({ name, mapping }),
		answer: done,
	},
	'GET /imports': {
		summary: 'Files of readings that were brought in, the newest first',
		answer: z.object({
			imports: z.array(
				wire({
					key: z.string(),
					at: instant,
					who: z.string(),
					readings: z.number(),
					from: instant,
					to: instant,
					standing: z.number().describe('how many of them were not taken back'),
				}),
			),
		}),
	},
	'POST /imports/:key/undo': {
		summary: 'Takes a file of readings back as a whole; nothing is deleted',
		answer: z.object({ undone: z.number() }),
		problems: ['no-such-import'],
	},
});
