import { z } from 'zod';
import type { Db } from '../pool';
import { idRow, read, time } from '../read';

const signInRow = z.strictObject({
	id: z.number(),
	personId: z.number(),
	name: z.string(),
	owner: z.boolean(),
	shared: z.boolean(),
	/** The site that a shared device stands at; null of one that was put up before there were several. */
	standsAt: z.number().nullable(),
	measuresId: z.number().nullable(),
	measuresName: z.string().nullable(),
	measuresAt: time.nullable(),
	seenAt: time,
	expiresAt: time,
});
export type SignInRow = z.output<typeof signInRow>;

/** The sign-in that a token belongs to; null where it has ended, or its time is over, or its person is gone. */
export async function signInByToken(db: Db, sha256: Buffer): Promise<SignInRow | null> {
	const rows = await read(
		db,
		signInRow,
		`SELECT s.id, s.person_id AS "personId", p.name, p.owner, s.shared, s.stands_at AS "standsAt", m.id AS "measuresId", m.name AS "measuresName", s.measures_at AS "measuresAt",
			s.seen_at AS "seenAt", s.expires_at AS "expiresAt"
		FROM sign_in s JOIN person p ON p.id = s.person_id LEFT JOIN person m ON m.id = s.measures_id AND m.ended_at IS NULL
		WHERE s.token_sha256 = $1 AND s.ended_at IS NULL AND s.expires_at > now() AND p.ended_at IS NULL`,
		[sha256],
	);
	return rows[0] ?? null;
}

export async function insertSignIn(
	db: Db,
	s: { sha256: Buffer; personId: number; label: string; expiresAt: number },
): Promise<number> {
	const rows = await read(
		db,
		idRow,
		'INSERT INTO sign_in (token_sha256, person_id, label, expires_at) VALUES ($1, $2, $3, $4) RETURNING id',
		[s.sha256, s.personId, s.label, new Date(s.expiresAt)],
	);
	return rows[0]!.id;
}

/** Seen just now: it lasts from now on again. */
export async function touchSignIn(db: Db, id: number, expiresAt: number): Promise<void> {
	await db.query('UPDATE sign_in SET seen_at = now(), expires_at = $2 WHERE id = $1', [id, new Date(expiresAt)]);
}

export async function shareSignIn(
	db: Db,
	id: number,
	{ label, standsAt, expiresAt }: { label: string; standsAt: number | null; expiresAt: number },
): Promise<void> {
	await db.query(
		'UPDATE sign_in SET shared = true, label = $2, measures_id = NULL, measures_at = NULL, expires_at = $3, stands_at = $4 WHERE id = $1',
		[id, label, new Date(expiresAt), standsAt],
	);
}

/** Who measures with a shared device from now on; null: nobody. */
export async function setMeasures(db: Db, id: number, personId: number | null): Promise<void> {
	await db.query(
		'UPDATE sign_in SET measures_id = $2, measures_at = CASE WHEN $2::bigint IS NULL THEN NULL ELSE now() END WHERE id = $1',
		[id, personId],
	);
}

const listed = z.strictObject({
	id: z.number(),
	personId: z.number(),
	person: z.string(),
	shared: z.boolean(),
	label: z.string(),
	madeAt: time,
	seenAt: time,
});
/** Sign-ins that last: of one person, or of everybody with a role at a site. */
export const listSignIns = (db: Db, siteId: number | null, personId: number | null) =>
	read(
		db,
		listed,
		`SELECT s.id, s.person_id AS "personId", p.name AS person, s.shared, s.label, s.made_at AS "madeAt", s.seen_at AS "seenAt"
		FROM sign_in s JOIN person p ON p.id = s.person_id
		WHERE s.ended_at IS NULL AND s.expires_at > now() AND ($2::bigint IS NULL OR s.person_id = $2)
			AND (p.owner OR $2::bigint IS NOT NULL OR EXISTS (SELECT 1 FROM membership m WHERE m.person_id = p.id AND m.site_id = $1))
		ORDER BY s.seen_at DESC LIMIT 500`,
		[siteId, personId],
	);

export async function endSignIn(db: Db, id: number): Promise<void> {
	await db.query('UPDATE sign_in SET ended_at = coalesce(ended_at, now()) WHERE id = $1', [id]);
}

/** Ends every sign-in of somebody but one: their passphrase is another now. */
export async function endOtherSignIns(db: Db, personId: number, but: number): Promise<void> {
	await db.query(
		'UPDATE sign_in SET ended_at = now() WHERE person_id = $1 AND id <> $2 AND NOT shared AND ended_at IS NULL',
		[personId, but],
	);
}

/** Wrong tries since a time, and the oldest of them. */
export async function wrongTries(
	db: Db,
	subject: string,
	since: number,
): Promise<{ count: number; oldest: number | null }> {
	const rows = await read(
		db,
		z.strictObject({ count: z.number(), oldest: time.nullable() }),
		'SELECT count(*)::int AS count, min(at) AS oldest FROM wrong_try WHERE subject = $1 AND at > $2',
		[subject, new Date(since)],
	);
	return rows[0]!;
}

export async function insertWrongTry(db: Db, subject: string): Promise<void> {
	await db.query(`DELETE FROM wrong_try WHERE at < now() - interval '1 day'`);
	await db.query('INSERT INTO wrong_try (subject) VALUES ($1)', [subject]);
}

export async function forgetWrongTries(db: Db, subject: string): Promise<void> {
	await db.query('DELETE FROM wrong_try WHERE subject = $1', [subject]);
}
