import { type ChildProcess, spawn, spawnSync } from 'node:child_process';
import { once } from 'node:events';
import { join } from 'node:path';
import { newToken, saveNode } from '@/service/sensors/nodes';
import { seeded } from '@/sim/random';
import { PLAIN_INSTRUMENT, PLAIN_STATION, putInstrument, putStation } from '@/store/line';
import { migrate } from '@/store/migrate';
import { createPool, type Pool, transaction } from '@/store/pool';
import { insertSite } from '@/store/site';
import { freePort } from './application';
import { differingRollups, rawOf } from './streams';

/**
 * Several people write all kinds of things, each under a key of its own, while the server or the database is killed without
 * warning. Whoever got no answer asks again under the same key once it is back. In the end every write that was answered is there
 * exactly once, and nothing is there by half.
 */
const root = join(import.meta.dirname, '../..');
const WRITERS = 4;
/** Writes of a round that are answered before it ends. */
const LEAST = 6;
/** The node, and how many samples it sends at once. */
const NODE = 'post';
const SAMPLES = 30;
/** Lines of a file that comes in as a whole. */
const LINES = 40;

interface Cluster {
	url: (database: string) => string;
	pid: number;
	stop: () => Promise<void>;
}
const { startCluster, ensureDatabase } = (await import('../../ops/cluster.mjs' as string)) as {
	startCluster: (o: { dataDir: string; durable: boolean }) => Promise<Cluster>;
	ensureDatabase: (cluster: Cluster, name: string) => Promise<string>;
};

/** One write: what is sent under its key, and what must be found of it. */
interface Write {
	key: string;
	path: string;
	type: string;
	body: string;
	/** How many rows of it there are, told by its key in a note. */
	rows: { table: string; column: string; count: number }[];
	/** What a node sends: so many samples, a second apart, from a time on. */
	samples?: { from: number; count: number };
}

export interface Crashed {
	rounds: number;
	/** Writes that were answered, and those of them that had to be asked for again. */
	answered: number;
	askedAgain: number;
	/** What is not as it should be. */
	wrong: string[];
}

const sleep = (ms: number) => new Promise((r) => setTimeout(r, ms));

async function startServer(databaseUrl: string): Promise<{ base: string; child: ChildProcess }> {
	const port = await freePort();
	const child = spawn(process.execPath, [join(root, 'ops/serve.mjs')], {
		env: { ...process.env, DATABASE_URL: databaseUrl, HOST: '127.0.0.1', PORT: String(port), NODE_ENV: 'production' },
		stdio: 'ignore',
	});
	const base = `http://127.0.0.1:${port}`;
	for (let tries = 0; ; tries++) {
		if (
			await fetch(`${base}/api/v1/health`).then(
				(r) => r.ok,
				() => false,
			)
		)
			return { base, child };
		if (child.exitCode !== null || tries > 400) throw new Error('The server did not come back.');
		await sleep(20);
	}
}

/** The database and all its processes, at once. */
async function killDatabase(pid: number): Promise<void> {
	const children = spawnSync('pgrep', ['-P', String(pid)], { encoding: 'utf8' })
		.stdout.split('\n')
		.filter(Boolean);
	for (const p of [pid, ...children.map(Number)])
		try {
			process.kill(p, 'SIGKILL');
		} catch {
			// It has ended by itself meanwhile.
		}
}
async function databaseAgain(dataDir: string): Promise<Cluster> {
	for (let tries = 0; ; tries++)
		try {
			return await startCluster({ dataDir, durable: true });
		} catch (error) {
			// What the killed one held is given back by the system a moment later.
			if (tries > 20) throw error;
			await sleep(200);
		}
}

/** A site with two tanks, two pens and a node. @returns the token of the node */
async function smallSite(pool: Pool): Promise<string> {
	const { id } = await transaction(pool, (client) =>
		insertSite(client, { name: 'Yard', timezone: 'UTC', units: {}, settings: {} }),
	);
	for (const [position, code] of ['pond', 'tower-1'].entries())
		await putStation(pool, id, { ...PLAIN_STATION, code, name: code, kind: 'reservoir', position });
	for (const code of ['plum', 'brass'])
		await putInstrument(pool, id, { ...PLAIN_INSTRUMENT, code, name: code, kind: 'combined', quantities: {} });
	await saveNode(pool, { code: NODE, station: 'pond' }, 'grower');
	return newToken(pool, NODE, 'grower');
}

class Writers {
	private minute = 0;
	private sent = 0;
	/** Of readings that can be decided about and corrected. */
	private readonly known: number[] = [];

	constructor(
		private readonly chance: () => number,
		private readonly id: (n: number) => string,
	) {}

	learn(write: Write, answer: unknown): void {
		if (write.path !== '/readings') return;
		for (const s of (answer as { samples: { readings: { id: number }[] }[] }).samples)
			this.known.push(s.readings[0]!.id);
	}

	private time(): string {
		return new Date(Date.UTC(2026, 2, 1) + 60_000 * ++this.minute).toISOString();
	}

