import type { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { from as copyFrom } from 'pg-copy-streams';
import { z } from 'zod';
import { type Client, patiently } from '../pool';
import { read } from '../read';
import { type ArchivedTable, columnsOf, nameOf } from './catalog';

/** Rows of an archive beside those of other sites: under new numbers of their sites, and with the people who are known by their names. */

/** Begins: which number of the archive becomes which here. */
export async function beginBringing(client: Client): Promise<void> {
	await client.query(
		'CREATE TEMPORARY TABLE site_new (before integer PRIMARY KEY, now integer NOT NULL) ON COMMIT DROP; CREATE TEMPORARY TABLE person_new (before bigint PRIMARY KEY, now bigint NOT NULL) ON COMMIT DROP',
	);
}

/** Numbers for the sites, and for the people that nobody here has the name of. */
async function renumber(client: Client, t: ArchivedTable): Promise<void> {
	if (t.name === 'site') {
		await client.query(`INSERT INTO site_new SELECT id, nextval('site_id_seq') FROM coming ORDER BY id`);
		// It was closed where it was taken out.
		await client.query('UPDATE coming c SET id = s.now, closed_at = NULL FROM site_new s WHERE c.id = s.before');
		return;
	}
	if (t.name === 'person') {
		await client.query(
			`INSERT INTO person_new SELECT c.id, coalesce(p.id, nextval('row_id')) FROM coming c LEFT JOIN person p ON lower(p.name) = lower(c.name)`,
		);
		await client.query('DELETE FROM coming c USING person p WHERE lower(p.name) = lower(c.name)');
		// Whose this installation is was said here.
		await client.query('UPDATE coming c SET id = n.now, owner = false FROM person_new n WHERE c.id = n.before');
		return;
	}
	await client.query(patiently('UPDATE coming c SET site_id = s.now FROM site_new s WHERE c.site_id = s.before'));
	if (t.needs.includes('person'))
		await client.query('UPDATE coming c SET person_id = n.now FROM person_new n WHERE c.person_id = n.before');
}

/** Brings one table in; that of sites first, that of people second. @returns how many rows came */
export async function bringIn(
	client: Client,
	t: ArchivedTable,
	columns: readonly string[],
	csv: Readable,
): Promise<number> {
	await client.query(`CREATE TEMPORARY TABLE coming (LIKE ${nameOf(t)} INCLUDING DEFAULTS) ON COMMIT DROP`);
	const stream = client.query(copyFrom(`COPY coming (${columnsOf(columns)}) FROM STDIN (FORMAT csv, HEADER)`));
	await pipeline(csv, stream);
	await renumber(client, t);
	const all = columnsOf(t.columns.map((c) => c.name));
	await client.query(patiently(`INSERT INTO ${nameOf(t)} (${all}) OVERRIDING SYSTEM VALUE SELECT ${all} FROM coming`));
	await client.query('DROP TABLE coming');
	return stream.rowCount;
}

/** The numbers that the sites of an archive have here. */
export async function broughtSites(client: Client): Promise<number[]> {
	const rows = await read(client, z.strictObject({ now: z.number() }), 'SELECT now FROM site_new ORDER BY before');
	return rows.map((r) => r.now);
}
