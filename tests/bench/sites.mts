import { readFileSync } from 'node:fs';
import { archivedTables } from '@/store/archive/catalog';
import { migrate } from '@/store/migrate';
import { createPool, PATIENT, type Pool, transaction } from '@/store/pool';
import { withServer } from './growth.mts';

/** What many sites in one database cost: each with a month of a small grower's readings, asked here and there. */
const STATIONS = ['well', 'tank', 'drain'] as const;
const DAYS = 30;
const ASKED = 60;

/** One site as scripts make it. */
async function firstSite(base: string): Promise<void> {
	const post = async (path: string, body: unknown, method = 'POST') => {
		const response = await fetch(`${base}/api/v1${path}`, {
			method,
			body: typeof body === 'string' ? body : JSON.stringify(body),
		});
		if (!response.ok) throw new Error(`${path}: ${response.status} ${await response.text()}`);
	};
	await post('/site', { name: 'Yard 1', timezone: 'UTC' }, 'PUT');
	await post('/stations', { code: 'well', kind: 'source' });
	await post('/stations', {
		code: 'tank',
		kind: 'reservoir',
		volume_l: 120,
		ranges: { ph: [5.5, 6.3], ec: [1400, 2000] },
	});
	await post('/stations', { code: 'drain', kind: 'drain' });
	await post('/instruments', { code: 'plum', kind: 'combined' });
	let csv = 'time,station,instrument,quantity,value,unit\n';
	const begin = Date.now() - DAYS * 86_400_000;
	for (let d = 0; d < DAYS; d++)
		for (const [i, station] of STATIONS.entries()) {
			const at = new Date(begin + d * 86_400_000 + i * 60_000).toISOString();
			const wave = 0.05 * Math.sin(d + i);
			csv += `${at},${station},plum,ph,${(6 + 0.4 * i + wave).toFixed(2)},pH\n${at},${station},plum,ec,${(0.6 + 0.6 * i + wave).toFixed(2)},mS/cm\n${at},${station},plum,temp,${(19 + wave).toFixed(1)},C\n`;
		}
	await post('/import', csv);
}

/** Sites from one number to another as copies of the first. */
async function copySites(pool: Pool, from: number, to: number): Promise<void> {
	await transaction(pool, async (client) => {
		// Every key is of the original: looking each up again would measure that.
		await client.query("SET LOCAL session_replication_role = 'replica'");
		const tables = (await archivedTables(client)).filter(
			(t) => t.columns.some((c) => c.name === 'site_id') && t.name !== 'membership',
		);
		const site = (await archivedTables(client)).find((t) => t.name === 'site')!;
		const rest = site.columns.map((c) => c.name).filter((c) => c !== 'id' && c !== 'name');
		await client.query({
			text: `INSERT INTO site (id, name, ${rest.join(', ')}) OVERRIDING SYSTEM VALUE SELECT n, 'Yard ' || n, ${rest.join(', ')} FROM site, generate_series($1::int, $2::int) n WHERE id = 1`,
			values: [from, to],
		});
		for (const t of tables) {
			const others = t.columns.map((c) => `"${c.name}"`).filter((c) => c !== '"site_id"');
			await client.query(
				`INSERT INTO "${t.name}" (site_id, ${others.join(', ')}) SELECT n, ${others.join(', ')} FROM "${t.name}", generate_series(${from}, ${to}) n WHERE site_id = 1`,
			);
		}
		await client.query("SELECT setval('site_id_seq', $1)", [to]);
	});
	await pool.query('ANALYZE');
}

const quantile = (list: number[], q: number): number =>
	[...list].sort((a, b) => a - b)[Math.floor(q * (list.length - 1))]!;
const told = (list: number[]): string =>
	`p50 ${quantile(list, 0.5).toFixed(0)} ms, p95 ${quantile(list, 0.95).toFixed(0)} ms`;

async function asked(base: string, most: number): Promise<Record<string, number[]>> {
	const times: Record<string, number[]> = { 'first page': [], 'first entry': [], 'next entry': [], 'next page': [] };
	const timed = async (what: string, work: () => Promise<Response>) => {
		const begin = performance.now();
		const response = await work();
		await response.arrayBuffer();
		if (!response.ok) throw new Error(`${what}: ${response.status}`);
		times[what]!.push(performance.now() - begin);
	};
	let state = most;
	for (let i = 0; i < ASKED; i++) {
		state = (state * 48_271) % 2_147_483_647;
		const site = String(1 + (state % most));
		const page = () => fetch(`${base}/`, { headers: { 'x-cordwain-site': site, accept: 'text/html' } });
		const entry = () =>
			fetch(`${base}/api/v1/readings`, {
				method: 'POST',
				headers: { 'x-cordwain-site': site },
				body: JSON.stringify([
					{
						time: new Date().toISOString(),
						station: 'tank',
						instrument: 'plum',
						quantity: 'ph',
						value: '6.41',
						unit: 'pH',
					},
				]),
			});
		await timed('first page', page);
		await timed('first entry', entry);
		await timed('next entry', entry);
		await timed('next page', page);
	}
	return times;
}

export async function sites(
	say: (name: string, text: string) => void,
	url: string,
	sizes: readonly number[],
): Promise<void> {
	const pool = createPool(url, PATIENT);
	await migrate(pool);
	await withServer(url, (base) => firstSite(base));
	let there = 1;
	for (const size of sizes) {
		const begin = performance.now();
		if (size > there) await copySites(pool, there + 1, size);
		const made = (performance.now() - begin) / 1000;
		there = size;
		const { rows } = await pool.query(
			'SELECT pg_database_size(current_database())::float8 / 1e6 AS mb, (SELECT count(*)::int FROM reading) AS readings',
		);
		await withServer(url, async (base, pid) => {
			const first = await asked(base, size);
			const list = performance.now();
			await (await fetch(`${base}/api/v1/sites`)).arrayBuffer();
			const listed = performance.now() - list;
			const rss = Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))![1]) / 1024;
			say(
				`${size.toLocaleString('en-GB')} sites`,
				`${rows[0].readings.toLocaleString('en-GB')} readings, ${rows[0].mb.toFixed(0)} MB, copied in ${made.toFixed(0)} s; server ${rss.toFixed(0)} MB after ${ASKED} of them; list of all ${listed.toFixed(0)} ms`,
			);
			for (const [what, ms] of Object.entries(first)) say(`  ${what}`, told(ms));
		});
	}
	await pool.end();
}
