import { z } from 'zod';
import type { Db } from '../pool';
import { read, time } from '../read';

const row = z.strictObject({
	id: z.number(),
	personId: z.number(),
	credentialId: z.string(),
	publicKey: z.instanceof(Buffer),
	counter: z.number(),
	transports: z.array(z.string()),
	label: z.string(),
	madeAt: time,
	usedAt: time.nullable(),
});
export type PasskeyRow = z.output<typeof row>;
const PASSKEY =
	'id, person_id AS "personId", credential_id AS "credentialId", public_key AS "publicKey", counter, transports, label, made_at AS "madeAt", used_at AS "usedAt" FROM passkey';

export const listPasskeys = (db: Db, personId: number): Promise<PasskeyRow[]> =>
	read(db, row, `SELECT ${PASSKEY} WHERE person_id = $1 ORDER BY id`, [personId]);

export async function passkeyByCredential(db: Db, credentialId: string): Promise<PasskeyRow | null> {
	const rows = await read(db, row, `SELECT ${PASSKEY} WHERE credential_id = $1`, [credentialId]);
	return rows[0] ?? null;
}

export async function insertPasskey(
	db: Db,
	k: Pick<PasskeyRow, 'personId' | 'credentialId' | 'publicKey' | 'counter' | 'transports' | 'label'>,
): Promise<void> {
	await db.query(
		'INSERT INTO passkey (person_id, credential_id, public_key, counter, transports, label) VALUES ($1, $2, $3, $4, $5, $6)',
		[k.personId, k.credentialId, k.publicKey, k.counter, k.transports, k.label],
	);
}

export async function usedPasskey(db: Db, id: number, counter: number): Promise<void> {
	await db.query('UPDATE passkey SET counter = $2, used_at = now() WHERE id = $1', [id, counter]);
}

/** @returns whether it was there and this person's */
export async function deletePasskey(db: Db, personId: number, id: number): Promise<boolean> {
	const { rowCount } = await db.query('DELETE FROM passkey WHERE person_id = $1 AND id = $2', [personId, id]);
	return rowCount === 1;
}

export async function insertChallenge(db: Db, challenge: string, personId: number | null): Promise<void> {
	await db.query(`DELETE FROM passkey_challenge WHERE made_at < now() - interval '10 minutes'`);
	await db.query('INSERT INTO passkey_challenge (challenge, person_id) VALUES ($1, $2)', [challenge, personId]);
}

/** Uses a challenge up. @returns whether it was given to this person (null: to whoever signs in) and is fresh */
export async function spendChallenge(db: Db, challenge: string, personId: number | null): Promise<boolean> {
	const { rowCount } = await db.query(
		`DELETE FROM passkey_challenge WHERE challenge = $1 AND person_id IS NOT DISTINCT FROM $2 AND made_at > now() - interval '5 minutes'`,
		[challenge, personId],
	);
	return rowCount === 1;
}
