import { asOwner, type Db, patiently, transaction } from './pool';

/**
 * Tells the planner what a bulk load has put there; without it the first pages after one may take minutes. Sizes and spans are told
 * by few rows; a finer look is the database's own business later.
 */
export const refreshStatistics = (db: Db): Promise<void> =>
	transaction(db, (client) =>
		asOwner(client, async () => {
			await client.query('SET LOCAL default_statistics_target = 10');
			await client.query(patiently('ANALYZE reading, verdict, restatement, decision, event, station_memory'));
			await client.query('SET LOCAL default_statistics_target TO DEFAULT');
		}),
	);
