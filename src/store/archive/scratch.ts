import { randomBytes } from 'node:crypto';
import pg from 'pg';
import { migrate } from '../migrate';
import { createPool, PATIENT, type Pool } from '../pool';

/** A database beside the real one, for as long as `work` takes. @throws where the account may not make one */
export async function inScratchDatabase<T>(url: string, work: (pool: Pool) => Promise<T>): Promise<T> {
	const name = `cordwain_trial_${randomBytes(6).toString('hex')}`;
	const admin = new pg.Client({ connectionString: url });
	// Lost meanwhile it tells of it with the next question; unheard, its event would end the process.
	admin.on('error', () => {});
	await admin.connect();
	try {
		await admin.query(`CREATE DATABASE ${name} TEMPLATE template0`);
		const own = new URL(url);
		own.pathname = `/${name}`;
		const pool = createPool(own.href, PATIENT);
		try {
			await migrate(pool);
			return await work(pool);
		} finally {
			await pool.end();
		}
	} finally {
		await admin.query(`DROP DATABASE IF EXISTS ${name} WITH (FORCE)`).catch(() => {});
		await admin.end();
	}
}
