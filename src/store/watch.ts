import { z } from 'zod';
import { QUANTITIES, type SeriesQuantity } from '@/core/quantity';
import { WATCH_KINDS } from '@/core/watch/condition';
import type { Client, Db } from './pool';
import { idRow, json, read, time, timeOrEnd } from './read';

/** Names the lock of whoever watches among others of the database. */
const LOCK = 7_403;
/** Waits until nobody else watches, and keeps others waiting until the end of the transaction. */
export const watchAlone = (client: Client): Promise<unknown> =>
	client.query('SELECT pg_advisory_xact_lock($1)', [LOCK]);

const conditionRow = z.strictObject({
	id: z.number(),
	station: z.string(),
	stationId: z.number(),
	kind: z.enum(WATCH_KINDS),
	quantity: z
		.enum(QUANTITIES)
		.transform((q) => q as SeriesQuantity)
		.nullable(),
	minutes: z.number().nullable(),
	hours: z.number().nullable(),
	least: z.number().nullable(),
	byMail: z.boolean(),
	byWebhook: z.boolean(),
	off: z.boolean(),
});
export type ConditionRow = z.output<typeof conditionRow>;

export const listConditions = (db: Db, siteId: number): Promise<ConditionRow[]> =>
	read(
		db,
		conditionRow,
		`SELECT c.id, s.code AS station, c.station_id AS "stationId", c.kind, c.quantity, c.minutes, c.hours, c.least, c.by_mail AS "byMail", c.by_webhook AS "byWebhook",
			c.off_at IS NOT NULL AS off
		FROM watch_condition c JOIN station s ON s.site_id = c.site_id AND s.id = c.station_id WHERE c.site_id = $1 ORDER BY s.position, c.id`,
		[siteId],
	);

export interface NewCondition {
	stationId: number;
	kind: ConditionRow['kind'];
	quantity: string | null;
	minutes: number | null;
	hours: number | null;
	least: number | null;
	byMail: boolean;
	byWebhook: boolean;
}
export async function insertCondition(db: Db, siteId: number, c: NewCondition): Promise<number> {
	const rows = await read(
		db,
		idRow,
		`INSERT INTO watch_condition (site_id, station_id, kind, quantity, minutes, hours, least, by_mail, by_webhook)
		VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9) RETURNING id`,
		[siteId, c.stationId, c.kind, c.quantity, c.minutes, c.hours, c.least, c.byMail, c.byWebhook],
	);
	return rows[0]!.id;
}

/** @returns whether there was one that was not as asked */
export async function switchCondition(db: Db, siteId: number, id: number, off: boolean): Promise<boolean> {
	const done = await db.query(
		'UPDATE watch_condition SET off_at = CASE WHEN $3::boolean THEN coalesce(off_at, now()) END WHERE site_id = $1 AND id = $2',
		[siteId, id, off],
	);
	return (done.rowCount ?? 0) > 0;
}

const alertRow = z.strictObject({
	id: z.number(),
	conditionId: z.number(),
	since: time,
	noticedAt: time,
	endedAt: time.nullable(),
	value: z.number().nullable(),
	limit: z.number().nullable(),
	expectedAt: time.nullable(),
	toldAt: time.nullable(),
	endToldAt: time.nullable(),
	snoozedUntil: time.nullable(),
	snoozeReason: z.string(),
	seenAt: time.nullable(),
});
export type AlertRow = z.output<typeof alertRow>;
const ALERT = `id, condition_id AS "conditionId", since, noticed_at AS "noticedAt", ended_at AS "endedAt", value, limit_value AS "limit", expected_at AS "expectedAt",
	told_at AS "toldAt", end_told_at AS "endToldAt", snoozed_until AS "snoozedUntil", snooze_reason AS "snoozeReason", seen_at AS "seenAt"`;

