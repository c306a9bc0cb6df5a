import { randomUUID } from 'node:crypto';
import { readFileSync } from 'node:fs';

/** Fifty people at once, for a minute: what they wait for, and whether the server grows. */

const CLIENTS = 50;
/** Between two things a person does, ms: mixed work, not a flood. */
const PAUSE_MS = 1000;

const memoryMb = (pid: number): number =>
	Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))?.[1] ?? 0) / 1024;

/** What a process has computed so far, s: unlike waiting, it says little of what else the machine does. */
function computedS(pid: number): number {
	const fields = readFileSync(`/proc/${pid}/stat`, 'utf8').split(') ')[1]!.split(' ');
	return (Number(fields[11]) + Number(fields[12])) / 100;
}

export async function load(
	say: (name: string, text: string) => void,
	base: string,
	pid: number,
	seconds: number,
): Promise<void> {
	const times: { what: string; ms: number; status: number }[] = [];
	const until = Date.now() + seconds * 1000;
	const ask = async (what: string, path: string, body?: unknown) => {
		const start = performance.now();
		const response = await fetch(base + path, {
			method: body === undefined ? 'GET' : 'POST',
			headers: { 'content-type': 'application/json', 'idempotency-key': randomUUID(), accept: 'application/json' },
			...(body === undefined ? {} : { body: JSON.stringify(body) }),
		});
		await response.arrayBuffer();
		times.push({ what, ms: performance.now() - start, status: response.status });
	};
	const before = memoryMb(pid);
	const computedBefore = computedS(pid);
	let half = 0;
	const client = async (n: number) => {
		for (let i = 0; Date.now() < until; i++) {
			const station = `bed-${(n * 7 + i) % 9}`;
			const turn = (n + i) % 6;
			if (turn === 0) await ask('Round', '/');
			else if (turn === 1) await ask('Bench', `/bench?station=${station}`);
			else if (turn === 2) await ask('list', `/api/v1/readings?station=${station}&limit=100`);
			else if (turn === 3) await ask('event', '/api/v1/events', { station, kind: 'water_added', amount: 5, unit: 'L' });
			else
				await ask('sample', '/api/v1/readings', [
					{ station, instrument: 'plum', quantity: 'ph', value: '5.91', unit: 'pH' },
					{ station, instrument: 'plum', quantity: 'ec', value: '1.80', unit: 'mS/cm' },
				]);
			if (half === 0 && Date.now() > until - seconds * 500) half = memoryMb(pid);
			await new Promise((r) => setTimeout(r, PAUSE_MS * (0.5 + Math.random())));
		}
	};
	await Promise.all(Array.from({ length: CLIENTS }, (_, n) => client(n)));
	const p = (list: number[], share: number) => list.sort((a, b) => a - b)[Math.floor(share * (list.length - 1))]!;
	const errors = times.filter((t) => t.status >= 400).length;
	say(
		`${CLIENTS} clients for ${seconds} s`,
		`${times.length} requests, p50 ${p(
			times.map((t) => t.ms),
			0.5,
		).toFixed(0)} ms, p95 ${p(
			times.map((t) => t.ms),
			0.95,
		).toFixed(
			0,
		)} ms, ${errors} refused or failed; memory ${before.toFixed(0)} MB, ${half.toFixed(0)} at half time, ${memoryMb(pid).toFixed(0)} at the end; the server computed ${((1000 * (computedS(pid) - computedBefore)) / times.length).toFixed(1)} ms a request`,
	);
	for (const what of new Set(times.map((t) => t.what))) {
		const own = times.filter((t) => t.what === what).map((t) => t.ms);
		say(`  ${what}`, `p50 ${p(own, 0.5).toFixed(0)} ms, p95 ${p(own, 0.95).toFixed(0)} ms of ${own.length}`);
	}
}
