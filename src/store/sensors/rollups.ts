import { z } from 'zod';
import { type Rollup, STEP_MINUTES, type Step } from '@/core/series/rollup';
import { type Client, type Db, patiently } from '../pool';
import { read, time, timeOrEnd } from '../read';
import { copyNumbers } from './copy-binary';

const COLUMNS = 'least, greatest, total, count, worst, good_least, good_greatest, good_total, good_count';
/** A number, or infinite. */
const end = time;
const rollupRow = z.strictObject({
	seriesId: z.number(),
	at: time,
	least: z.number(),
	greatest: z.number(),
	total: z.number(),
	count: z.number(),
	worst: z.number(),
	/** Infinite where none of its samples tells of its water. Where all do, as nearly always, these three are those above: not sent twice. */
	goodLeast: end.nullable(),
	goodGreatest: end.nullable(),
	goodTotal: z.number().nullable(),
	goodCount: z.number(),
});
type RollupRow = Rollup & { seriesId: number };

/** Rollups of some series by one step, from a time on and before another, ascending. */
export async function rollupsBetween(
	db: Db,
	siteId: number,
	seriesIds: readonly number[],
	step: Step,
	from: number,
	to: number,
): Promise<RollupRow[]> {
	// Of one alone they come in order by their key.
	const one = seriesIds.length === 1;
	const rows = await read(
		db,
		rollupRow,
		patiently(
			`SELECT series_id AS "seriesId", at, least, greatest, total, count, worst, CASE WHEN good_count < count THEN good_least END AS "goodLeast",
				CASE WHEN good_count < count THEN good_greatest END AS "goodGreatest", CASE WHEN good_count < count THEN good_total END AS "goodTotal",
				good_count AS "goodCount"
			FROM rollup WHERE site_id = $1 AND series_id = ${one ? '$2' : 'ANY($2)'} AND step = $3 AND at >= $4 AND at < $5 ORDER BY at`,
			[siteId, one ? seriesIds[0] : seriesIds, STEP_MINUTES[step], timeOrEnd(from), timeOrEnd(to)],
		),
	);
	for (const r of rows) {
		r.goodLeast ??= r.least;
		r.goodGreatest ??= r.greatest;
		r.goodTotal ??= r.total;
	}
	return rows as RollupRow[];
}

/** Rollups of one series by one step. */
export interface RollupsOfStep {
	seriesId: number;
	step: Step;
	rollups: readonly Rollup[];
}

/** Adds what came to what is there: the same as if all of it had come at once. */
export async function mergeRollups(db: Db, siteId: number, groups: readonly RollupsOfStep[]): Promise<void> {
	const all = groups.flatMap((g) => g.rollups);
	if (all.length === 0) return;
	await db.query(
		patiently(
			`INSERT INTO rollup AS r (site_id, series_id, step, at, ${COLUMNS})
			SELECT $1, * FROM unnest($2::int[], $3::int2[], $4::timestamptz[], $5::float8[], $6::float8[], $7::float8[], $8::int[], $9::int2[],
				$10::float8[], $11::float8[], $12::float8[], $13::int[])
			ON CONFLICT (site_id, series_id, step, at) DO UPDATE SET least = least(r.least, EXCLUDED.least), greatest = greatest(r.greatest, EXCLUDED.greatest),
				total = r.total + EXCLUDED.total, count = r.count + EXCLUDED.count, worst = greatest(r.worst, EXCLUDED.worst),
				good_least = least(r.good_least, EXCLUDED.good_least), good_greatest = greatest(r.good_greatest, EXCLUDED.good_greatest),
				good_total = r.good_total + EXCLUDED.good_total, good_count = r.good_count + EXCLUDED.good_count`,
			[
				siteId,
				groups.flatMap((g) => g.rollups.map(() => g.seriesId)),
				groups.flatMap((g) => g.rollups.map(() => STEP_MINUTES[g.step])),
				all.map((r) => new Date(r.at).toISOString()),
				all.map((r) => r.least),
				all.map((r) => r.greatest),
				all.map((r) => r.total),
				all.map((r) => r.count),
				all.map((r) => r.worst),
				all.map((r) => r.goodLeast),
				all.map((r) => r.goodGreatest),
				all.map((r) => r.goodTotal),
				all.map((r) => r.goodCount),
			],
		),
	);
}

/** Stores rollups of stretches that have none yet. */
export async function copyRollups(client: Client, siteId: number, groups: readonly RollupsOfStep[]): Promise<void> {
	const all = groups.flatMap((g) => g.rollups);
	if (all.length === 0) return;
	const of = groups.flatMap((g) => g.rollups.map(() => g));
	await copyNumbers(
		client,
		'rollup',
		[
			['site_id', 'int4', () => siteId],
			['series_id', 'int4', (row) => of[row]!.seriesId],
			['step', 'int2', (row) => STEP_MINUTES[of[row]!.step]],
			['at', 'timestamptz', (row) => all[row]!.at],
			['least', 'float8', (row) => all[row]!.least],
			['greatest', 'float8', (row) => all[row]!.greatest],
			['total', 'float8', (row) => all[row]!.total],
			['count', 'int4', (row) => all[row]!.count],
			['worst', 'int2', (row) => all[row]!.worst],
			['good_least', 'float8', (row) => all[row]!.goodLeast],
			['good_greatest', 'float8', (row) => all[row]!.goodGreatest],
			['good_total', 'float8', (row) => all[row]!.goodTotal],
			['good_count', 'int4', (row) => all[row]!.goodCount],
		],
		all.length,
	);
}

/** Puts the rollups of a series and step from a time on and before another in the place of those that are there. */
export async function replaceRollups(
	db: Client,
	siteId: number,
	seriesId: number,
	step: Step,
	from: number,
	to: number,
	all: readonly Rollup[],
): Promise<void> {
	await db.query(
		patiently('DELETE FROM rollup WHERE site_id = $1 AND series_id = $2 AND step = $3 AND at >= $4 AND at < $5', [
			siteId,
			seriesId,
			STEP_MINUTES[step],
			timeOrEnd(from),
			timeOrEnd(to),
		]),
	);
	await copyRollups(db, siteId, [{ seriesId, step, rollups: all }]);
}
