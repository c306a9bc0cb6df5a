import { z } from 'zod';
import { type Client, type Db, isPool, patiently, transaction } from './pool';
import { read } from './read';

/** Names the lock of a site's writers among others of the database. */
const LOCK = 7_401;

/** Whose request a transaction answers: what it stores names them. */
export interface Caller {
	/** Of the request, and of the device it comes from: UUIDs. */
	key: string | null;
	device: string | null;
}
const NOBODY: Caller = { key: null, device: null };

/**
 * Waits for whoever writes at this site and keeps others waiting until the end of the transaction: each finds what the one before
 * has left. @returns the site, null before there is one
 */
export async function lockSite(client: Client, by: Caller = NOBODY): Promise<number | null> {
	const rows = await read(
		client,
		// The lock and the settings it also asks for have no values of interest.
		z.object({ id: z.number().nullable() }),
		// An import of many years may be before us.
		patiently(
			`WITH here AS (SELECT (SELECT id FROM site WHERE id = site_here()) AS id)
			SELECT id, pg_advisory_xact_lock($1, coalesce(id, 0)), set_config('cordwain.key', $2, true), set_config('cordwain.device', $3, true) FROM here`,
			[LOCK, by.key ?? '', by.device ?? ''],
		),
	);
	return rows[0]!.id;
}

/**
 * Runs what changes a site in one transaction, one at a time. Inside a transaction that has waited for its turn already it is a
 * part of that one.
 */
export const writing = <T>(db: Db, work: (client: Client) => Promise<T>): Promise<T> =>
	transaction(db, async (client) => {
		if (isPool(db)) await lockSite(client);
		return work(client);
	});

/** What was answered to a request, and to which. */
const answered = z.strictObject({
	operation: z.string(),
	fingerprint: z.string(),
	status: z.number(),
	answer: z.string(),
});
export type Answered = z.output<typeof answered>;

/** @param siteId null: whatever site it was kept with */
export async function findAnswered(client: Client, siteId: number | null, key: string): Promise<Answered | null> {
	const rows = await read(
		client,
		answered,
		'SELECT operation, fingerprint, status, answer FROM answered WHERE ($1::integer IS NULL OR site_id = $1) AND key = $2',
		[siteId, key],
	);
	return rows[0] ?? null;
}

/** Keeps the answer with what the transaction stored, for the site that it works for by now: it may just have been made. */
export async function keepAnswered(client: Client, key: string, a: Answered): Promise<void> {
	await client.query(
		`INSERT INTO answered (site_id, key, operation, fingerprint, status, answer)
		SELECT site_here(), $1, $2, $3, $4, $5 WHERE site_here() IS NOT NULL`,
		[key, a.operation, a.fingerprint, a.status, a.answer],
	);
}
