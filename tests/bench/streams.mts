// npm run bench -- streams: nodes that post, a year that is drawn, checks over arrays; each against its plain counterpart in one run.
import { spawnSync } from 'node:child_process';
import { newToken, saveNode } from '@/service/sensors/nodes';
import { seriesOf } from '@/service/sensors/series';
import { requireSite, siteForIntake } from '@/service/site';
import { PLAIN_STATION, putStation } from '@/store/line';
import { migrate } from '@/store/migrate';
import { createPool, type Pool } from '@/store/pool';
import { copyNumbers } from '@/store/sensors/copy-binary';
import { withServer } from './growth.mts';
import { median, shown, WARM } from './measuring.mts';

type Say = (name: string, text: string) => void;
const MINUTE = 60_000;
const QUANTITIES = [
	['ph', 'pH', 5.9, 0.02],
	['ec', 'uS/cm', 1800, 6],
	['temp', 'C', 20, 0.1],
	['do', 'mg/L', 8, 0.05],
	['level', 'mm', 250, 1],
	['air_temp', 'C', 24, 0.3],
	['humidity', '%', 60, 2],
	['moisture', '%', 62, 1],
	['substrate_ec', 'uS/cm', 2400, 20],
	['flow', 'L/h', 30, 1],
] as const;
const timed = async <T,>(work: () => Promise<T> | T): Promise<[number, T]> => {
	const begun = performance.now();
	const result = await work();
	return [performance.now() - begun, result];
};

export async function streams(say: Say, database: (name: string) => Promise<string>, year: number): Promise<void> {
	// By themselves, as in the thread that judges again.
	spawnSync(process.execPath, ['ops/run.mjs', 'tests/bench/series-checks.mts'], { stdio: 'inherit' });
	await posted(say, await database('streams'));
	await drawn(say, await database('year'), year);
}

async function site(pool: Pool): Promise<number> {
	await migrate(pool);
	const { site } = await siteForIntake(pool);
	await putStation(pool, site.id, { ...PLAIN_STATION, code: 'tank', name: 'Tank', kind: 'reservoir', position: 1 });
	return site.id;
}

/** Ten series a minute apart, posted in full requests over HTTP, against a bare binary COPY of the same rows into the same table. */
async function posted(say: Say, url: string): Promise<void> {
	const pool = createPool(url, { siteId: 1 });
	await site(pool);
	await saveNode(pool, { code: 'post', station: 'tank' }, 'bench');
	const token = await newToken(pool, 'post', 'bench');
	const begin = Date.UTC(2026, 0, 1);
	const REQUESTS = 60;
	const PER = 1000;
	const bodies = Array.from({ length: REQUESTS }, (_, r) =>
		JSON.stringify({
			samples: Array.from({ length: PER }, (_, i) => r * PER + i).flatMap((i) =>
				QUANTITIES.map(([quantity, unit, level, size]) => ({
					at: new Date(begin + i * MINUTE).toISOString(),
					quantity,
					value: shown(i, level, size),
					unit,
				})),
			),
		}),
	);
	await withServer(url, async (base) => {
		const send = async (body: string) => {
			for (;;) {
				const response = await fetch(`${base}/api/v1/ingest`, {
					method: 'POST',
					headers: { authorization: `Bearer ${token}` },
					body,
				});
				if (response.status === 202) return;
				if (response.status !== 429) throw new Error(`${response.status}: ${await response.text()}`);
				await new Promise((done) => setTimeout(done, 100));
			}
		};
		await send(bodies[0]!);
		const [took] = await timed(async () => {
			for (const body of bodies.slice(1)) await send(body);
		});
		const rows = (REQUESTS - 1) * PER * QUANTITIES.length;
		const { rows: all } = await pool.query(
			'SELECT site_id, series_id, at, value, cause, flag, decision FROM sensor_sample',
		);
		const client = await pool.connect();
		await client.query('BEGIN');
		await client.query("SELECT set_config('cordwain.retention', 'on', true)");
		await client.query('DELETE FROM sensor_sample');
		await client.query('COMMIT');
		await client.query('VACUUM sensor_sample');
		const [bare] = await timed(async () => {
			for (let from = PER * QUANTITIES.length; from < all.length; from += PER * QUANTITIES.length) {
				const part = all.slice(from, from + PER * QUANTITIES.length);
				await copyNumbers(
					client,
					'sensor_sample',
					[
						['site_id', 'int4', (row) => part[row].site_id],
						['series_id', 'int4', (row) => part[row].series_id],
						['at', 'timestamptz', (row) => part[row].at],
						['value', 'float8', (row) => part[row].value],
						['cause', 'int2', (row) => part[row].cause],
						['flag', 'int2', (row) => part[row].flag],
						['decision', 'int2', (row) => part[row].decision],
					],
					part.length,
				);
			}
		});
		client.release();
		say(
			'ingest over HTTP, checked, stored, rolled up',
			`${Math.round((1000 * rows) / took).toLocaleString('en-GB')} samples/s; bare binary COPY ${Math.round((1000 * (all.length - PER * QUANTITIES.length)) / bare).toLocaleString('en-GB')} rows/s: ${(bare / took).toFixed(2)} of it`,
		);
	});
	await pool.end();
}

