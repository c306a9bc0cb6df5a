import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { Worker } from 'node:worker_threads';
import { judgeDueStreams } from '@/service/sensors/due';
import { builtServer } from '@/store/built-server';
import { canGuard } from '@/store/guard';
import { settings } from '../../ops/settings.mjs';
import { announce } from './changes';
import { database, databaseOf } from './database';
import { isDatabaseDown } from './database-down';
import type { Given, Said } from './judge-streams';
import { log } from './log';
import { oneAtATime } from './one-at-a-time';

/** The thread's own file. */
const built = builtServer(import.meta.dirname);
const THREAD = built ? join(built, 'judge-streams.mjs') : null;

const judged = (siteId: number) => (station: string) =>
	announce(siteId, { kind: 'sensors', station, by: '', readings: [] });
const failed = (databaseDown: boolean, error: unknown) => {
	if (!databaseDown) log.error({ error }, 'judging streams again');
};

/** Until the thread has ended, however it ends. */
const inThread = (file: string, given: Given): Promise<void> =>
	new Promise((done) => {
		const thread = new Worker(file, { workerData: given });
		thread.on('message', (said: Said) =>
			'station' in said ? judged(given.siteId)(said.station) : failed(said.databaseDown, said.problem),
		);
		thread.on('error', (error) => failed(isDatabaseDown(error), error));
		thread.on('exit', () => done());
	});

/**
 * Has the streams judged again beside which something was written afterwards: an event, a hand reading, a decision. What becomes due
 * meanwhile is done before the end; what fails stays due.
 */
export function keepStreams(siteId: number): Promise<void> {
	const known = bySite.get(siteId);
	if (known) return known();
	const keep = oneAtATime(
		async () => {
			const { DATABASE_URL: url, CORDWAIN_CHECK_ROWS: checksRows } = settings();
			if (THREAD && url && existsSync(THREAD))
				await inThread(THREAD, { url, siteId, guarded: await canGuard(database()), checksRows });
			else await judgeDueStreams(await databaseOf(siteId), judged(siteId));
		},
		(error) => failed(isDatabaseDown(error), error),
	);
	bySite.set(siteId, keep);
	return keep();
}
const bySite = new Map<number, () => Promise<void>>();
