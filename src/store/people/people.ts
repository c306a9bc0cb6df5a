import { z } from 'zod';
import type { Db } from '../pool';
import { idRow, read, time } from '../read';

const ROLE = z.enum(['visitor', 'helper', 'grower']);

/** Whether anybody can sign in: before that, or after an archive was brought back, whoever sits at the machine is the grower. */
export async function anybodyNamed(db: Db): Promise<boolean> {
	const rows = await read(
		db,
		z.strictObject({ named: z.boolean() }),
		`SELECT EXISTS (SELECT 1 FROM person p WHERE p.ended_at IS NULL AND (p.passphrase IS NOT NULL OR EXISTS (SELECT 1 FROM passkey k WHERE k.person_id = p.id))) AS named`,
	);
	return rows[0]!.named;
}

const personRow = z.strictObject({
	id: z.number(),
	name: z.string(),
	passphrase: z.string().nullable(),
	pin: z.string().nullable(),
	owner: z.boolean(),
	ended: z.boolean(),
});
export type PersonRow = z.output<typeof personRow>;
const PERSON = 'id, name, passphrase, pin, owner, ended_at IS NOT NULL AS ended FROM person';

export async function personByName(db: Db, name: string): Promise<PersonRow | null> {
	const rows = await read(db, personRow, `SELECT ${PERSON} WHERE lower(name) = lower($1)`, [name]);
	return rows[0] ?? null;
}

export async function personById(db: Db, id: number): Promise<PersonRow | null> {
	const rows = await read(db, personRow, `SELECT ${PERSON} WHERE id = $1`, [id]);
	return rows[0] ?? null;
}

/** @returns null where the name is taken */
export async function insertPerson(
	db: Db,
	p: { name: string; passphrase: string | null; pin: string | null; owner: boolean },
): Promise<number | null> {
	const rows = await read(
		db,
		idRow,
		'INSERT INTO person (name, passphrase, pin, owner) VALUES ($1, $2, $3, $4) ON CONFLICT (lower(name)) DO NOTHING RETURNING id',
		[p.name, p.passphrase, p.pin, p.owner],
	);
	return rows[0]?.id ?? null;
}

/** Names the first person, whom an archive may know already. @returns null where somebody can sign in already */
export async function insertOwner(db: Db, name: string, passphrase: string): Promise<number | null> {
	// Two who ask at once: one of them is the first.
	await db.query('LOCK TABLE person IN SHARE ROW EXCLUSIVE MODE');
	if (await anybodyNamed(db)) return null;
	const rows = await read(
		db,
		idRow,
		`INSERT INTO person (name, passphrase, owner) VALUES ($1, $2, true)
		ON CONFLICT (lower(name)) DO UPDATE SET passphrase = EXCLUDED.passphrase, owner = true, ended_at = NULL RETURNING id`,
		[name, passphrase],
	);
	return rows[0]!.id;
}

export async function setSecrets(
	db: Db,
	id: number,
	{ passphrase, pin }: { passphrase?: string | undefined; pin?: string | null | undefined },
): Promise<void> {
	await db.query(
		'UPDATE person SET passphrase = coalesce($2, passphrase), pin = CASE WHEN $3::boolean THEN $4 ELSE pin END WHERE id = $1',
		[id, passphrase ?? null, pin !== undefined, pin ?? null],
	);
}

export async function setEnded(db: Db, id: number, ended: boolean): Promise<void> {
	await db.query(
		'UPDATE person SET ended_at = CASE WHEN $2::boolean THEN coalesce(ended_at, now()) END WHERE id = $1',
		[id, ended],
	);
	if (ended) await db.query('UPDATE sign_in SET ended_at = now() WHERE person_id = $1 AND ended_at IS NULL', [id]);
}

/** Keeps others from changing roles until the end of the transaction. */
export async function lockRoles(db: Db): Promise<void> {
	await db.query('LOCK TABLE membership IN SHARE ROW EXCLUSIVE MODE');
}

/** @returns whether somebody had a role there */
export async function endMembership(db: Db, siteId: number, personId: number): Promise<boolean> {
	const { rowCount } = await db.query('DELETE FROM membership WHERE site_id = $1 AND person_id = $2', [
		siteId,
		personId,
	]);
	return rowCount === 1;
}

export async function putMembership(db: Db, siteId: number, personId: number, role: string): Promise<void> {
	await db.query(
		'INSERT INTO membership (site_id, person_id, role) VALUES ($1, $2, $3) ON CONFLICT (site_id, person_id) DO UPDATE SET role = EXCLUDED.role',
		[siteId, personId, role],
	);
}

