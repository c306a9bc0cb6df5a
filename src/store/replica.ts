import { z } from 'zod';
import type { Db } from './pool';
import { read } from './read';

/** How far a copy is behind the database that it follows, s; nothing where it has all that it was sent, or follows none. */
export async function secondsBehind(db: Db): Promise<number> {
	const rows = await read(
		db,
		z.strictObject({ behind: z.number() }),
		`SELECT CASE WHEN NOT pg_is_in_recovery() OR pg_last_wal_receive_lsn() = pg_last_wal_replay_lsn() THEN 0
			ELSE coalesce(extract(epoch FROM now() - pg_last_xact_replay_timestamp()), 1e9) END::float8 AS behind`,
	);
	return rows[0]!.behind;
}
