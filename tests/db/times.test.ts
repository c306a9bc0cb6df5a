import { expect, it } from 'vitest';
import { withDatabase } from '../helpers/database';

/** What the database itself reckons a time to be is what the code reads it as (PostgreSQL documentation, 8.5: to the microsecond, years 4713 BC to 294276). */
const TIMES = [
	'2026-07-14 09:00:00+00',
	'2026-07-14 09:00:00.5+00',
	'2026-07-14 09:00:00.123999+00',
	'2026-03-29 01:59:59.999+00',
	'1969-12-31 23:59:59+00',
	'0099-06-01 00:00:00+00',
	'12026-07-14 09:00:00+00',
	'0044-03-15 12:00:00+00 BC',
];

it.each(['UTC', 'Europe/Amsterdam', 'Asia/Kathmandu'])(
	'a time is what the database says it is, whatever zone it writes in: %s',
	(zone) =>
		withDatabase('empty', async (pool) => {
			const client = await pool.connect();
			try {
				await client.query(`SET TIME ZONE '${zone}'`);
				const { rows } = await client.query(
					'SELECT t, floor(extract(epoch FROM t) * 1000)::float8 AS ms FROM unnest($1::timestamptz[]) t',
					[TIMES],
				);
				expect(rows.map((r) => r.t)).toEqual(rows.map((r) => r.ms));
				const ends = await client.query(`SELECT 'infinity'::timestamptz AS last, '-infinity'::timestamptz AS first`);
				expect(ends.rows).toEqual([{ last: Number.POSITIVE_INFINITY, first: Number.NEGATIVE_INFINITY }]);
			} finally {
				await client.query('RESET TIME ZONE');
				client.release();
			}
		}),
);
