import { z } from 'zod';
import { FLAG_OF } from '@/core/series/findings';
import { DOUBTED_FLAGS } from '@/core/trust/trust';
import { afterCommit, type Client, type Db, patiently } from '../pool';
import { read, time, timeOrEnd } from '../read';
import { type Column, copyNumbers } from './copy-binary';

/** Samples of one series about to be stored. */
export interface NewSamples {
	seriesId: number;
	at: ArrayLike<number>;
	value: ArrayLike<number>;
	cause: ArrayLike<number>;
	decision: ArrayLike<number>;
	count: number;
}

/** Stores samples that are not there yet, of any number of series. */
export async function copySamples(client: Client, siteId: number, all: readonly NewSamples[]): Promise<void> {
	const ends: number[] = [];
	let rows = 0;
	for (const s of all) {
		rows += s.count;
		ends.push(rows);
	}
	let [k, i] = [0, 0];
	const place = (row: number): void => {
		while (row >= ends[k]!) k++;
		i = row - (ends[k]! - all[k]!.count);
	};
	const columns: readonly Column[] = [
		['site_id', 'int4', () => siteId],
		[
			'series_id',
			'int4',
			(row) => {
				place(row);
				return all[k]!.seriesId;
			},
		],
		['at', 'timestamptz', () => all[k]!.at[i]!],
		['value', 'float8', () => all[k]!.value[i]!],
		['cause', 'int2', () => all[k]!.cause[i]!],
		['flag', 'int2', () => FLAG_OF[all[k]!.cause[i]!]!],
		['decision', 'int2', () => all[k]!.decision[i]!],
	];
	await copyNumbers(client, 'sensor_sample', columns, rows);
}

const made = new WeakMap<object, Set<string>>();
/** Makes the partitions that these times want, where they are not there yet. @param home of the database (store/pool) */
export async function makeMonths(db: Db, home: object, times: Iterable<number>): Promise<void> {
	const known = made.get(home) ?? new Set<string>();
	made.set(home, known);
	const months = new Set([...times].map((t) => `${new Date(t).toISOString().slice(0, 7)}-01`));
	for (const month of months) {
		if (known.has(month)) continue;
		await db.query('SELECT make_sample_month($1)', [month]);
		// Taken back with its transaction it is not there.
		afterCommit(db, () => known.add(month));
	}
}

const sampleRow = z.strictObject({
	seriesId: z.number(),
	at: time,
	value: z.number(),
	cause: z.number(),
	decision: z.number(),
});
export type SampleRow = z.output<typeof sampleRow>;

/** Samples of some series from a time on and before another, ascending. */
export const samplesBetween = (
	db: Db,
	siteId: number,
	seriesIds: readonly number[],
	from: number,
	to: number,
): Promise<SampleRow[]> =>
	read(
		db,
		sampleRow,
		patiently(
			`SELECT series_id AS "seriesId", at, value, cause, decision FROM sensor_sample
			WHERE site_id = $1 AND series_id = ANY($2) AND at >= $3 AND at < $4 ORDER BY at`,
			[siteId, seriesIds, timeOrEnd(from), timeOrEnd(to)],
		),
	);

/** The newest sample of each of some series. */
export const newestSamples = (db: Db, siteId: number, seriesIds: readonly number[]): Promise<SampleRow[]> =>
	read(
		db,
		sampleRow,
		`SELECT s.series_id AS "seriesId", s.at, s.value, s.cause, s.decision FROM series x
		JOIN sensor_sample s ON s.site_id = x.site_id AND s.series_id = x.id AND s.at = x.newest_at
		WHERE x.site_id = $1 AND x.id = ANY($2)`,
		[siteId, seriesIds],
	);

/** When the first sample of some series was taken; null where there is none. */
export async function firstSample(db: Db, siteId: number, seriesIds: readonly number[]): Promise<number | null> {
	const rows = await read(
		db,
		z.strictObject({ at: time.nullable() }),
		'SELECT min(at) AS at FROM sensor_sample WHERE site_id = $1 AND series_id = ANY($2)',
		[siteId, seriesIds],
	);
	return rows[0]!.at;
}

