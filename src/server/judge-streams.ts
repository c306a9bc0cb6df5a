// A thread of its own: streams are judged again here, so that a year of samples keeps nobody's page waiting (server/keep-streams).
import { parentPort, workerData } from 'node:worker_threads';
import { judgeDueStreams } from '@/service/sensors/due';
import { createPool, PATIENT } from '@/store/pool';
import { checkRows } from '@/store/read';
import { isDatabaseDown } from './database-down';

/** What the server gives along. */
export interface Given {
	url: string;
	siteId: number;
	guarded: boolean;
	checksRows: boolean;
}
/** What is told of it: a station whose streams were judged; or what went wrong. */
export type Said = { station: string } | { problem: string; databaseDown: boolean };

const { url, siteId, guarded, checksRows } = workerData as Given;
const say = (said: Said) => parentPort!.postMessage(said);
if (checksRows) checkRows();
const pool = createPool(url, { ...PATIENT, siteId, guarded });
try {
	await judgeDueStreams(pool, (station) => say({ station }));
} catch (error) {
	say({
		problem: error instanceof Error ? (error.stack ?? error.message) : String(error),
		databaseDown: isDatabaseDown(error),
	});
} finally {
	await pool.end();
}
