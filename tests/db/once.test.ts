import { randomUUID } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { createPool, type Pool } from '@/store/pool';
import { type Answer, type Application, postJson, startApplication } from '../helpers/application';

let app: Application;
let pool: Pool;
beforeAll(async () => {
	app = await startApplication('demo');
	pool = createPool(app.databaseUrl);
});
afterAll(async () => {
	await pool.end();
	await app.stop();
});

const post = (path: string, body: unknown, key: string = randomUUID(), headers: Record<string, string> = {}) =>
	fetch(`${app.base}/api/v1${path}`, {
		method: 'POST',
		headers: { 'content-type': 'application/json', 'idempotency-key': key, ...headers },
		body: JSON.stringify(body),
	}).then(async (r) => ({
		status: r.status,
		text: await r.clone().text(),
		body: (await r.json()) as Answer,
		replayed: r.headers.get('idempotent-replay'),
	}));
const count = async (table: string): Promise<number> =>
	(await pool.query<{ n: number }>(`SELECT count(*) AS n FROM ${table}`)).rows[0]!.n;
let minutes = 0;
/** A later minute each time. */
const time = () => new Date(Date.UTC(2026, 6, 14, 10, ++minutes)).toISOString();
const sample = (value = '6.1') => ({
	readings: [{ time: time(), station: 'pond', quantity: 'ph', value, unit: 'pH' }],
});
const read = async (value?: string): Promise<number> => {
	const { body } = await post('/readings', sample(value));
	return body.samples[0].readings[0].id;
};

describe('a request under a key', () => {
	const writes: [string, string, () => Promise<[string, unknown]>, string][] = [
		['a sample', 'reading', async () => ['/readings', sample()], 'reading'],
		[
			'an event',
			'event',
			async () => ['/events', { station: 'pond', kind: 'water_added', amount: 5, unit: 'L' }],
			'event',
		],
		['a decision', 'decision', async () => [`/readings/${await read()}/decision`, { kind: 'retest' }], 'decision'],
		['a correction', 'reading', async () => [`/readings/${await read()}/correction`, { value: '6.2' }], 'reading'],
		[
			'a calibration',
			'calibration',
			async () => [
				'/calibrations',
				{
					instrument: 'brass',
					quantity: 'ph',
					kind: 'check',
					time: time(),
					temp_c: 20,
					points: [{ standard: 'pH 7.00', as_found: 7.02 }],
				},
			],
			'calibration_point',
		],
		[
			'an undo',
			'decision',
			async () => {
				await post('/readings?source=bench', sample());
				return ['/readings/undo', null];
			},
			'decision',
		],
		['a batch', 'batch', async () => ['/batches', batch()], 'batch'],
		['a round', 'audit', async () => ['/rounds', null], 'round'],
		['a jug', 'jug_titration', async () => ['/mix/jug', jug], 'jug_titration'],
	];
	const batch = () => ({
		station: 'mix',
		plan: {
			litres: 100,
			water: 'ro',
			water_ec_us_cm: 30,
			pours: [{ product: 'feed A and B', per_l: 2 }],
			target_ec_us_cm: 1800,
			target_ph: 5.8,
		},
	});
	const jug = {
		product: 'pH down',
		litres: 1,
		station: 'pond',
		steps: [
			{ ml: 0, ph: 6.8 },
			{ ml: 0.1, ph: 6.3 },
			{ ml: 0.2, ph: 5.9 },
		],
	};

	it.each(writes)('%s is stored once, and its answer comes again', async (_, __, made, table) => {
		const [path, body] = await made();
		const key = randomUUID();
		const before = await count(table);
		const first = await post(path, body, key);
		expect([first.status, first.replayed]).toEqual([expect.toBeOneOf([200, 201]), null]);
		const after = await count(table);
		expect(after).toBeGreaterThan(before);
		const again = await post(path, body, key);
		expect(again).toEqual({ ...first, replayed: 'true' });
		expect(await count(table)).toBe(after);
	});
	it('sent five times at once is stored once', async () => {
		const [key, body] = [randomUUID(), sample()];
		const before = await count('reading');
		const answers = await Promise.all(Array.from({ length: 5 }, () => post('/readings', body, key)));
		expect(new Set(answers.map((a) => a.text)).size).toBe(1);
		expect(await count('reading')).toBe(before + 1);
	});
	it('used for something else is refused, and nothing is stored', async () => {
		const key = randomUUID();
		await post('/readings', sample(), key);
		const before = await count('reading');
		const other = await post('/readings', sample('6.4'), key);
		expect([other.status, other.body.type]).toEqual([409, 'about:blank#key-reused']);
		expect(await count('reading')).toBe(before);
	});
	it('that is no UUID is refused with what to do; a refused request keeps no key', async () => {
		expect((await post('/readings', sample(), 'yesterday')).body.type).toBe('about:blank#bad-key');
		const key = randomUUID();
		expect((await post('/readings', sample('6,1,1'), key)).status).toBe(422);
		expect((await post('/readings', sample(), key)).status).toBe(201);
	});
	it('an import under its key, repeated: the same report and no second row', async () => {
		const csv = `time,station,instrument,quantity,value,unit,temp_c,note\n2026-07-14T12:00:00Z,pond,plum,ph,6.02,pH,,\n`;
		const send = (key: string) =>
			fetch(`${app.base}/api/v1/import`, {
				method: 'POST',
				body: csv,
				headers: { 'content-type': 'text/csv', 'idempotency-key': key },
			});
		const key = randomUUID();
		const first = await (await send(key)).text();
		const before = await count('reading');
		const again = await send(key);
		expect([again.headers.get('idempotent-replay'), await again.text()]).toEqual(['true', first]);
		expect(await count('reading')).toBe(before);
	});
});

