import PgBoss from 'pg-boss';
import type { Client } from '@/store/pool';
import { isDatabaseDown } from '../database-down';
import { log } from '../log';

/**
 * Work that must not be forgotten when the server stops: kept in the database by the library, in a schema of its own, and tried again
 * with growing pauses.
 */
export interface Queue<T extends object> {
	/** Puts work into the queue, in the transaction it is given. */
	add: (client: Client, work: T) => Promise<void>;
}

const RETRIES = 10;
const FIRST_PAUSE_S = 2;

export class Work {
	private constructor(private readonly boss: PgBoss) {}

	/** Begins; where the database is away it goes on trying. */
	static async begin(connectionString: string): Promise<Work> {
		const boss = new PgBoss({ connectionString, max: 2, application_name: 'cordwain work' });
		boss.on('error', (error) => {
			if (!isDatabaseDown(error)) log.error({ error }, 'work');
		});
		await boss.start();
		return new Work(boss);
	}

	/** @param work done for each; what it throws is tried again. @param last how it is told that it was the last try */
	async queue<T extends object>(name: string, work: (one: T, last: boolean) => Promise<void>): Promise<Queue<T>> {
		await this.boss.createQueue(name);
		await this.boss.work<T>(name, { pollingIntervalSeconds: 1, includeMetadata: true }, async ([job]) => {
			if (job) await work(job.data, job.retryCount >= job.retryLimit);
		});
		return {
			add: async (client, one) => {
				await this.boss.send(name, one, {
					retryLimit: RETRIES,
					retryDelay: FIRST_PAUSE_S,
					retryBackoff: true,
					db: { executeSql: (text: string, values: unknown[]) => client.query(text, values) },
				});
			},
		};
	}

	/** Does something at the minutes of a pattern (five fields, as cron has them), once for all servers. */
	async every(name: string, pattern: string, work: () => Promise<void>): Promise<void> {
		await this.boss.createQueue(name, { name, policy: 'singleton' });
		await this.boss.schedule(name, pattern);
		await this.boss.work(name, { pollingIntervalSeconds: 2 }, async () => work());
	}

	stop(): Promise<void> {
		return this.boss.stop({ graceful: false });
	}
}
