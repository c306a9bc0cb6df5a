// npm run bench -- nodes: ten nodes that post every second for ten minutes while charts are open.
import { readFileSync } from 'node:fs';
import { newToken, saveNode } from '@/service/sensors/nodes';
import { siteForIntake } from '@/service/site';
import { PLAIN_STATION, putStation } from '@/store/line';
import { migrate } from '@/store/migrate';
import { createPool } from '@/store/pool';
import { differingRollups, rawOf } from '../helpers/streams';
import { withServer } from './growth.mts';

const NODES = 10;
const CHARTS = 3;
const memoryMb = (pid: number): number =>
	Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))?.[1] ?? 0) / 1024;
const sleep = (ms: number) => new Promise((done) => setTimeout(done, ms));
const share = (list: number[], p: number): number => list.sort((a, b) => a - b)[Math.floor(p * (list.length - 1))] ?? 0;

export async function nodes(say: (name: string, text: string) => void, url: string, seconds: number): Promise<void> {
	const pool = createPool(url, { siteId: 1 });
	await migrate(pool);
	const { site } = await siteForIntake(pool);
	const tokens: string[] = [];
	for (let n = 0; n < NODES; n++) {
		await putStation(pool, site.id, {
			...PLAIN_STATION,
			code: `tank-${n}`,
			name: `Tank ${n}`,
			kind: 'reservoir',
			position: n,
			ranges: { ph: [5.5, 6.5], ec: [1500, 2100] },
		});
		await saveNode(pool, { code: `post-${n}`, station: `tank-${n}` }, 'bench');
		tokens.push(await newToken(pool, `post-${n}`, 'bench'));
	}
	const [posts, pages, series]: number[][] = [[], [], []];
	let [accepted, wrong] = [0, 0];
	const sent = new Map<string, number>();
	const memory: number[] = [];
	await withServer(url, async (base, pid) => {
		const until = Date.now() + seconds * 1000;
		const timed = async (list: number[], path: string, init?: RequestInit) => {
			const begun = performance.now();
			const response = await fetch(base + path, { headers: { accept: 'text/html' }, ...init });
			const text = await response.text();
			list.push(performance.now() - begun);
			if (!response.ok) wrong++;
			return { ok: response.ok, text };
		};
		const node = async (n: number) => {
			for (let i = 0; Date.now() < until; i++) {
				const due = performance.now() + 1000;
				const at = new Date(Date.now()).toISOString();
				const samples = [
					{ at, quantity: 'ph', value: 5.9 + 0.02 * Math.sin(i / 7), unit: 'pH' },
					{ at, quantity: 'ec', value: 1800 + 8 * Math.sin(i / 5), unit: 'uS/cm' },
					{ at, quantity: 'temp', value: 20 + 0.1 * Math.sin(i / 3), unit: 'C' },
				];
				const { ok, text } = await timed(posts!, '/api/v1/ingest', {
					method: 'POST',
					headers: { authorization: `Bearer ${tokens[n]}`, 'content-type': 'application/json' },
					body: JSON.stringify({ samples }),
				});
				if (ok) accepted += JSON.parse(text).accepted;
				sent.set(`post-${n}`, (sent.get(`post-${n}`) ?? 0) + samples.length);
				await sleep(Math.max(due - performance.now(), 0));
			}
		};
		const reader = async (n: number) => {
			for (let i = 0; Date.now() < until; i++) {
				const code = `tank-${(n + i) % NODES}`;
				const to = new Date().toISOString();
				const from = new Date(Date.now() - 3_600_000).toISOString();
				await timed(pages!, i % 2 === 0 ? `/trends?part=lines&lines=${code}.ph` : '/');
				for (const q of ['ph', 'ec'])
					await timed(
						series!,
						`/api/v1/stations/${code}/series?quantity=${q}&of=sensor&from=${from}&to=${to}&points=900`,
						{ headers: { accept: 'application/json' } },
					);
				await sleep(2000);
			}
		};
		const watch = setInterval(() => memory.push(memoryMb(pid)), 10_000);
		await Promise.all([...tokens.map((_, n) => node(n)), ...Array.from({ length: CHARTS }, (_, n) => reader(n))]);
		clearInterval(watch);
	});
	let [stored, differing] = [0, 0];
	for (const code of sent.keys()) {
		const raw = await rawOf(pool, code);
		stored += raw.length;
		differing += (await differingRollups(pool, code)).length;
	}
	const all = [...sent.values()].reduce((a, b) => a + b, 0);
	say(
		`${NODES} nodes, a post each second for ${seconds} s, ${CHARTS} open charts`,
		`${all.toLocaleString('en-GB')} samples sent, ${accepted.toLocaleString('en-GB')} accepted, ${stored.toLocaleString('en-GB')} stored, ${differing} rollups that differ from the raw rows, ${wrong} requests that failed`,
	);
	const third = Math.floor(memory.length / 3);
	const mean = (list: number[]) => list.reduce((a, b) => a + b, 0) / Math.max(list.length, 1);
	say(
		'while they do',
		`posts p50 ${share(posts!, 0.5).toFixed(0)} p95 ${share(posts!, 0.95).toFixed(0)} ms; pages p50 ${share(pages!, 0.5).toFixed(0)} p95 ${share(pages!, 0.95).toFixed(0)} ms; series p95 ${share(series!, 0.95).toFixed(0)} ms; memory ${mean(memory.slice(0, third)).toFixed(0)}, ${mean(memory.slice(third, 2 * third)).toFixed(0)}, ${mean(memory.slice(2 * third)).toFixed(0)} MB by thirds`,
	);
	await pool.end();
}
