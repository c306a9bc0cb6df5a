import { z } from 'zod';
import type { Db } from './pool';
import { idRow, read, time } from './read';

/** Photos and files beside readings and events. */
const attachmentRow = z.strictObject({
	id: z.number(),
	readingId: z.number().nullable(),
	eventId: z.number().nullable(),
	name: z.string(),
	type: z.string(),
	size: z.number(),
	sha256: z.string(),
	enteredBy: z.string(),
	enteredAt: time,
});
export type AttachmentRow = z.output<typeof attachmentRow>;
const ATTACHMENT = `id, reading_id AS "readingId", event_id AS "eventId", name, type, length(bytes) AS size, sha256,
	entered_by AS "enteredBy", entered_at AS "enteredAt"`;

export async function insertAttachment(
	db: Db,
	siteId: number,
	a: {
		readingId: number | null;
		eventId: number | null;
		name: string;
		type: string;
		bytes: Uint8Array;
		sha256: string;
		who: string;
	},
): Promise<number> {
	const rows = await read(
		db,
		idRow,
		`INSERT INTO attachment (site_id, reading_id, event_id, name, type, bytes, sha256, entered_by)
		VALUES ($1,$2,$3,$4,$5,$6,$7,$8) RETURNING id`,
		[siteId, a.readingId, a.eventId, a.name, a.type, Buffer.from(a.bytes), a.sha256, a.who],
	);
	return rows[0]!.id;
}

/** Of a reading or an event and of what it corrects, oldest first; of all where neither is named. */
export function listAttachments(
	db: Db,
	siteId: number,
	of: { readingId?: number | undefined; eventId?: number | undefined; from?: number; to?: number },
): Promise<AttachmentRow[]> {
	const chain = (table: 'reading' | 'event', parameter: string) => `WITH RECURSIVE chain AS (
		SELECT id, supersedes FROM ${table} WHERE site_id = $1 AND id = ${parameter}
		UNION ALL SELECT t.id, t.supersedes FROM ${table} t JOIN chain c ON t.site_id = $1 AND t.id = c.supersedes)`;
	const [before, where, values] =
		of.readingId !== undefined
			? [chain('reading', '$2'), 'AND reading_id IN (SELECT id FROM chain)', [of.readingId]]
			: of.eventId !== undefined
				? [chain('event', '$2'), 'AND event_id IN (SELECT id FROM chain)', [of.eventId]]
				: of.from !== undefined && of.to !== undefined
					? ['', 'AND entered_at >= $2 AND entered_at < $3', [new Date(of.from), new Date(of.to)]]
					: ['', '', []];
	return read(
		db,
		attachmentRow,
		`${before} SELECT ${ATTACHMENT} FROM attachment WHERE site_id = $1 AND removed_at IS NULL ${where} ORDER BY entered_at, id`,
		[siteId, ...values],
	);
}

/** The bytes of one; null where there is none, or it was taken away. */
export async function attachmentBytes(
	db: Db,
	siteId: number,
	id: number,
): Promise<{ name: string; type: string; bytes: Buffer } | null> {
	const rows = await read(
		db,
		z.strictObject({ name: z.string(), type: z.string(), bytes: z.instanceof(Buffer) }),
		'SELECT name, type, bytes FROM attachment WHERE site_id = $1 AND id = $2 AND removed_at IS NULL',
		[siteId, id],
	);
	return rows[0] ?? null;
}

/** Takes its bytes away. False when there is none to take. */
export async function removeAttachment(db: Db, siteId: number, id: number): Promise<boolean> {
	const { rowCount } = await db.query(
		'UPDATE attachment SET bytes = NULL, removed_at = now() WHERE site_id = $1 AND id = $2 AND removed_at IS NULL',
		[siteId, id],
	);
	return rowCount === 1;
}