	/** Samples that nobody else sends; every third time from before those that were sent last. */
	private fromNode(of: (path: string, body: unknown, rows: Write['rows']) => Write): Write {
		const n = ++this.sent;
		const from = Date.UTC(2026, 6, 15) + 1000 * SAMPLES * (n % 3 === 0 ? n - 2 : n + 1);
		const samples = Array.from({ length: SAMPLES }, (_, i) => ({
			at: new Date(from + 1000 * i).toISOString(),
			quantity: 'ph',
			value: Number((5.9 + 0.02 * Math.sin(n + i) + (this.chance() < 0.02 ? 2 : 0)).toFixed(2)),
			unit: 'pH',
		}));
		return { ...of('/ingest', { samples }, []), samples: { from, count: SAMPLES } };
	}

	next(): Write {
		const key = `${this.id(8)}-${this.id(4)}-4${this.id(3)}-a${this.id(3)}-${this.id(12)}`;
		const of = (path: string, body: unknown, rows: Write['rows']): Write => ({
			key,
			path,
			type: 'application/json',
			body: JSON.stringify(body),
			rows,
		});
		const row = (table: string, count: number, column = 'note') => ({ table, column, count });
		const reading =
			this.known.length > 0 ? this.known.splice(Math.floor(this.chance() * this.known.length), 1)[0] : null;
		const what = Math.floor(this.chance() * 12);
		if (what > 8) return this.fromNode(of);
		const ph = (5.7 + this.chance() / 2).toFixed(2);
		if (what === 0)
			return of(
				'/events',
				{ time: this.time(), station: 'pond', kind: 'water_added', amount: 5, unit: 'L', note: key },
				[row('event', 1)],
			);
		if (what === 1 && reading)
			return of(`/readings/${reading}/decision`, { kind: 'retest', reason: key }, [row('decision', 1, 'reason')]);
		if (what === 2 && reading)
			return of(`/readings/${reading}/correction`, { value: ph, reason: key }, [
				row('audit', 1, "detail ->> 'reason'"),
			]);
		if (what === 3)
			return of(
				'/calibrations',
				{
					time: this.time(),
					instrument: 'brass',
					quantity: 'ph',
					kind: 'adjust',
					temp_c: 20,
					note: key,
					points: [
						{ standard: 'pH 7.00', as_found: 7.04, as_left: 7 },
						{ standard: 'pH 4.01', as_found: 4.03, as_left: 4.01 },
					],
				},
				[row('calibration', 1)],
			);
		if (what === 4)
			return {
				key,
				path: '/import',
				type: 'text/csv',
				body: `time,station,instrument,quantity,value,unit,note\n${Array.from({ length: LINES }, () => `${this.time()},tower-1,plum,ph,${ph},pH,${key}`).join('\n')}\n`,
				rows: [row('reading', LINES)],
			};
		const time = this.time();
		return of(
			'/readings',
			['ph', 'ec'].map((quantity) => ({
				time,
				station: 'pond',
				instrument: 'plum',
				quantity,
				value: quantity === 'ph' ? ph : '1.80',
				unit: quantity === 'ph' ? 'pH' : 'mS/cm',
				note: key,
			})),
			[row('reading', 2)],
		);
	}
}

async function send(base: string, w: Write, token: string): Promise<{ status: number; body: unknown }> {
	const response = await fetch(`${base}/api/v1${w.path}`, {
		method: 'POST',
		headers: {
			'content-type': w.type,
			...(w.samples ? { authorization: `Bearer ${token}` } : { 'idempotency-key': w.key }),
		},
		body: w.body,
		signal: AbortSignal.timeout(30_000),
	});
	return { status: response.status, body: await response.json() };
}

/** What is stored by half: none of these may have a row. */
const HALVES: Record<string, string> = {
	'readings that nobody judged':
		'FROM reading r LEFT JOIN verdict v ON v.site_id = r.site_id AND v.reading_id = r.id WHERE v.reading_id IS NULL',
	'samples without a reading':
		'FROM sample s LEFT JOIN reading r ON r.site_id = s.site_id AND r.sample_id = s.id WHERE r.id IS NULL',
	'calibrations without a point':
		'FROM calibration c LEFT JOIN calibration_point p ON p.site_id = c.site_id AND p.calibration_id = c.id WHERE p.calibration_id IS NULL',
	'corrected readings that still stand':
		'FROM reading n JOIN verdict v ON v.site_id = n.site_id AND v.reading_id = n.supersedes WHERE NOT v.superseded',
	'keys with an answer and no row of their own':
		"FROM answered a WHERE a.operation = 'POST /readings' AND NOT EXISTS (SELECT 1 FROM sample s WHERE s.site_id = a.site_id AND s.key = a.key)",
};