describe('long work under a key', () => {
	it('begun twice is one job, and one answer', async () => {
		const csv = 'time,station,instrument,quantity,value,unit\n2026-07-14T15:30:00Z,pond,plum,ph,6.07,pH\n';
		const [key, before] = [randomUUID(), await count('reading')];
		const begin = async () => {
			const r = await fetch(`${app.base}/api/v1/import?background=1`, {
				method: 'POST',
				body: csv,
				headers: { 'content-type': 'text/csv', 'idempotency-key': key },
			});
			return (await r.json()).job as string;
		};
		const [first, second] = [await begin(), await begin()];
		expect(second).toBe(first);
		const state = async () => (await (await fetch(`${app.base}/api/v1/jobs/${first}`)).json()).state;
		await expect.poll(state).toBe('done');
		expect(await begin()).toBe(first);
		expect(await count('reading')).toBe(before + 1);
	});
});

describe('two at once', () => {
	it('two corrections of one reading: one stands, the other is told', async () => {
		for (let round = 0; round < 5; round++) {
			const id = await read();
			const both = await Promise.all(['6.2', '6.3'].map((value) => post(`/readings/${id}/correction`, { value })));
			expect(both.map((b) => b.status).sort()).toEqual([201, 409]);
			const { rows } = await pool.query('SELECT 1 FROM reading_judged WHERE supersedes = $1 AND NOT superseded', [id]);
			expect(rows).toHaveLength(1);
		}
	});
	it('keep and discard: one is decided, the other is told by whom it was decided otherwise', async () => {
		const id = await read();
		const both = await Promise.all([
			post(`/readings/${id}/decision`, { kind: 'keep' }),
			post(`/readings/${id}/decision`, { kind: 'discard', reason: 'bubbles' }),
		]);
		expect(both.map((b) => b.status).sort()).toEqual([200, 409]);
		expect(both.find((b) => b.status === 409)!.body).toMatchObject({ type: 'about:blank#decided-meanwhile' });
		const stands = both[0]!.status === 200 ? 'keep' : 'discard';
		const other = stands === 'keep' ? 'discard' : 'keep';
		// Having seen it, one may.
		expect((await post(`/readings/${id}/decision`, { kind: other, reason: 'seen', after: stands })).status).toBe(200);
	});
	it('a calibration while readings of its probe are entered: every reading is worked out by it', async () => {
		const at = (minute: number) => new Date(Date.UTC(2026, 6, 14, 13, minute)).toISOString();
		const entries = Array.from({ length: 8 }, (_, i) =>
			post('/readings', [
				{ time: at(i), station: 'pond', instrument: 'brass', quantity: 'ph', value: '6.10', unit: 'pH' },
			]),
		);
		const check = post('/calibrations', {
			instrument: 'brass',
			quantity: 'ph',
			kind: 'check',
			time: at(30),
			temp_c: 20,
			points: [
				{ standard: 'pH 7.00', as_found: 7.2 },
				{ standard: 'pH 4.01', as_found: 4.2 },
			],
		});
		for (const answer of await Promise.all([...entries, check])) expect(answer.status).toBe(201);
		const { rows } = await pool.query<{ to: number | null }>(
			`SELECT t.to_calibration AS to FROM reading_judged r LEFT JOIN restatement t ON t.site_id = r.site_id AND t.reading_id = r.id
			WHERE r.instrument = 'brass' AND r.at >= $1 AND r.at < $2`,
			[at(0), at(30)],
		);
		expect(rows).toHaveLength(8);
		expect(new Set(rows.map((r) => r.to)).size).toBe(1);
		expect(rows[0]!.to).not.toBeNull();
	});
	it('two imports of one file at once: they wait for one another, and its lines are stored once', async () => {
		const lines = Array.from(
			{ length: 40 },
			(_, i) => `2026-07-14T14:${String(i).padStart(2, '0')}:00Z,pond,plum,ph,6.1${i % 10},pH,,`,
		);
		const csv = `time,station,instrument,quantity,value,unit,temp_c,note\n${lines.join('\n')}\n`;
		const before = await count('reading');
		const both = await Promise.all(
			[1, 2].map(() =>
				fetch(`${app.base}/api/v1/import`, { method: 'POST', body: csv, headers: { 'content-type': 'text/csv' } }),
			),
		);
		const reports = (await Promise.all(both.map((r) => r.json()))) as Answer[];
		expect(reports.map((r) => [r.stored, r.duplicates]).sort()).toEqual([
			[0, 40],
			[40, 0],
		]);
		expect(await count('reading')).toBe(before + 40);
	});
	it('two withdrawals of one calibration at once: both are answered, one row is written', async () => {
		const { body } = await post('/calibrations', {
			instrument: 'plum',
			quantity: 'ph',
			kind: 'check',
			time: time(),
			temp_c: 20,
			points: [{ standard: 'pH 7.00', as_found: 7.01 }],
		});
		const before = await count('calibration_withdrawal');
		const both = await Promise.all(
			[1, 2].map(() => post(`/calibrations/${body.id}/withdrawal`, { withdrawn: true, reason: 'wrong bottle' })),
		);
		expect(both.map((b) => b.status)).toEqual([200, 200]);
		expect(await count('calibration_withdrawal')).toBe(before + 1);
	});
});

