import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { createWriteStream } from 'node:fs';
import { get } from 'node:http';
import { join } from 'node:path';
import { enterSamples } from '@/service/enter';
import { importFile } from '@/service/import';
import { requireSite, siteForIntake } from '@/service/site';
import { migrate } from '@/store/migrate';
import { createPool } from '@/store/pool';
import { median } from './measuring.mts';

/** What a page weighs and takes, and what an entry takes, with more stations and with more in the book. */

const root = join(import.meta.dirname, '../..');
const FIRST = Date.UTC(2025, 0, 1);

/** Hand readings of many stations, each on its own level, in order of time. */
export async function writeStations(path: string, stations: number, visits: number): Promise<void> {
	const out = createWriteStream(path);
	out.write('time,station,instrument,quantity,value,unit,temp_c,wait_s,note\n');
	let state = 7;
	const noise = () => {
		state = (state * 48271) % 2147483647;
		return state / 2147483647 - 0.5;
	};
	for (let v = 0; v < visits; v++)
		for (let s = 0; s < stations; s++) {
			const at = new Date(FIRST + (v * stations + s) * Math.floor((400 * 864e5) / (visits * stations))).toISOString();
			const level = 5.6 + (s % 13) / 20;
			const text = `${at},bed-${s},plum,ph,${(level + 0.05 * noise()).toFixed(2)},pH,,,\n${at},bed-${s},plum,ec,${(1.5 + (s % 9) / 10 + 0.05 * noise()).toFixed(2)},mS/cm,,,\n`;
			if (!out.write(text)) await once(out, 'drain');
		}
	out.end();
	await once(out, 'close');
}

interface Page {
	ms: number;
	bytes: number;
	whole: number;
}
const fetchPage = (base: string, path: string): Promise<Page> =>
	new Promise((resolve, reject) => {
		const start = performance.now();
		get(base + path, { headers: { 'accept-encoding': 'br' } }, (response) => {
			let bytes = 0;
			response.on('data', (d: Buffer) => {
				bytes += d.length;
			});
			response.on('end', () => resolve({ ms: performance.now() - start, bytes, whole: response.statusCode! }));
		}).on('error', reject);
	});

export async function withServer<T>(
	databaseUrl: string,
	work: (base: string, pid: number) => Promise<T>,
	more: Record<string, string> = {},
): Promise<T> {
	const port = 20_000 + Math.floor(Math.random() * 20_000);
	const child = spawn(process.execPath, [join(root, 'ops/serve.mjs')], {
		env: {
			...process.env,
			DATABASE_URL: databaseUrl,
			HOST: '127.0.0.1',
			PORT: String(port),
			NODE_ENV: 'production',
			...more,
		},
		stdio: ['ignore', 'ignore', 'inherit'],
	});
	try {
		const base = `http://127.0.0.1:${port}`;
		for (let n = 0; n < 200; n++) {
			if (
				await fetchPage(base, '/api/v1/openapi.json').then(
					() => true,
					() => false,
				)
			)
				break;
			await new Promise((r) => setTimeout(r, 50));
		}
		return await work(base, child.pid!);
	} finally {
		child.kill('SIGTERM');
		await once(child, 'exit');
	}
}

/** @param readings in the book, for each of these numbers of stations */
export async function growth(
	say: (name: string, text: string) => void,
	databaseFor: (name: string) => Promise<string>,
	dir: string,
	sizes: readonly (readonly [stations: number, readings: number])[],
): Promise<void> {
	for (const [stations, readings] of sizes) {
		const url = await databaseFor(`growth${stations}x${readings}`);
		const pool = createPool(url, { siteId: 1 });
		await migrate(pool);
		const path = join(dir, `stations-${stations}.csv`);
		await writeStations(path, stations, Math.max(Math.round(readings / stations / 2), 1));
		await importFile(pool, await siteForIntake(pool), path, {
			dryRun: false,
			keepGood: false,
			who: 'bench',
			now: Date.now(),
		});
		await pool.query('VACUUM ANALYZE');
		const name = `${stations} stations, ${readings.toLocaleString('en-GB')} readings`;
		const times: number[] = [];
		for (let i = 0; i < 15; i++) {
			const start = performance.now();
			const context = await requireSite(pool);
			await enterSamples(
				pool,
				context,
				[
					{
						at: Date.now() + i,
						station: 'bed-0',
						readings: [{ quantity: 'ph', value: '5.61', unit: 'pH', instrument: 'plum' }],
					},
				],
				{ source: 'bench', who: 'bench', now: Date.now() + 1000 },
			);
			times.push(performance.now() - start);
		}
		say(`entering one sample, ${name}`, `${median(times).toFixed(1)} ms (the first ${Math.max(...times).toFixed(0)})`);
		await pool.end();
		await withServer(url, async (base) => {
			for (const page of ['/', '/bench', '/ledger', '/review', '/trends']) {
				const first = await fetchPage(base, page);
				const pages: Page[] = [];
				for (let n = 0; n < 9; n++) pages.push(await fetchPage(base, page));
				say(
					`${page} with ${name}`,
					`${median(pages.map((p) => p.ms)).toFixed(0)} ms (the first ${first.ms.toFixed(0)}), ${(pages[0]!.bytes / 1024).toFixed(0)} kB compressed`,
				);
			}
			const start = performance.now();
			const csv = await fetchPage(base, '/api/v1/readings?format=csv');
			say(
				`export as CSV, ${name}`,
				`${Math.round((1000 * readings) / (performance.now() - start)).toLocaleString('en-GB')} lines/s, ${(csv.bytes / 1e6).toFixed(1)} MB compressed`,
			);
		});
	}
}
