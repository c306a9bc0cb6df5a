import type { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { from as copyFrom } from 'pg-copy-streams';
import { z } from 'zod';
import { type Client, type Db, type Pool, patiently } from '../pool';
import { read } from '../read';
import { type ArchivedTable, columnsOf, LEFT_OUT, nameOf, selectOf } from './catalog';
import { copyOutOf, isSpoilt } from './copy-out';

/** Numbers that the database counts with. */
const COUNTERS = ['row_id', 'site_id_seq', 'series_number'] as const;

/** The newest migration that the tables have. */
export async function schemaVersion(db: Db): Promise<number> {
	const rows = await read(
		db,
		z.strictObject({ version: z.number() }),
		'SELECT max(version)::int AS version FROM schema_version',
	);
	return rows[0]!.version;
}

/** Runs `work` on one moment of the book: what is written meanwhile is not of it. */
export async function atOneMoment<T>(pool: Pool, work: (client: Client) => Promise<T>): Promise<T> {
	const client = await pool.connect();
	// Lost while nothing is asked of it, a connection tells of it by an event that would end the process where nobody listens.
	let lost = false;
	const onError = () => {
		lost = true;
	};
	client.on('error', onError);
	try {
		await client.query('BEGIN ISOLATION LEVEL REPEATABLE READ READ ONLY');
		// The same text for the same value, wherever it is written.
		await client.query(
			"SET LOCAL timezone = 'UTC'; SET LOCAL datestyle = 'ISO, YMD'; SET LOCAL extra_float_digits = 1; SET LOCAL bytea_output = 'hex'; SET LOCAL intervalstyle = 'iso_8601'",
		);
		return await work(client);
	} finally {
		const spoilt = lost || isSpoilt(client);
		if (!spoilt) await client.query('ROLLBACK').catch(() => {});
		client.off('error', onError);
		client.release(spoilt || lost);
	}
}

/** A table as CSV with a header, in the order of its key; of one site, or of all (null). */
export const copyOut = (client: Client, t: ArchivedTable, siteId: number | null): Readable =>
	copyOutOf(client, `COPY (${selectOf(t, siteId)}) TO STDOUT (FORMAT csv, HEADER)`);

/** Months of which there are samples: their places have to be there before them. */
export async function sampleMonths(db: Db, siteId: number | null): Promise<string[]> {
	const rows = await read(
		db,
		z.strictObject({ month: z.string() }),
		patiently(
			`SELECT DISTINCT to_char(date_trunc('month', at AT TIME ZONE 'UTC'), 'YYYY-MM-DD') AS month FROM sensor_sample WHERE $1::integer IS NULL OR site_id = $1 ORDER BY 1`,
			[siteId],
		),
	);
	return rows.map((r) => r.month);
}

/**
 * How far each has counted; of one site how far its own rows go, so that what others do changes nothing of it.
 * @param siteId null: of the installation
 */
export async function counters(db: Db, siteId: number | null): Promise<Record<string, number>> {
	if (siteId !== null) return countedBy(db, siteId);
	const found: Record<string, number> = {};
	for (const name of COUNTERS) {
		const rows = await read(
			db,
			z.strictObject({ at: z.number().nullable() }),
			'SELECT pg_sequence_last_value(to_regclass($1)) AS at',
			[name],
		);
		found[name] = rows[0]!.at ?? 0;
	}
	return found;
}

/** Of each counter the greatest number that a row of a site has of it. */
async function countedBy(db: Db, siteId: number): Promise<Record<string, number>> {
	const columns = await read(
		db,
		z.strictObject({ table: z.string(), column: z.string(), counter: z.string(), site: z.string() }),
		`SELECT c.relname AS "table", a.attname AS "column", n.name AS counter, CASE WHEN c.relname = 'site' THEN 'id' ELSE 'site_id' END AS site
		FROM pg_attrdef d JOIN pg_class c ON c.oid = d.adrelid JOIN pg_attribute a ON a.attrelid = d.adrelid AND a.attnum = d.adnum
			JOIN unnest($1::text[]) n(name) ON pg_get_expr(d.adbin, d.adrelid) LIKE '%' || n.name || '%'
		WHERE c.relnamespace = current_schema()::regnamespace AND c.relkind IN ('r', 'p') AND NOT c.relispartition AND c.relname <> ALL($2)
			AND (c.relname = 'site' OR EXISTS (SELECT 1 FROM pg_attribute s WHERE s.attrelid = c.oid AND s.attname = 'site_id' AND NOT s.attisdropped))`,
		[COUNTERS, LEFT_OUT],
	);
	const found: Record<string, number> = { ...Object.fromEntries(COUNTERS.map((c) => [c, 0])), site_id_seq: siteId };
	for (const { table, column, counter, site } of columns) {
		const rows = await read(
			db,
			z.strictObject({ most: z.number().nullable() }),
			patiently(`SELECT max("${column}") AS most FROM "${table}" WHERE ${site} = $1`, [siteId]),
		);
		found[counter] = Math.max(found[counter]!, rows[0]!.most ?? 0);
	}
	return found;
}

/** Whether there is nothing yet that a book could overwrite. */
export async function isEmpty(db: Db): Promise<boolean> {
	const rows = await read(
		db,
		z.strictObject({ empty: z.boolean() }),
		'SELECT NOT EXISTS (SELECT 1 FROM station) AND NOT EXISTS (SELECT 1 FROM sample) AND NOT EXISTS (SELECT 1 FROM person) AS empty',
	);
	return rows[0]!.empty;
}

/** What a trigger would do of itself is in the archive already. */
export const quietly = async (client: Client, t: Pick<ArchivedTable, 'name'>, quiet: boolean): Promise<void> => {
	await client.query(`ALTER TABLE ${nameOf(t)} ${quiet ? 'DISABLE' : 'ENABLE'} TRIGGER USER`);
};

/** Takes away what a site is before anything is in it. Triggers of these tables are quiet. */
export async function clearEmpty(client: Client, tables: readonly ArchivedTable[]): Promise<void> {
	for (const t of [...tables].reverse()) await client.query(`DELETE FROM ${nameOf(t)}`);
}

export async function makeMonthsFor(client: Client, months: readonly string[]): Promise<void> {
	for (const month of months) await client.query('SELECT make_sample_month($1)', [month]);
}

/** @returns how many rows there were */
export async function copyIn(
	client: Client,
	t: ArchivedTable,
	columns: readonly string[],
	csv: Readable,
): Promise<number> {
	const stream = client.query(copyFrom(`COPY ${nameOf(t)} (${columnsOf(columns)}) FROM STDIN (FORMAT csv, HEADER)`));
	await pipeline(csv, stream);
	return stream.rowCount;
}

/** Every key that waits for the end of the transaction is looked at now. @throws where one names nothing */
export async function keysHold(client: Client): Promise<void> {
	// Of a large book that takes its time.
	await client.query(patiently('SET CONSTRAINTS ALL IMMEDIATE'));
}

export async function setCounters(client: Client, all: Readonly<Record<string, number>>): Promise<void> {
	for (const name of COUNTERS) {
		const at = all[name] ?? 0;
		// Never back: a number is used once.
		if (at > 0)
			await client.query(
				'SELECT setval(to_regclass($1), greatest($2::bigint, coalesce(pg_sequence_last_value(to_regclass($1)), 1)))',
				[name, at],
			);
	}
}