/** What somebody may do at a site; null: nothing. */
export async function roleAt(db: Db, siteId: number | null, personId: number) {
	const rows = await read(
		db,
		z.strictObject({ role: ROLE.nullable() }),
		`SELECT CASE WHEN p.ended_at IS NOT NULL THEN NULL WHEN p.owner THEN 'grower' ELSE m.role END AS role
		FROM person p LEFT JOIN membership m ON m.person_id = p.id AND m.site_id = $1 WHERE p.id = $2`,
		[siteId, personId],
	);
	return rows[0]?.role ?? null;
}

const siteOf = z.strictObject({ id: z.number(), name: z.string(), role: ROLE });
/** What somebody may do at each site, in a statement: $1 is the person; null: whoever sits at a machine where nobody was named. */
const SITES_OF = `SELECT s.id, s.name, CASE WHEN $1::bigint IS NULL OR p.owner THEN 'grower' ELSE m.role END AS role
	FROM site s LEFT JOIN person p ON p.id = $1 LEFT JOIN membership m ON m.site_id = s.id AND m.person_id = p.id
	WHERE s.closed_at IS NULL AND ($1::bigint IS NULL OR (p.ended_at IS NULL AND (p.owner OR m.role IS NOT NULL)))`;

/** Every site that somebody may come to, by its name. */
export const sitesOf = (db: Db, personId: number | null) =>
	read(db, siteOf, `${SITES_OF} ORDER BY lower(s.name), s.id`, [personId]);

/** The site that somebody comes to: the one they want where they may, otherwise the first; null where there is none for them. */
export async function siteFor(db: Db, personId: number | null, wanted: number | null) {
	const rows = await read(db, siteOf, `${SITES_OF} ORDER BY s.id = $2 DESC NULLS LAST, s.id LIMIT 1`, [
		personId,
		wanted,
	]);
	return rows[0] ?? null;
}

const listed = z.strictObject({
	id: z.number(),
	name: z.string(),
	role: ROLE,
	hasPin: z.boolean(),
	owner: z.boolean(),
	passkeys: z.number(),
	ended: z.boolean(),
	madeAt: time,
	seenAt: time.nullable(),
});
/** Everybody with a role at a site, and the owner. */
export const listPeople = (db: Db, siteId: number) =>
	read(
		db,
		listed,
		`SELECT p.id, p.name, CASE WHEN p.owner THEN 'grower' ELSE m.role END AS role, p.pin IS NOT NULL AS "hasPin", p.owner,
			(SELECT count(*)::int FROM passkey k WHERE k.person_id = p.id) AS passkeys, p.ended_at IS NOT NULL AS ended, p.made_at AS "madeAt",
			(SELECT max(seen_at) FROM sign_in s WHERE s.person_id = p.id) AS "seenAt"
		FROM person p LEFT JOIN membership m ON m.person_id = p.id AND m.site_id = $1
		WHERE p.owner OR m.role IS NOT NULL ORDER BY p.ended_at IS NOT NULL, lower(p.name)`,
		[siteId],
	);

/** Who can say by a PIN that they measure at a site. */
export const peopleWithPins = (db: Db, siteId: number) =>
	read(
		db,
		z.strictObject({ id: z.number(), name: z.string() }),
		`SELECT p.id, p.name FROM person p LEFT JOIN membership m ON m.person_id = p.id AND m.site_id = $1
		WHERE p.pin IS NOT NULL AND p.ended_at IS NULL AND (p.owner OR m.role IN ('helper', 'grower')) ORDER BY lower(p.name)`,
		[siteId],
	);

export async function insertJoinCode(
	db: Db,
	c: { sha256: Buffer; siteId: number; role: string; madeBy: number; expiresAt: number },
): Promise<void> {
	await db.query(
		'INSERT INTO join_code (code_sha256, site_id, role, made_by, expires_at) VALUES ($1, $2, $3, $4, $5)',
		[c.sha256, c.siteId, c.role, c.madeBy, new Date(c.expiresAt)],
	);
}

/** Uses a code up. @returns what it is for; null where there is none, or it was used, or its time is over */
export async function spendJoinCode(db: Db, sha256: Buffer) {
	const rows = await read(
		db,
		z.strictObject({ siteId: z.number(), role: ROLE }),
		'UPDATE join_code SET used_at = now() WHERE code_sha256 = $1 AND used_at IS NULL AND expires_at > now() RETURNING site_id AS "siteId", role',
		[sha256],
	);
	return rows[0] ?? null;
}
