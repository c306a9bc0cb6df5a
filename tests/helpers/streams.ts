import { dayIn } from '@/core/series/days';
import { fiveMinutesOf, hourOf, rollUp, STEP_MINUTES } from '@/core/series/rollup';
import type { Pool } from '@/store/pool';

/** A stored sample of a node. */
export interface StoredSample {
	series: number;
	quantity: string;
	at: number;
	value: number;
	cause: number;
	flag: number;
	decision: number;
}

/** Every sample of a node as it is stored, in order of time. */
export async function rawOf(pool: Pool, node: string): Promise<StoredSample[]> {
	const { rows } = await pool.query(
		`SELECT x.id AS series, x.quantity, s.at, s.value, s.cause, s.flag, s.decision FROM sensor_sample s
		JOIN series x ON x.site_id = s.site_id AND x.id = s.series_id JOIN node n ON n.site_id = x.site_id AND n.id = x.node_id
		WHERE n.code = $1 ORDER BY s.at, x.quantity`,
		[node],
	);
	return rows;
}

/** Rollups of a node that differ from what its samples give, computed here from all of them at once; sums to rounding. */
export async function differingRollups(pool: Pool, node: string): Promise<string[]> {
	const raw = await rawOf(pool, node);
	const zone = (await pool.query('SELECT timezone FROM site')).rows[0].timezone;
	const wrong: string[] = [];
	for (const series of new Set(raw.map((r) => r.series))) {
		const own = raw.filter((r) => r.series === series);
		const samples = {
			at: own.map((r) => r.at),
			value: own.map((r) => r.value),
			cause: own.map((r) => r.cause),
			decision: own.map((r) => r.decision),
			count: own.length,
		};
		for (const [step, stretch] of [
			['5min', fiveMinutesOf],
			['hour', hourOf],
			['day', dayIn(zone)],
		] as const) {
			const { rows } = await pool.query(
				`SELECT at, least, greatest, total, count, worst, good_least AS "goodLeast", good_greatest AS "goodGreatest", good_total AS "goodTotal", good_count AS "goodCount"
				FROM rollup WHERE series_id = $1 AND step = $2 ORDER BY at`,
				[series, STEP_MINUTES[step]],
			);
			const expected = rollUp(samples, stretch);
			if (rows.length !== expected.length) wrong.push(`${step}: ${rows.length} and not ${expected.length}`);
			for (const [i, e] of expected.entries())
				for (const [key, v] of Object.entries(e)) {
					const there = rows[i]?.[key];
					const same = /total/i.test(key) ? Math.abs(there - v) <= 1e-9 * Math.max(Math.abs(v), 1) : there === v;
					if (!same) wrong.push(`${step} ${new Date(e.at).toISOString()} ${key}: ${there} and not ${v}`);
				}
		}
	}
	return wrong;
}