/** A year of minutes, ten series, from question to points, against one plain read of the finished rollup. */
async function drawn(say: Say, url: string, year: number): Promise<void> {
	const pool = createPool(url, { siteId: 1 });
	const siteId = await site(pool);
	await saveNode(pool, { code: 'post', station: 'tank' }, 'bench');
	const { rows: found } = await pool.query('SELECT n.id, n.station_id, n.instrument_id FROM node n');
	const end = Date.UTC(2026, 6, 1);
	const begin = end - year * MINUTE;
	for (const [quantity, , level, size] of QUANTITIES) {
		await pool.query(
			`INSERT INTO series (site_id, node_id, station_id, instrument_id, quantity, newest_at, usual_ms) VALUES ($1, $2, $3, $4, $5, $6, 60000)`,
			[siteId, found[0].id, found[0].station_id, found[0].instrument_id, quantity, new Date(end)],
		);
		const { rows } = await pool.query('SELECT max(id) AS id FROM series');
		// As the ingest would have left it: rolled up by the database itself.
		for (const [step, unit] of [
			[5, '5 minutes'],
			[60, '1 hour'],
			[1440, '1 day'],
		] as const)
			await pool.query(
				`INSERT INTO rollup SELECT $1, $2, $3, date_bin($4::interval, t, '2000-01-01'), min(v), max(v), sum(v), count(*), 1, min(v), max(v), sum(v), count(*)
				FROM (SELECT t, $5::float8 + $6::float8 * sin(extract(epoch FROM t) / 13740) AS v FROM generate_series($7::timestamptz, $8::timestamptz - interval '1 minute', interval '1 minute') t) x GROUP BY 4`,
				[siteId, rows[0].id, step, unit, level, size, new Date(begin), new Date(end)],
			);
	}
	await pool.query('ANALYZE rollup');
	const context = await requireSite(pool);
	const series = (await pool.query('SELECT id FROM series')).rows.map((r: { id: number }) => r.id);
	const [points, plain]: number[][] = [[], []];
	let most = 0;
	for (let run = -WARM; run < 9; run++) {
		const [took] = await timed(async () => {
			for (const [quantity] of QUANTITIES) {
				const answer = await seriesOf(pool, context, { station: 'tank', quantity, from: begin, to: end, points: 2000 });
				most = Math.max(most, answer.points.length);
			}
		});
		const [read] = await timed(async () => {
			for (const id of series)
				await pool.query(
					'SELECT at, least, greatest, total, count, worst, good_least, good_greatest, good_total, good_count FROM rollup WHERE site_id = $1 AND series_id = $2 AND step = 1440 AND at >= $3 AND at < $4 ORDER BY at',
					[siteId, id, new Date(begin), new Date(end)],
				);
		});
		if (run < 0) continue;
		points!.push(took);
		plain!.push(read);
	}
	say(
		`a year of minutes, ten series, to at most ${most} points each`,
		`${median(points!).toFixed(0)} ms; ${(median(points!) / median(plain!)).toFixed(1)} × reading the finished rollup`,
	);
	await pool.end();
}