/** Those of a series that are doubtful, from a time on up to another. */
export const doubtfulBetween = (
	db: Db,
	siteId: number,
	seriesId: number,
	from: number,
	upTo: number,
): Promise<{ at: number; cause: number }[]> =>
	read(
		db,
		z.strictObject({ at: time, cause: z.number() }),
		patiently(
			'SELECT at, cause FROM sensor_sample WHERE site_id = $1 AND series_id = $2 AND flag = ANY($5) AND at >= $3 AND at <= $4 ORDER BY at',
			[siteId, seriesId, timeOrEnd(from), timeOrEnd(upTo), DOUBTED_FLAGS],
		),
	);

/** Which of these times a series has a sample at. */
export async function timesThere(
	db: Db,
	siteId: number,
	seriesId: number,
	times: readonly number[],
): Promise<Set<number>> {
	const rows = await read(
		db,
		z.strictObject({ at: time }),
		'SELECT at FROM sensor_sample WHERE site_id = $1 AND series_id = $2 AND at >= $3 AND at <= $4 AND at = ANY($5)',
		[
			siteId,
			seriesId,
			timeOrEnd(Math.min(...times)),
			timeOrEnd(Math.max(...times)),
			times.map((t) => new Date(t).toISOString()),
		],
	);
	return new Set(rows.map((r) => r.at));
}

/** What samples are found to be now. */
export async function putCauses(
	db: Db,
	siteId: number,
	all: readonly { seriesId: number; at: number; cause: number }[],
): Promise<void> {
	if (all.length === 0) return;
	await db.query(
		patiently(
			`UPDATE sensor_sample s SET cause = n.cause, flag = n.flag
			FROM unnest($2::int[], $3::timestamptz[], $4::int2[], $5::int2[]) AS n(series_id, at, cause, flag)
			WHERE s.site_id = $1 AND s.series_id = n.series_id AND s.at = n.at`,
			[
				siteId,
				all.map((x) => x.seriesId),
				all.map((x) => new Date(x.at).toISOString()),
				all.map((x) => x.cause),
				all.map((x) => FLAG_OF[x.cause]!),
			],
		),
	);
}

/** Tells a stretch of a series what it is, where it was found to be something else. */
export async function retell(
	db: Db,
	siteId: number,
	seriesId: number,
	e: { from: number; to: number; cause: number; over: number },
): Promise<void> {
	await db.query(
		'UPDATE sensor_sample SET cause = $5, flag = $6 WHERE site_id = $1 AND series_id = $2 AND at >= $3 AND at < $4 AND cause = $7',
		[siteId, seriesId, timeOrEnd(e.from), timeOrEnd(e.to), e.cause, FLAG_OF[e.cause]!, e.over],
	);
}

/** What a person decided about a stretch, by number. */
export async function putDecision(
	db: Db,
	siteId: number,
	seriesId: number,
	since: number,
	until: number,
	decision: number,
): Promise<void> {
	await db.query(
		patiently(
			'UPDATE sensor_sample SET decision = $5 WHERE site_id = $1 AND series_id = $2 AND at >= $3 AND at <= $4',
			[siteId, seriesId, timeOrEnd(since), timeOrEnd(until), decision],
		),
	);
}

/** Lets samples go that have come of age. @returns how many */
export async function dropSamples(
	client: Client,
	siteId: number,
	seriesIds: readonly number[],
	before: number,
): Promise<number> {
	await client.query("SELECT set_config('cordwain.retention', 'on', true)");
	const gone = await client.query(
		patiently('DELETE FROM sensor_sample WHERE site_id = $1 AND series_id = ANY($2) AND at < $3', [
			siteId,
			seriesIds,
			timeOrEnd(before),
		]),
	);
	await client.query('UPDATE series SET raw_from = greatest(raw_from, $3) WHERE site_id = $1 AND id = ANY($2)', [
		siteId,
		seriesIds,
		timeOrEnd(before),
	]);
	await client.query("SELECT set_config('cordwain.retention', 'off', true)");
	return gone.rowCount ?? 0;
}
