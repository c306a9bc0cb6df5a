// npm run bench: ratios measured in one run on one machine; docs/performance.md keeps the figures.
import { spawn, spawnSync } from 'node:child_process';
import { once } from 'node:events';
import { chmodSync, createReadStream, createWriteStream, mkdtempSync, readdirSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import { pairsOf, type Sighting } from '@/core/probe/error-curve/pairs';
import { SiteErrors } from '@/core/probe/error-curve/site-errors';
import { readOff, restateAlone } from '@/core/probe/timeline';
import { loadDemo } from '@/demo/load';
import { csvRecords } from '@/files/csv-stream';
import { enterSamples } from '@/service/enter';
import { importFile } from '@/service/import';
import { requireSite, siteForIntake } from '@/service/site';
import { migrate } from '@/store/migrate';
import { type Client, createPool } from '@/store/pool';
import { crash } from '../helpers/crash';
import { moveWhileWriting } from '../helpers/move';
import { fuzzing } from './fuzz.mts';
import { growth, withServer } from './growth.mts';
import { load } from './load.mts';
import { nodes } from './nodes.mts';
import { phone } from './phone.mts';
import { replica } from './replica.mts';
import { sites } from './sites.mts';
import { streams } from './streams.mts';

const root = join(import.meta.dirname, '../..');
const dir = mkdtempSync(join(tmpdir(), 'cordwain-bench-'));
// The account of the database has to get into it.
chmodSync(dir, 0o711);
spawnSync('chmod', ['711', dir]);
const LINES = Number(process.env.BENCH_LINES ?? 1_000_000);
const say = (name: string, text: string) => console.log(`${name.padEnd(46)} ${text}`);
const seconds = async (work: () => Promise<unknown>) => {
	const start = performance.now();
	await work();
	return (performance.now() - start) / 1000;
};

async function writeReadings(path: string, lines: number, skipYears = 0): Promise<void> {
	const out = createWriteStream(path);
	out.write('time,station,instrument,quantity,value,unit,temp_c,wait_s,note\n');
	let state = 1;
	const noise = () => {
		state = (state * 48271) % 2147483647;
		return state / 2147483647 - 0.5;
	};
	const start = Date.UTC(skipYears === 0 ? 2025 : skipYears === 1 ? 2023 : 2021, 0, 1);
	for (let i = 0; i < lines / 2; i++) {
		const at = new Date(start + i * 60_000).toISOString();
		const day = Math.sin((i / 1440) * 2 * Math.PI);
		const text = `${at},pond,post,ph,${(5.9 + 0.05 * day + 0.03 * noise()).toFixed(2)},pH,,,\n${at},pond,post,ec,${(1.8 + 0.03 * day + 0.02 * noise()).toFixed(3)},mS/cm,,,\n`;
		if (!out.write(text)) await once(out, 'drain');
	}
	out.end();
	await once(out, 'close');
}

async function measured(script: string, path: string): Promise<{ time: number; peakMb: number }> {
	let peakKb = 0;
	const start = performance.now();
	const child = spawn(process.execPath, ['ops/run.mjs', script, path], {
		cwd: root,
		stdio: ['ignore', 'ignore', 'inherit'],
	});
	const watch = setInterval(() => {
		try {
			peakKb = Math.max(
				peakKb,
				Number(/VmHWM:\s+(\d+)/.exec(readFileSync(`/proc/${child.pid}/status`, 'utf8'))?.[1] ?? 0),
			);
		} catch {
			// The process has just ended.
		}
	}, 100);
	await once(child, 'exit');
	clearInterval(watch);
	return { time: (performance.now() - start) / 1000, peakMb: peakKb / 1024 };
}

const foreignKeys = async (client: Client): Promise<string[]> =>
	(
		await client.query(
			"SELECT pg_get_constraintdef(oid) AS key FROM pg_constraint WHERE conrelid = 'reading'::regclass AND contype = 'f' AND conparentid = 0",
		)
	).rows.map((r) => r.key);

class Done extends Error {}
const LOAD_S = 60;
const ROUNDS_A_BOOK = 250;
/** Minutes of a year. */
const YEAR = 525_600;
const SIZES = [
	[9, 10_000],
	[200, 10_000],
	[1000, 20_000],
] as const;
const CHECKER = 'src/cli/check.ts';

// Servers that are measured run what is built: of the code as it is.
(await import('../../ops/bootstrap.mjs' as string)).ensureBuild();
const { startCluster, removeCluster, ensureDatabase } = await import('../../ops/cluster.mjs' as string);
const cluster = await startCluster({ dataDir: dir, durable: true });
/** npm run bench -- growth: only what grows with stations and readings; -- load: fifty clients for a minute; -- files: the checker and the import, without those two; -- fuzz: bent
 * requests; -- streams: what sensors cost; -- nodes: ten of them for ten minutes; -- sites: many in one database; -- replica: charts from a copy that follows it; -- move: a site
 * from one cluster to another while people write; -- phone: the first view of Round on a slow one; -- crash: server and database killed a thousand times. */
const only = process.argv[2];
try {
	if (only === 'crash') {
		const seed = Number(process.env.BENCH_SEED ?? Date.now() % 1_000_000);
		const rounds = Number(process.env.BENCH_ROUNDS ?? 1000);
		// A book in which everything happens within minutes becomes slow to judge: after so many rounds a new one is begun.
		for (let done = 0; done < rounds; done += ROUNDS_A_BOOK) {
			const own = join(dir, `crash-${done}`);
			const given = {
				rounds: Math.min(ROUNDS_A_BOOK, rounds - done),
				seed: seed + done,
				databaseEvery: 8,
				checkEvery: 25,
			};
			try {
				const found = await crash(own, given, (text) => say('crash', text));
				for (const wrong of found.wrong.slice(0, 20)) say('wrong', wrong);
				say(
					`${found.rounds} times killed, seed ${given.seed}`,
					`${found.answered} writes answered, ${found.askedAgain} asked again, ${found.wrong.length} wrong`,
				);
			} finally {
				removeCluster(own);
			}
		}
		throw new Done();
	}
	if (only === 'fuzz') {
		const url = await ensureDatabase(cluster, 'fuzz');
		const pool = createPool(url, { siteId: 1 });
		await migrate(pool);
		await loadDemo(pool, { say: () => {} });
		await pool.end();
		await withServer(url, (base) => fuzzing(say, base));
		throw new Done();
	}
	if (only === 'nodes') {
		await nodes(say, await ensureDatabase(cluster, 'nodes'), Number(process.env.BENCH_SECONDS ?? 600));
		throw new Done();
	}
	if (only === 'phone') {
		const url = await ensureDatabase(cluster, 'phone');
		const pool = createPool(url);
		await migrate(pool);
		await loadDemo(pool, { say: () => {} });
		await pool.end();
		await withServer(url, (base) => phone(say, base));
		throw new Done();
	}
	if (only === 'move') {
		const other = await startCluster({ dataDir: join(dir, 'other'), durable: true });
		try {
			const urls: string[] = [];
			for (const c of [cluster, other]) {
				const url = await ensureDatabase(c, 'move');
				const pool = createPool(url);
				await migrate(pool);
				await loadDemo(pool, { say: () => {}, postDays: 1 });
				await pool.end();
				urls.push(url);
			}
			const m = await moveWhileWriting(urls[0]!, urls[1]!, 20_000);
			say(
				'a site moved between two clusters',
				`${m.answered} entries answered, ${m.askedAgain} asked again, longest wait ${m.longestMs} ms, ${m.wrong.length} wrong`,
			);
		} finally {
			await other.stop();
		}
		throw new Done();
	}
	if (only === 'replica') {
		const { postgresBinaries } = await import('../../ops/bootstrap.mjs' as string);
		const clusters = await import('../../ops/cluster.mjs' as string);
		await replica(say, clusters, postgresBinaries(), cluster, dir);
		throw new Done();
	}
	if (only === 'sites') {
		const sizes = (process.env.BENCH_SITES ?? '1,100,1000').split(',').map(Number);
		await sites(say, await ensureDatabase(cluster, 'sites'), sizes);
		throw new Done();
	}
	if (only === 'streams') {
		await streams(say, (name) => ensureDatabase(cluster, name), YEAR);
		throw new Done();
	}
	if (only !== 'files') {
		await growth(
			say,
			(name) => ensureDatabase(cluster, name),
			dir,
			only === 'load' ? SIZES.slice(0, 1) : [...SIZES, [200, LINES]],
		);
		if (only === 'growth') throw new Done();
		await withServer(await ensureDatabase(cluster, 'growth9x10000'), (base, pid) => load(say, base, pid, LOAD_S));
		if (only === 'load') throw new Done();
	}
	console.log(`Node ${process.version}, ${LINES.toLocaleString('en-GB')} lines\n`);
	const file = join(dir, 'readings.csv');
	await writeReadings(file, LINES);

	const baseline = await seconds(async () => {
		let n = 0;
		for await (const batch of csvRecords(createReadStream(file))) for (const r of batch) n += r.cells.length;
		return n;
	});
	const small = join(dir, 'small.csv');
	await writeReadings(small, LINES / 10);
	const less = await measured(CHECKER, small);
	const full = await measured(CHECKER, file);
	const plain = await measured('tests/bench/plain-check.mts', file);
	say(
		'checker',
		`${Math.round(LINES / full.time).toLocaleString('en-GB')} lines/s, ${(full.time / baseline).toFixed(1)} × only splitting the same file`,
	);
	say(
		'plain limits and rolling median, same file',
		`${Math.round(LINES / plain.time).toLocaleString('en-GB')} lines/s, ${plain.peakMb.toFixed(0)} MB; the checker takes ${(full.time / plain.time).toFixed(1)} × as long`,
	);
	say('checker, peak memory', `${full.peakMb.toFixed(0)} MB at ×1, ${less.peakMb.toFixed(0)} MB at a tenth`);

	for (const part of [100, 10, 1]) {
		const pool = createPool(await ensureDatabase(cluster, `bench${part}`), { siteId: 1 });
		await migrate(pool);
		const site = await siteForIntake(pool);
		const path = join(dir, `part-${part}.csv`);
		await writeReadings(path, LINES / part / 2);
		const time = await seconds(() =>
			importFile(pool, site, path, { dryRun: false, keepGood: false, who: 'bench', now: Date.now() }),
		);
		say(
			`import with checks, ${(LINES / part / 2).toLocaleString('en-GB')} lines`,
			`${Math.round(LINES / part / 2 / time).toLocaleString('en-GB')} lines/s`,
		);
		if (part === 1) {
			const client = await pool.connect();
			const { rows } = await client.query('SELECT count(*) AS n FROM reading');
			const copy = join(dir, 'pg', 'readings.bin');
			await client.query(`COPY (SELECT * FROM reading) TO '${copy}' (FORMAT binary)`);
			for (const [table, keys, words] of [
				['bare', [], 'without the keys that it refers to others by'],
				['same', await foreignKeys(client), 'with them, as the table itself'],
			] as const) {
				await client.query(`CREATE TABLE ${table} (LIKE reading INCLUDING ALL)`);
				for (const key of keys) await client.query(`ALTER TABLE ${table} ADD ${key}`);
				const bare = await seconds(async () => {
					await client.query(`COPY ${table} FROM '${copy}' (FORMAT binary)`);
				});
				say(
					`bare COPY of the same rows, ${words}`,
					`${Math.round(rows[0].n / bare).toLocaleString('en-GB')} rows/s; the import is ${(bare / time).toFixed(2)} of it`,
				);
			}
			client.release();
		}
		await pool.end();
	}

	const entryPool = createPool(await ensureDatabase(cluster, 'entry'), { siteId: 1 });
	await migrate(entryPool);
	let last = 0;
	for (const growth of [1, 10, 100]) {
		const path = join(dir, `entry-${growth}.csv`);
		await writeReadings(path, 3000 * growth, last);
		last = growth;
		await importFile(entryPool, await siteForIntake(entryPool), path, {
			dryRun: false,
			keepGood: false,
			who: 'bench',
			now: Date.now(),
		});
		const { rows } = await entryPool.query('SELECT count(*) AS n FROM reading');
		const times: number[] = [];
		for (let i = 0; i < 15; i++)
			times.push(
				await seconds(async () =>
					enterSamples(
						entryPool,
						await requireSite(entryPool),
						[
							{
								at: Date.now() + i,
								station: 'pond',
								readings: [
									{ quantity: 'ph', value: '5.91', unit: 'pH', instrument: 'post' },
									{ quantity: 'ec', value: '1.80', unit: 'mS/cm', instrument: 'post' },
								],
							},
						],
						{ source: 'bench', who: 'bench', now: Date.now() + 1000 },
					),
				),
			);
		times.sort((a, b) => a - b);
		say(
			`entering one sample among ${Number(rows[0].n).toLocaleString('en-GB')} readings`,
			`${(1000 * times[7]!).toFixed(1)} ms`,
		);
	}
	await entryPool.end();

	const calibrations = Array.from({ length: 50 }, (_, i) => ({
		id: i,
		at: i * 7.3 * 864e5,
		kind: 'adjust' as const,
		points: [
			{ nominal: 7, asFound: 7 + ((i * 37) % 11) / 20, asLeft: 7 },
			{ nominal: 4, asFound: 4 + ((i * 17) % 7) / 20, asLeft: 4 },
		],
	}));
	for (const growth of [1, 10, 100]) {
		const readings = Array.from({ length: 1000 * growth }, (_, i) => ({
			id: i,
			at: (i * 365 * 864e5) / (1000 * growth),
			value: 6,
			u: 0.03,
		}));
		say(
			`restating ${readings.length.toLocaleString('en-GB')} readings, 50 calibrations`,
			`${(1000 * (await seconds(async () => restateAlone('ph', readings, calibrations)))).toFixed(1)} ms`,
		);
	}

	for (const growth of [1, 10, 100]) {
		// Two nodes that write every minute, and a pen beside each every morning.
		const minutes = 5256 * growth;
		const sightings: Sighting[] = [];
		for (let m = 0; m < minutes; m++)
			for (const n of [1, 2]) {
				const at = m * 60_000;
				const one = { station: `tank ${n}`, sample: null, at, value: 6 + (m / 525_600) * n * 0.4, uRepeat: 0.03 };
				sightings.push({ ...one, id: 4 * m + n, probe: `node ${n}`, continuous: true });
				if (m % 1440 === 480) sightings.push({ ...one, id: 4 * m + n + 2, probe: 'pen', continuous: false, value: 6 });
			}
		const probes = ['node 1', 'node 2', 'pen'].map((code) => ({
			code,
			calibrations: calibrations.filter((_, i) => (code === 'pen' ? true : i % 12 === 0)),
			jumps: [],
		}));
		const before = process.memoryUsage().heapUsed;
		const taken = await seconds(async () => {
			const errors = new SiteErrors(
				'ph',
				probes,
				pairsOf('ph', sightings, () => false),
			);
			for (const code of ['node 1', 'node 2']) {
				const right = readOff('ph', errors.of(code)!);
				for (const s of sightings) if (s.probe === code) right({ id: s.id, at: s.at, value: s.value, u: 0.03 });
			}
		});
		say(
			`error curves of two nodes, ${(2 * minutes).toLocaleString('en-GB')} readings, and a pen each morning`,
			`${(1000 * taken).toFixed(0)} ms, ${Math.max((process.memoryUsage().heapUsed - before) / 2 ** 20, 0).toFixed(0)} MB more on the heap`,
		);
	}

	const assets = join(root, 'dist/client/_astro');
	let script = 0;
	let charts = 0;
	for (const name of readdirSync(assets)) {
		if (!/\.(js|css)$/.test(name)) continue;
		const size = gzipSync(readFileSync(join(assets, name))).length;
		if (/apexcharts/.test(name)) charts += size;
		else script += size;
	}
	say(
		'scripts and styles of all pages, gzip',
		`${(script / 1024).toFixed(0)} kB; charts, where there is one: ${(charts / 1024).toFixed(0)} kB`,
	);
} catch (error) {
	if (!(error instanceof Done)) throw error;
} finally {
	await cluster.stop();
	removeCluster(dir);
}