describe('undo', () => {
	it('takes back the last entry of one’s own device, never somebody else’s', async () => {
		const [mine, theirs] = [randomUUID(), randomUUID()].map((id) => ({ cookie: `cordwain_device=${id}` }));
		const enter = async (who: Record<string, string>, value: string) =>
			(await post('/readings?source=bench', sample(value), randomUUID(), who)).body.samples[0].sample_id;
		const first = await enter(mine!, '6.01');
		await enter(theirs!, '6.02');
		const undone = async (who: Record<string, string>) =>
			((await post('/readings/undo', null, randomUUID(), who)).body.undone as Answer[]).map((r) => r.sample_id);
		expect(await undone(mine!)).toEqual([first]);
		expect(await undone(mine!)).toEqual([]);
		expect(await undone({ cookie: `cordwain_device=${randomUUID()}` })).toEqual([]);
	});
	it('a page that is opened names its browser; the name stays', async () => {
		const html = { accept: 'text/html' };
		const first = await fetch(`${app.base}/`, { headers: html });
		const cookie = first.headers.get('set-cookie') ?? '';
		expect(cookie).toMatch(/^cordwain_device=[0-9a-f-]{36};.*HttpOnly/);
		const again = await fetch(`${app.base}/`, { headers: { ...html, cookie: cookie.split(';')[0]! } });
		expect(again.headers.get('set-cookie')).toBeNull();
	});
});

it('without a key everything works as before', async () => {
	expect((await postJson(app.base, '/readings', sample())).status).toBe(201);
});
