import type { Vocabulary } from './fuzz';

const ask = async (base: string, path: string) => fetch(`${base}/api/v1${path}`);
// biome-ignore lint/suspicious/noExplicitAny: answers of every shape pass here
const json = async (base: string, path: string): Promise<any> => (await ask(base, path)).json();

/** What is there to be named: stations, instruments, products, and numbers of readings, events, calibrations, rounds and batches. */
export async function vocabularyOf(base: string): Promise<Vocabulary> {
	const [stations, instruments, products, readings, events, calibrations, batches] = await Promise.all([
		json(base, '/stations'),
		json(base, '/instruments'),
		json(base, '/products'),
		json(base, '/readings?limit=40'),
		json(base, '/events'),
		json(base, '/calibrations'),
		json(base, '/batches'),
	]);
	const named = [...stations.stations, ...instruments.instruments].map((x: { code: string }) => x.code);
	const numbered = [
		...readings.readings,
		...events.events.slice(0, 40),
		...calibrations.calibrations.slice(0, 40),
		...batches.batches,
	];
	return {
		words: [...named, ...products.products.map((p: { name: string }) => p.name), 'ph', 'ec', 'new-one', 'a word'],
		ids: [1, 2, 3, ...numbered.map((x: { id: number }) => x.id)],
		times: [
			...readings.readings.slice(0, 8).map((r: { time: string }) => r.time),
			'2026-07-15T08:00:00Z',
			'2026-07-15T10:00:00+02:00',
			'2026-07-16T08:00:00Z',
		],
	};
}

/**
 * What is stored after all of it, held against what a person could enter: each file that goes out comes in again with no bad line,
 * and every list can be read. @returns what is wrong
 */
export async function storedIsGood(base: string): Promise<string[]> {
	const wrong: string[] = [];
	for (const kind of ['readings', 'events', 'calibrations']) {
		const csv = await (await ask(base, `/${kind}?format=csv`)).text();
		const back = await fetch(`${base}/api/v1/import?dry_run=1`, {
			method: 'POST',
			headers: { 'content-type': 'text/csv' },
			body: csv,
		});
		const report = await back.json();
		if (back.status !== 200 || report.bad > 0)
			wrong.push(`${kind}: ${report.bad} bad lines: ${JSON.stringify(report.problems?.slice(0, 3) ?? report)}`);
		const fresh = report.good - report.duplicates;
		if (fresh > 0) wrong.push(`${kind}: ${fresh} lines do not come back as they went out`);
	}
	for (const page of [
		'/',
		'/bench',
		'/ledger',
		'/ledger/events',
		'/review',
		'/trends',
		'/mix',
		'/water',
		'/setup',
		'/probes',
		'/calibrate',
	]) {
		const { status } = await fetch(base + page);
		if (status !== 200) wrong.push(`${page} answers ${status}`);
	}
	return wrong;
}
