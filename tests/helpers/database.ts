import { randomBytes } from 'node:crypto';
import pg from 'pg';
import { createPool, type Pool } from '@/store/pool';
import { DEMO_TEMPLATE, EMPTY_TEMPLATE, inDatabase } from './global-setup';

export function cluster(): string {
	const url = process.env.CORDWAIN_TEST_CLUSTER;
	if (!url) throw new Error('Database tests run through npm test, which brings a cluster.');
	return url;
}

/** A database of a test's own: blank, empty but for its tables, or with the Saltmarsh Yard demo. */
export async function freshDatabase(from: From): Promise<string> {
	const name = `test_${randomBytes(6).toString('hex')}`;
	const client = new pg.Client({ connectionString: cluster() });
	await client.connect();
	try {
		const template = { blank: 'template0', empty: EMPTY_TEMPLATE, demo: DEMO_TEMPLATE }[from];
		await client.query(`CREATE DATABASE ${name} TEMPLATE ${template} STRATEGY FILE_COPY`);
	} finally {
		await client.end();
	}
	return inDatabase(cluster(), name);
}

type From = 'blank' | 'empty' | 'demo';

async function withPool<T>(
	from: From,
	options: Parameters<typeof createPool>[1],
	work: (pool: Pool, url: string) => Promise<T>,
): Promise<T> {
	const url = await freshDatabase(from);
	const pool = createPool(url, options);
	try {
		return await work(pool, url);
	} finally {
		await pool.end();
	}
}

/** As a server works for one site, the first. Before there are tables nothing can be guarded. */
export const withDatabase = <T>(from: From, work: (pool: Pool, url: string) => Promise<T>): Promise<T> =>
	withPool(from, { siteId: 1, guarded: from !== 'blank' }, work);

/** As a server works for the whole installation: nothing is guarded, and no site is worked for. */
export const withInstallation = <T>(from: From, work: (pool: Pool, url: string) => Promise<T>): Promise<T> =>
	withPool(from, {}, work);
