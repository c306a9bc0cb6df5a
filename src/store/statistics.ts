import { asOwner, type Db, patiently, transaction } from './pool';

/** Tells the planner what a bulk load has put there; without it the first pages after one may take minutes. */
export const refreshStatistics = (db: Db): Promise<void> =>
	transaction(db, (client) =>
		asOwner(client, async () => {
			await client.query(patiently('ANALYZE reading, verdict, restatement, decision, event, station_memory'));
		}),
	);