/** What goes on, and the newest of what is over. */
export const listAlerts = (db: Db, siteId: number, limit: number): Promise<AlertRow[]> =>
	read(
		db,
		alertRow,
		`SELECT ${ALERT} FROM watch_alert WHERE site_id = $1 ORDER BY (ended_at IS NULL) DESC, noticed_at DESC, id DESC LIMIT $2`,
		[siteId, limit],
	);
export async function findAlert(db: Db, siteId: number, id: number): Promise<AlertRow | null> {
	const rows = await read(db, alertRow, `SELECT ${ALERT} FROM watch_alert WHERE site_id = $1 AND id = $2`, [
		siteId,
		id,
	]);
	return rows[0] ?? null;
}
/** What goes on, or has to be told still. */
export const untoldAlerts = (db: Db, siteId: number): Promise<AlertRow[]> =>
	read(
		db,
		alertRow,
		`SELECT ${ALERT} FROM watch_alert WHERE site_id = $1 AND (ended_at IS NULL OR told_at IS NULL OR end_told_at IS NULL) ORDER BY id`,
		[siteId],
	);

export async function insertAlert(
	db: Db,
	siteId: number,
	a: {
		conditionId: number;
		since: number;
		value: number | null;
		limit: number | null;
		expectedAt: number | null;
		now: number;
	},
): Promise<void> {
	await db.query(
		`INSERT INTO watch_alert (site_id, condition_id, since, noticed_at, value, limit_value, expected_at) VALUES ($1, $2, $3, $4, $5, $6, $7)
		ON CONFLICT (site_id, condition_id) WHERE ended_at IS NULL DO NOTHING`,
		[
			siteId,
			a.conditionId,
			timeOrEnd(a.since),
			timeOrEnd(a.now),
			a.value,
			a.limit,
			a.expectedAt === null ? null : timeOrEnd(a.expectedAt),
		],
	);
}
export async function endAlert(db: Db, siteId: number, id: number, now: number): Promise<void> {
	await db.query('UPDATE watch_alert SET ended_at = $3 WHERE site_id = $1 AND id = $2 AND ended_at IS NULL', [
		siteId,
		id,
		timeOrEnd(now),
	]);
}
/** It was told that it has begun, or that it is over; an end nobody heard the beginning of is not told. */
export async function alertTold(
	db: Db,
	siteId: number,
	id: number,
	says: 'begun' | 'ended' | 'neither',
	now: number,
): Promise<void> {
	await db.query(
		`UPDATE watch_alert SET told_at = coalesce(told_at, $4), end_told_at = CASE WHEN $3 IN ('ended', 'neither') THEN coalesce(end_told_at, $4) ELSE end_told_at END
		WHERE site_id = $1 AND id = $2`,
		[siteId, id, says, timeOrEnd(now)],
	);
}
export async function snoozeAlert(
	db: Db,
	siteId: number,
	id: number,
	until: number | null,
	reason: string,
): Promise<void> {
	await db.query('UPDATE watch_alert SET snoozed_until = $3, snooze_reason = $4 WHERE site_id = $1 AND id = $2', [
		siteId,
		id,
		until === null ? null : timeOrEnd(until),
		reason,
	]);
}
export async function markSeen(db: Db, siteId: number, now: number): Promise<void> {
	await db.query('UPDATE watch_alert SET seen_at = $2 WHERE site_id = $1 AND seen_at IS NULL', [
		siteId,
		timeOrEnd(now),
	]);
}

const deliveryRow = z.strictObject({
	id: z.number(),
	alertId: z.number(),
	says: z.enum(['begun', 'ended']),
	way: z.enum(['mail', 'webhook']),
	state: z.enum(['waiting', 'sent', 'dead']),
	tries: z.number(),
	problem: z.string(),
	madeAt: time,
	sentAt: time.nullable(),
});
export type DeliveryRow = z.output<typeof deliveryRow>;
const DELIVERY =
	'id, alert_id AS "alertId", says, way, state, tries, problem, made_at AS "madeAt", sent_at AS "sentAt"';

