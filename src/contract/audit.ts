import { z } from 'zod';
import { instant, shortText } from './fields';
import { resource } from './operation';
import { wire } from './wire';

const change = wire({
	id: z.number(),
	at: instant,
	who: z.string(),
	device: z.string().nullable().describe('names the browser it came from; null: a script, or nobody kept one'),
	what: z.string().describe('as station.saved'),
	subject: z.string(),
	detail: z.record(z.string(), z.unknown()).describe('as it was kept'),
	before: z.record(z.string(), z.unknown()).nullable().describe('what was kept of the same thing before'),
});
export type ChangeLine = z.input<typeof change>;

export const audit = resource('Records', {
	'GET /audit': {
		summary: 'Who did what: every change, the newest first; who entered a reading or an event stands with it',
		query: z.strictObject({
			who: shortText.optional(),
			text: shortText.optional().describe('anywhere in what was done'),
			from: instant.optional(),
			to: instant.optional(),
			before: z.coerce.number<string | number>().int().optional().describe('goes on after the last of an answer'),
			limit: z.coerce.number<string | number>().int().min(1).max(500).optional(),
		}),
		answer: z.object({ changes: z.array(change) }),
	},
});