async function check(pool: Pool, writes: readonly Write[]): Promise<string[]> {
	const wrong: string[] = [];
	const kinds = new Map<string, Write['rows'][number]>(
		writes.flatMap((w) => w.rows.map((r) => [`${r.table} ${r.column}`, r])),
	);
	for (const { table, column } of kinds.values()) {
		const { rows } = await pool.query<{ key: string; n: number }>(
			// A corrected reading keeps the note of the one it stands for.
			`SELECT ${column} AS key, count(*)::int AS n FROM ${table} WHERE length(${column}) = 36 ${table === 'reading' ? 'AND supersedes IS NULL' : ''} GROUP BY 1`,
		);
		const found = new Map(rows.map((r) => [r.key, r.n]));
		for (const w of writes)
			for (const r of w.rows)
				if (r.table === table && r.column === column && found.get(w.key) !== r.count)
					wrong.push(
						`${w.path} ${w.key}: ${found.get(w.key) ?? 0} rows of ${table} where ${r.count} were answered for`,
					);
		const answered = new Set(writes.map((w) => w.key));
		for (const key of found.keys())
			if (!answered.has(key)) wrong.push(`${table} holds ${key}, which nobody was answered for`);
	}
	const stored = await rawOf(pool, NODE);
	const sent = writes.flatMap((w) => w.samples ?? []);
	for (const { from, count } of sent) {
		const there = stored.filter((r) => r.at >= from && r.at < from + 1000 * count).length;
		if (there !== count)
			wrong.push(`${there} samples from ${new Date(from).toISOString()} where ${count} were answered for`);
	}
	const answeredFor = sent.reduce((n, s) => n + s.count, 0);
	if (stored.length !== answeredFor) wrong.push(`${stored.length} samples where ${answeredFor} were answered for`);
	wrong.push(...(await differingRollups(pool, NODE)));
	for (const [what, from] of Object.entries(HALVES)) {
		const { rows } = await pool.query<{ n: number }>(`SELECT count(*)::int AS n ${from}`);
		if (rows[0]!.n > 0) wrong.push(`${rows[0]!.n} ${what}`);
	}
	return wrong;
}

/**
 * @param dataDir for a cluster of its own, which is killed
 * @param databaseEvery so many rounds kill the database, the others the server
 * @param checkEvery what is stored is looked at after so many rounds, and at the end
 */
export async function crash(
	dataDir: string,
	{
		rounds,
		seed,
		databaseEvery,
		checkEvery,
	}: { rounds: number; seed: number; databaseEvery: number; checkEvery: number },
	say: (text: string) => void = () => {},
): Promise<Crashed> {
	let cluster = await startCluster({ dataDir, durable: true });
	const pools: Pool[] = [];
	const connect = async () => {
		const url = await ensureDatabase(cluster, 'crash');
		const pool = createPool(url, { siteId: 1 });
		pools.push(pool);
		return { url, pool };
	};
	let { url, pool } = await connect();
	const { next: chance } = seeded(seed);
	const hex = (n: number) => Array.from({ length: n }, () => Math.floor(chance() * 16).toString(16)).join('');
	const writers = new Writers(chance, hex);
	const answered: Write[] = [];
	const result: Crashed = { rounds, answered: 0, askedAgain: 0, wrong: [] };
	const settle = (w: Write, { status, body }: { status: number; body: unknown }) => {
		if (status >= 200 && status < 300) {
			answered.push(w);
			writers.learn(w, body);
		} else if (status >= 500 && status !== 503)
			result.wrong.push(`${w.path} answers ${status}: ${JSON.stringify(body)}`);
		return status !== 503;
	};
	let server: Awaited<ReturnType<typeof startServer>> | null = null;
	try {
		await migrate(pool);
		const token = await smallSite(pool);
		for (let round = 1; round <= rounds; round++) {
			// Who answered what was open goes on being written to.
			server ??= await startServer(url);
			const { base, child } = server;
			const open: Write[] = [];
			let on = true;
			const writing = Array.from({ length: WRITERS }, async () => {
				while (on) {
					const w = writers.next();
					const done = await send(base, w, token).then(
						(got) => settle(w, got),
						() => false,
					);
					if (!done) open.push(w);
				}
			});
			// On a slow machine, too, some are answered before the end.
			const before = answered.length;
			for (let tries = 0; answered.length < before + LEAST && tries < 100; tries++) await sleep(20);
			await sleep(300 * chance());
			const database = round % databaseEvery === 0;
			if (database) await killDatabase(cluster.pid);
			else child.kill('SIGKILL');
			on = false;
			await Promise.all(writing);
			if (database) {
				child.kill('SIGKILL');
				await pool.end();
				cluster = await databaseAgain(dataDir);
				({ url, pool } = await connect());
			}
			if (child.exitCode === null && child.signalCode === null) await once(child, 'exit');
			server = await startServer(url);
			for (const w of open) {
				result.askedAgain++;
				if (!settle(w, await send(server.base, w, token)))
					result.wrong.push(`${w.path} is not answered after the crash`);
			}
			if (round % checkEvery === 0 || round === rounds) {
				result.wrong.push(...(await check(pool, answered)));
				say(
					`${round} rounds: ${answered.length} answered, ${result.askedAgain} asked again, ${result.wrong.length} wrong`,
				);
				if (result.wrong.length > 0) break;
			}
		}
		result.answered = answered.length;
		return result;
	} finally {
		server?.child.kill('SIGKILL');
		for (const p of pools) await p.end().catch(() => {});
		await cluster.stop();
	}
}
