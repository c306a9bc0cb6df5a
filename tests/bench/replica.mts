import { copyFileSync, mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { loadDemo } from '@/demo/load';
import { migrate } from '@/store/migrate';
import { createPool, PATIENT } from '@/store/pool';
import { secondsBehind } from '@/store/replica';
import { withServer } from './growth.mts';

/** Charts from a copy that follows the database (streaming replication), and entries meanwhile: what is left for the database itself. */
const FOR_MS = 20_000;
const CHARTS = 6;
const WRITERS = 2;

interface Clusters {
	startCluster: (o: {
		dataDir: string;
		durable: boolean;
	}) => Promise<{ url: (name: string) => string; stop: () => Promise<void> }>;
	runAsDatabaseUser: (
		command: string,
		args: string[],
		env: Record<string, string>,
	) => { status: number | null; stderr: string };
	makeOwned: (dir: string) => void;
	ensureDatabase: (cluster: unknown, name: string) => Promise<string>;
}

/** A copy of a cluster that follows it, in a folder of its own. */
async function follow(c: Clusters, bin: string, url: string, from: string, dataDir: string) {
	mkdirSync(dataDir, { recursive: true, mode: 0o711 });
	copyFileSync(join(from, 'password'), join(dataDir, 'password'));
	c.makeOwned(join(dataDir, 'pg'));
	const { hostname, port, username, password } = new URL(url);
	const done = c.runAsDatabaseUser(
		join(bin, 'pg_basebackup'),
		['-h', hostname, '-p', port, '-U', username, '-D', join(dataDir, 'pg'), '-R', '-X', 'stream', '-c', 'fast'],
		{ PGPASSWORD: decodeURIComponent(password) },
	);
	if (done.status !== 0) throw new Error(`pg_basebackup: ${done.stderr}`);
	return c.startCluster({ dataDir, durable: true });
}

const quantile = (list: number[], q: number): number =>
	[...list].sort((a, b) => a - b)[Math.floor(q * (list.length - 1))]!;

/** People who look at charts and people who enter, for a while. */
async function busy(base: string): Promise<{ charts: number; entries: number[] }> {
	const end = Date.now() + FOR_MS;
	let charts = 0;
	const entries: number[] = [];
	const looks = async (k: number) => {
		const [station, quantity] = (
			[
				['pond', 'ec'],
				['pond', 'ph'],
				['slabs', 'ec'],
			] as const
		)[k % 3]!;
		while (Date.now() < end) {
			const days = 30 + ((charts * 37) % 200);
			const from = new Date(Date.now() - days * 86_400_000).toISOString();
			const query = `quantity=${quantity}&from=${from}&to=${new Date().toISOString()}`;
			const response = await fetch(`${base}/api/v1/stations/${station}/series?${query}`);
			if (!response.ok) throw new Error(`series: ${response.status}`);
			await response.arrayBuffer();
			charts++;
		}
	};
	const writes = async (k: number) => {
		for (let n = 0; Date.now() < end; n++) {
			const begin = performance.now();
			const response = await fetch(`${base}/api/v1/readings`, {
				method: 'POST',
				body: JSON.stringify([
					{
						time: new Date().toISOString(),
						station: 'pond',
						instrument: 'plum',
						quantity: 'ph',
						value: `5.9${(n + k) % 10}`,
						unit: 'pH',
					},
				]),
			});
			await response.arrayBuffer();
			if (response.status !== 201) throw new Error(`readings: ${response.status}`);
			entries.push(performance.now() - begin);
			await new Promise((r) => setTimeout(r, 100));
		}
	};
	await Promise.all([
		...Array.from({ length: CHARTS }, (_, k) => looks(k)),
		...Array.from({ length: WRITERS }, (_, k) => writes(k)),
	]);
	return { charts, entries };
}

export async function replica(
	say: (name: string, text: string) => void,
	c: Clusters,
	bin: string,
	cluster: { url: (name: string) => string },
	dir: string,
): Promise<void> {
	const url = await c.ensureDatabase(cluster, 'reads');
	const pool = createPool(url, PATIENT);
	await migrate(pool);
	await loadDemo(pool, { say: () => {} });
	const copy = await follow(c, bin, url, dir, join(dir, 'copy'));
	const readsUrl = copy.url('reads');
	const reads = createPool(readsUrl, PATIENT);
	/** Rows that a database has handed out of its tables and indexes. */
	const read = async (p: typeof pool): Promise<number> =>
		(await p.query("SELECT (tup_returned + tup_fetched)::float8 AS n FROM pg_stat_database WHERE datname = 'reads'"))
			.rows[0].n;
	let behind = 0;
	const watch = setInterval(
		() =>
			void secondsBehind(reads).then(
				(s) => (behind = Math.max(behind, s)),
				() => {},
			),
		250,
	);
	try {
		for (const [name, more] of [
			['charts from the database itself', {}],
			['charts from the copy', { DATABASE_READS: readsUrl }],
		] as const) {
			const before = [await read(pool), await read(reads)];
			const { charts, entries } = await withServer(url, busy, more);
			// What was read is counted a moment later.
			await new Promise((r) => setTimeout(r, 1500));
			const after = [await read(pool), await read(reads)];
			const [own, other] = after.map((n, i) => (n - before[i]!) / 1e6);
			say(
				name,
				`${charts} charts, ${entries.length} entries p50 ${quantile(entries, 0.5).toFixed(0)} p95 ${quantile(entries, 0.95).toFixed(0)} ms; rows read: ${own!.toFixed(1)} M of the database, ${other!.toFixed(1)} M of the copy`,
			);
		}
		const count = async (p: typeof pool) => (await p.query('SELECT count(*)::int AS n FROM reading')).rows[0].n;
		say(
			'the copy',
			`${behind.toFixed(2)} s behind at most; ${await count(pool)} readings there and ${await count(reads)} here`,
		);
	} finally {
		clearInterval(watch);
		await reads.end();
		await pool.end();
		await copy.stop();
	}
}