/** @returns its number; null where there is one already */
export async function insertDelivery(
	db: Db,
	siteId: number,
	d: { alertId: number; says: 'begun' | 'ended'; way: 'mail' | 'webhook' },
): Promise<number | null> {
	const rows = await read(
		db,
		idRow,
		`INSERT INTO watch_delivery (site_id, alert_id, says, way) VALUES ($1, $2, $3, $4) ON CONFLICT (site_id, alert_id, says, way) DO NOTHING RETURNING id`,
		[siteId, d.alertId, d.says, d.way],
	);
	return rows[0]?.id ?? null;
}
export async function findDelivery(db: Db, siteId: number, id: number): Promise<DeliveryRow | null> {
	const rows = await read(db, deliveryRow, `SELECT ${DELIVERY} FROM watch_delivery WHERE site_id = $1 AND id = $2`, [
		siteId,
		id,
	]);
	return rows[0] ?? null;
}
/** Those that did not arrive, the newest first. */
export const failedDeliveries = (db: Db, siteId: number, limit: number): Promise<DeliveryRow[]> =>
	read(
		db,
		deliveryRow,
		`SELECT ${DELIVERY} FROM watch_delivery WHERE site_id = $1 AND (state = 'dead' OR (state = 'waiting' AND tries > 0)) ORDER BY id DESC LIMIT $2`,
		[siteId, limit],
	);
export async function deliveryTried(
	db: Db,
	siteId: number,
	id: number,
	{ state, problem, now }: { state: DeliveryRow['state']; problem: string; now: number },
): Promise<void> {
	await db.query(
		`UPDATE watch_delivery SET state = $3, problem = $4, tries = tries + 1, sent_at = CASE WHEN $3 = 'sent' THEN $5::timestamptz END WHERE site_id = $1 AND id = $2`,
		[siteId, id, state, problem, timeOrEnd(now)],
	);
}

/** A mail server, as the grower names it; `mailbox` is the one that stands in. */
export interface MailSettings {
	host: string;
	port: number;
	secure: boolean;
	user: string;
	password: string;
	from: string;
	to: string;
}
export interface WebhookSettings {
	url: string;
	secret: string;
}
const settingsRow = z.strictObject({
	mail: json<MailSettings>().nullable(),
	webhook: json<WebhookSettings>().nullable(),
	quiet: json<{ from: number; to: number }>().nullable(),
});
export type WatchSettings = z.output<typeof settingsRow>;

export async function watchSettings(db: Db, siteId: number): Promise<WatchSettings> {
	const rows = await read(db, settingsRow, 'SELECT mail, webhook, quiet FROM watch_settings WHERE site_id = $1', [
		siteId,
	]);
	return rows[0] ?? { mail: null, webhook: null, quiet: null };
}
export async function putWatchSettings(db: Db, siteId: number, s: WatchSettings): Promise<void> {
	await db.query(
		`INSERT INTO watch_settings (site_id, mail, webhook, quiet) VALUES ($1, $2, $3, $4)
		ON CONFLICT (site_id) DO UPDATE SET mail = EXCLUDED.mail, webhook = EXCLUDED.webhook, quiet = EXCLUDED.quiet`,
		[siteId, s.mail, s.webhook, s.quiet],
	);
}

const mailRow = z.strictObject({
	id: z.number(),
	receivedAt: time,
	sender: z.string(),
	recipient: z.string(),
	subject: z.string(),
	body: z.string(),
});
export const listStandInMail = (db: Db, limit: number) =>
	read(
		db,
		mailRow,
		'SELECT id, received_at AS "receivedAt", sender, recipient, subject, body FROM stand_in_mail ORDER BY id DESC LIMIT $1',
		[limit],
	);
export async function insertStandInMail(
	db: Db,
	m: { sender: string; recipient: string; subject: string; body: string },
): Promise<void> {
	await db.query('INSERT INTO stand_in_mail (sender, recipient, subject, body) VALUES ($1, $2, $3, $4)', [
		m.sender,
		m.recipient,
		m.subject,
		m.body,
	]);
}
