import { z } from 'zod';
import { WATCH_KINDS } from '@/core/watch/condition';
import { byId, code, done, instant, made, note, positive, quantity, shortText } from './fields';
import { resource } from './operation';
import { wire } from './wire';

const minutes = positive.max(100_000, 'at most 100,000 minutes');
const condition = wire({
	id: z.number(),
	station: z.string(),
	kind: z.enum(WATCH_KINDS),
	quantity: quantity.nullable(),
	minutes: z.number().nullable(),
	hours: z.number().nullable(),
	least: z.number().nullable().describe('mm of a level, litres of a volume'),
	by_mail: z.boolean(),
	by_webhook: z.boolean(),
	off: z.boolean(),
	words: z.string(),
});
export type Condition = z.input<typeof condition>;

const alert = wire(
	{
		id: z.number(),
		station: z.string(),
		kind: z.enum(WATCH_KINDS),
		quantity: quantity.nullable(),
		since: instant,
		noticed_at: instant,
		ended_at: instant.nullable(),
		value: z.number().nullable(),
		limit: z.number().nullable(),
		expected_at: instant.nullable().describe('when a limit is expected to be reached'),
		told_at: instant.nullable().describe('null while quiet hours or a snooze hold it back'),
		snoozed_until: instant.nullable(),
		snooze_reason: z.string(),
		seen_at: instant.nullable(),
		words: z.string(),
		ended_words: z.string().nullable(),
	},
	{},
);
export type Alert = z.input<typeof alert>;

const minuteOfDay = z.number().int().min(0).max(1439);
const quiet = z
	.strictObject({ from: minuteOfDay, to: minuteOfDay })
	.describe('minutes of the day, by the clock of the site');
const mail = z.strictObject({
	host: z
		.string()
		.trim()
		.min(1, 'the name of your mail server')
		.max(200)
		.regex(/^[\w.:-]+$/, 'a name or an address, without a path'),
	port: z.number().int().min(1).max(65_535),
	secure: z
		.boolean()
		.describe('TLS from the first byte (usually port 465); otherwise TLS is begun where the server offers it'),
	user: z.string().max(200),
	password: z.string().max(500),
	from: z.email('an address, as yard@example.org'),
	to: z.email('an address, as grower@example.org'),
});
const webhook = z.strictObject({
	url: z.url({ protocol: /^https?$/, error: 'an address that begins with https:// or http://' }).max(1000),
	secret: z.string().max(200).describe('what messages are signed with (docs/sensors.md)'),
});
const settings = wire({ quiet: quiet.nullish(), mail: mail.nullish(), webhook: webhook.nullish() });
export type WatchSettings = z.input<typeof settings>;

export const watch = resource('Sensors', {
	'GET /watch': {
		summary: 'What is watched for, what goes on or went on, and how it is told; passwords are not told',
		answer: wire({
			conditions: z.array(condition),
			alerts: z.array(alert),
			unseen: z.number(),
			failed: z.array(
				wire({
					id: z.number(),
					says: z.enum(['begun', 'ended']),
					way: z.enum(['mail', 'webhook']),
					state: z.enum(['waiting', 'sent', 'dead']),
					tries: z.number(),
					problem: z.string(),
					made_at: instant,
					sent_at: instant.nullable(),
				}),
			),
			settings: wire({ quiet: quiet.nullable(), mail: mail.nullable(), webhook: webhook.nullable() }),
		}),
	},
	'POST /watch/conditions': {
		summary: 'Watch for something at a station',
		body: wire({
			station: code,
			kind: z.enum(WATCH_KINDS),
			quantity: quantity.exclude(['tds']).nullish(),
			minutes: minutes.nullish(),
			hours: positive.max(720, 'at most 30 days').nullish(),
			least: positive.max(1e7).nullish(),
			by_mail: z.boolean().optional(),
			by_webhook: z.boolean().optional(),
		}),
		answer: made,
		status: 201,
		problems: ['unknown-station', 'no-range'],
	},
	'POST /watch/conditions/:id/off': {
		summary: 'Watch for it no more, or again',
		params: byId,
		body: z.strictObject({ off: z.boolean() }),
		answer: done,
		problems: ['no-such-id'],
	},
	'PUT /watch/settings': {
		summary: 'Quiet hours, mail server and webhook; what is left out is none',
		body: settings,
		answer: done,
	},
	'POST /watch/alerts/:id/snooze': {
		summary: 'Tell no more of an alert for some minutes, with a reason; 0 tells again',
		params: byId,
		body: wire({ minutes: z.number().min(0).max(43_200, 'at most 30 days'), reason: note.default('') }),
		answer: done,
		problems: ['no-such-id', 'reason-needed'],
	},
	'POST /watch/seen': { summary: 'Everything that was told has been seen', answer: done },
	'GET /mailbox': {
		summary: 'What was sent to the mailbox that stands in for a mail server; empty where there is none',
		answer: wire({
			open: z.boolean(),
			mails: z.array(
				wire({
					id: z.number(),
					received_at: instant,
					sender: z.string(),
					recipient: z.string(),
					subject: shortText,
					body: z.string(),
				}),
			),
		}),
	},
});
