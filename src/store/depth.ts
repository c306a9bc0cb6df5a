import { z } from 'zod';
import type { Db } from './pool';
import { read } from './read';

/** How much waits to be done, by what it is. */
export async function waitingWork(db: Db): Promise<Record<string, number>> {
	const rows = await read(
		db,
		z.strictObject({ judging: z.number(), streams: z.number(), messages: z.number(), dead: z.number() }),
		`SELECT (SELECT count(*)::int FROM judging WHERE due_from IS NOT NULL) AS judging, (SELECT count(*)::int FROM stream_due) AS streams,
			(SELECT count(*)::int FROM watch_delivery WHERE state = 'waiting') AS messages, (SELECT count(*)::int FROM watch_delivery WHERE state = 'dead') AS dead`,
	);
	return rows[0]!;
}
