import { z } from 'zod';
import { byId, done, instant, made, name } from './fields';
import { resource } from './operation';
import { wire } from './wire';

/** What may be kept beside a reading or an event. */
const ATTACHED_TYPES = ['image/jpeg', 'image/png', 'application/pdf', 'text/plain', 'text/csv'] as const;
export type AttachedType = (typeof ATTACHED_TYPES)[number];

const id = z.coerce.number().int().positive();
export const attachment = wire(
	{
		id: z.number(),
		reading: z.number().nullable(),
		event: z.number().nullable(),
		name: z.string(),
		type: z.string(),
		bytes: z.number(),
		sha256: z.string(),
		entered_by: z.string(),
		entered_at: instant,
	},
	{ reading: 'readingId', event: 'eventId', bytes: 'size' },
);

export const attachments = resource('Files', {
	'GET /attachments': {
		summary:
			'Photos and files beside a reading or an event and what it corrects, or all of them; as a zip with a table by Accept or format',
		query: z.strictObject({ reading: id.optional(), event: id.optional(), format: z.enum(['json', 'zip']).optional() }),
		answer: z.object({ attachments: z.array(attachment) }),
		alsoAnswers: ['application/zip'],
	},
	'POST /attachments': {
		summary: 'Keep a photo or file beside a reading or an event; what a camera wrote into a picture is left out',
		body: z.strictObject({
			reading: z.number().int().positive().nullable().default(null),
			event: z.number().int().positive().nullable().default(null),
			name,
			type: z.enum(ATTACHED_TYPES),
			base64: z.string().max(3_000_000, 'at most 2 MB'),
		}),
		answer: made,
		status: 201,
		problems: ['bad-attachment', 'no-such-reading', 'no-such-event'],
	},
	'GET /attachments/:id/file': {
		summary: 'The file itself',
		params: byId,
		alsoAnswers: ATTACHED_TYPES,
		problems: ['no-such-id', 'no-such-attachment'],
	},
	'DELETE /attachments/:id': {
		summary: 'Take it away: its bytes are gone, that it was there stays in the record',
		params: byId,
		answer: done,
		problems: ['no-such-id', 'no-such-attachment'],
	},
});
