import pg from 'pg';
import { loadDemo } from '@/demo/load';
import { migrate } from '@/store/migrate';
import { createPool, PATIENT } from '@/store/pool';

/** A fixed morning, so that every run tests the same numbers. */
export const DEMO_NOW = Date.UTC(2026, 6, 14, 9);

export const EMPTY_TEMPLATE = 'cordwain_empty';
export const DEMO_TEMPLATE = 'cordwain_demo';

export function inDatabase(clusterUrl: string, name: string): string {
	const url = new URL(clusterUrl);
	url.pathname = `/${name}`;
	return url.href;
}

/** Two databases are made once and copied for each test that wants one of its own. Unit tests alone need neither. */
export default async function setup(): Promise<void> {
	const cluster = process.env.CORDWAIN_TEST_CLUSTER;
	if (!cluster) return;
	const client = new pg.Client({ connectionString: cluster });
	await client.connect();
	try {
		for (const [name, fill] of [
			[EMPTY_TEMPLATE, false],
			[DEMO_TEMPLATE, true],
		] as const) {
			await client.query(`CREATE DATABASE ${name}`);
			const pool = createPool(inDatabase(cluster, name), PATIENT);
			await migrate(pool);
			if (fill) await loadDemo(pool, { say: () => {}, now: DEMO_NOW, postDays: 4 });
			await pool.end();
		}
	} finally {
		await client.end();
	}
}
