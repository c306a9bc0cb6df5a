import { spawn } from 'node:child_process';
import { readdir } from 'node:fs/promises';
import { request } from 'node:http';
import { tmpdir } from 'node:os';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { ENGINE_VERSION } from '@/core/reading/model';
import { createPool } from '@/store/pool';
import { type Application, postJson, startApplication } from '../helpers/application';

let app: Application;
beforeAll(async () => {
	app = await startApplication('demo');
});
afterAll(() => app.stop());
const get = async (path: string, headers: Record<string, string> = {}) =>
	fetch(`${app.base}/api/v1${path}`, { headers });
const calc = (path: string, body: unknown) => postJson(app.base, `/calc/${path}`, body);

describe('the calculators', () => {
	it('convert and compensate', async () => {
		expect(await calc('convert', { value: 1.413, from: 'mS/cm', to: 'ppm700' })).toMatchObject({
			status: 200,
			body: { value: expect.closeTo(989.1, 6) },
		});
		expect(await calc('convert', { value: 10, from: 'dGH', to: 'mg/L_CaCO3' })).toMatchObject({
			body: { value: expect.closeTo(178.5, 6) },
		});
		expect(await calc('compensate', { ec_us_cm: 1278, temp_c: 20 })).toMatchObject({
			body: { ec25_us_cm: expect.closeTo(1412.93, 1) },
		});
	});
	it.each([
		['{"value": 1e400, "from": "L", "to": "gal"}'],
		['{"value": "5", "from": "L", "to": "gal"}'],
		['{"value": null, "from": "L", "to": "gal"}'],
		['{"value": true, "from": "L", "to": "gal"}'],
		['{"value": [1], "from": "L", "to": "gal"}'],
		['{"value": 5, "from": "constructor", "to": "gal"}'],
		['{"value": 5, "from": "__proto__", "to": "gal"}'],
		['{"value": 5, "from": "L", "to": "gal", "__proto__": {}, "extra": 1}'],
		['{"value": 5, "from": "L", "to": "mS/cm"}'],
		['{"value": 1e308, "from": "mS/cm", "to": "ppm500"}'],
		['{"value": NaN, "from": "L", "to": "gal"}'],
		['{"value": 5,'],
		[''],
		['null'],
		['[]'],
	])('refuses %s with problem details', async (body) => {
		const answer = await calc('convert', body);
		expect([400, 422]).toContain(answer.status);
		expect(answer.body).toMatchObject({ status: answer.status, errors: expect.any(Array) });
	});
});

describe('the contract', () => {
	it('health names version and engine', async () =>
		expect(await (await get('/health')).json()).toMatchObject({
			status: 'ok',
			version: expect.any(String),
			engine: ENGINE_VERSION,
		}));
	it('describes itself in OpenAPI 3.1, every operation with a body schema that is the one validating', async () => {
		const doc = await (await get('/openapi.json')).json();
		expect(doc.openapi).toBe('3.1.0');
		expect(Object.keys(doc.paths)).toEqual(
			expect.arrayContaining([
				'/calc/convert',
				'/readings',
				'/events',
				'/stations',
				'/instruments',
				'/import',
				'/readings/{id}/correction',
			]),
		);
		expect(doc.paths['/calc/compensate'].post.requestBody.content['application/json'].schema.required).toEqual([
			'ec_us_cm',
			'temp_c',
		]);
	});
	it('stores readings by POST and hands them back, JSON and CSV, page by page', async () => {
		const posted = await postJson(app.base, '/readings', [
			{
				time: '2026-07-14T09:10:00Z',
				station: 'pond',
				instrument: 'plum',
				quantity: 'ph',
				value: '6,21',
				unit: 'pH',
				temp_c: 23,
			},
			{
				time: '2026-07-14T09:10:00Z',
				station: 'pond',
				instrument: 'minnow',
				quantity: 'tds',
				value: 1420,
				unit: 'ppm',
			},
		]);
		expect(posted.status).toBe(201);
		expect(posted.body.samples).toHaveLength(1);
		const page = await (await get('/readings?station=pond&limit=2')).json();
		expect(page.readings.map((r: { value: string; unit: string }) => [r.value, r.unit])).toEqual(
			expect.arrayContaining([
				['6.21', 'pH'],
				['1420', 'ppm'],
			]),
		);
		const next = await (await get(`/readings?station=pond&limit=2&cursor=${page.next_cursor}`)).json();
		expect(next.readings[0].id).not.toBe(page.readings[0].id);
		const csv = await (await get('/readings?station=pond&from=2026-07-14T09:00:00Z', { accept: 'text/csv' })).text();
		expect(csv.split('\n')[0]).toBe('time,station,instrument,quantity,value,unit,temp_c,wait_s,note');
		expect(csv).toContain('2026-07-14T09:10:00Z,pond,plum,ph,6.21,pH,23,,');
	});
	it.each([
		[{ station: 'nowhere', quantity: 'ph', value: 6, unit: 'pH' }],
		[{ station: 'pond', quantity: 'ph', value: 'abc', unit: 'pH' }],
		[{ station: 'pond', quantity: 'ph', value: 6, unit: 'furlong' }],
		[{ station: 'pond', quantity: 'tds', value: 900, unit: 'ppm' }],
		[{ station: 'pond', quantity: 'toString', value: 9, unit: 'pH' }],
		[{ station: 'pond', quantity: 'ph', value: 6, unit: 'pH', time: '2026-02-30T00:00:00Z' }],
		[{ station: 'pond', quantity: 'ph', value: 6, unit: 'pH', temp_c: 99 }],
		[{ station: 'pond\u0000', quantity: 'ph', value: 6, unit: 'pH' }],
		[[]],
	])('refuses %j', async (body) => {
		const answer = await postJson(app.base, '/readings', body);
		expect([400, 422]).toContain(answer.status);
		expect(answer.body.errors.length).toBeGreaterThan(0);
	});
	it('keeps a number no meter shows, as a failed reading: the original is not lost', async () => {
		const answer = await postJson(app.base, '/readings', {
			station: 'bench',
			instrument: 'brass',
			quantity: 'ph',
			value: -3,
			unit: 'pH',
		});
		expect(answer).toMatchObject({
			status: 201,
			body: { samples: [{ readings: [{ flag: 4, cause: 'out-of-range' }] }] },
		});
	});
	it('imports a CSV, telling readings from events by the header', async () => {
		const send = (text: string, query = '') =>
			fetch(`${app.base}/api/v1/import${query}`, {
				method: 'POST',
				headers: { 'content-type': 'text/csv' },
				body: text,
			});
		const dry = await send(
			'time,station,instrument,quantity,value,unit\n2026-07-01T12:00Z,attic,,ph,6,pH\n',
			'?dry_run=1',
		);
		expect(await dry.json()).toMatchObject({
			format: 'readings',
			dry_run: true,
			good: 1,
			creates: { stations: ['attic'] },
		});
		const bad = await send(
			'time,station,instrument,quantity,value,unit\n2026-07-01T12:00Z,pond,,ph,x,pH\n2026-07-01T12:00Z,pond,,ph,6,pH\n',
		);
		expect(bad.status).toBe(422);
		expect(await bad.json()).toMatchObject({ errors: [{ path: 'line 2, column value' }] });
		const events = await send(
			'time,station,kind,amount,unit,product,note\n2026-07-01T12:00Z,pond,acid_added,"12,5",mL,pH down,\n',
		);
		expect(await events.json()).toMatchObject({ format: 'events', stored: 1 });
	});
	it('unknown addresses and methods are problems too', async () => {
		expect((await get('/nothing')).status).toBe(404);
		expect((await fetch(`${app.base}/api/v1/health`, { method: 'POST' })).status).toBe(405);
		expect((await get('/readings/999999999/history')).status).toBe(404);
		expect((await get('/readings?cursor=x')).status).toBe(422);
		expect((await get('/readings?limit=0')).status).toBe(422);
	});
});

describe('only this machine’s own pages may write', () => {
	const raw = (headers: Record<string, string>) =>
		new Promise<number>((resolve, reject) => {
			const url = new URL(app.base);
			const r = request(
				{ host: url.hostname, port: url.port, path: '/api/v1/readings/undo', method: 'POST', headers },
				(answer) => {
					answer.resume();
					resolve(answer.statusCode ?? 0);
				},
			);
			r.on('error', reject);
			r.end();
		});
	it('refuses a foreign Origin and a foreign Host', async () => {
		const { host } = new URL(app.base);
		expect(await raw({ host, origin: 'http://evil.example' })).toBe(403);
		expect(await raw({ host, origin: 'null' })).toBe(403);
		expect(await raw({ host: 'evil.example' })).toBe(403);
		expect(await raw({ host, 'sec-fetch-site': 'cross-site' })).toBe(403);
		expect(await raw({ host, origin: app.base })).toBe(200);
	});
});

describe('failures', () => {
	it('killed in the middle of an import, the server leaves nothing of it', async () => {
		const own = await startApplication('empty');
		const pool = createPool(own.databaseUrl);
		try {
			const line = (i: number) => `${new Date(Date.UTC(2020, 0, 1) + i * 60_000).toISOString()},pond,plum,ph,5.9,pH\n`;
			let csv = 'time,station,instrument,quantity,value,unit\n';
			for (let i = 0; i < 150_000; i++) csv += line(i);
			await fetch(`${own.base}/api/v1/import?background=1`, {
				method: 'POST',
				headers: { 'content-type': 'text/csv' },
				body: csv,
			});
			// Wait until rows are on their way: the table grows before the transaction is complete.
			for (let tries = 0; ; tries++) {
				const { rows } = await pool.query("SELECT pg_relation_size('reading_everywhere')::int AS size");
				if (rows[0].size > 200_000) break;
				if (tries > 2000) throw new Error('The import never began to store.');
				await new Promise((resolve) => setTimeout(resolve, 20));
			}
			await own.kill();
			for (let tries = 0; tries < 100; tries++) {
				const { rows } = await pool.query(
					"SELECT count(*)::int AS n FROM pg_stat_activity WHERE application_name = 'cordwain' AND datname = current_database() AND state <> 'idle' AND pid <> pg_backend_pid()",
				);
				if (rows[0].n === 0) break;
				await new Promise((resolve) => setTimeout(resolve, 50));
			}
			const { rows } = await pool.query(
				'SELECT (SELECT count(*) FROM reading)::int AS readings, (SELECT count(*) FROM station)::int AS stations',
			);
			expect(rows[0]).toEqual({ readings: 0, stations: 0 });
			// The file it was reading from is left behind, until it is started again.
			const left = async () => (await readdir(tmpdir())).filter((f) => f.startsWith(`cordwain-import-${own.pid}-`));
			expect(await left()).toHaveLength(1);
			const next = await startApplication({ databaseUrl: own.databaseUrl });
			await next.stop();
			expect(await left()).toEqual([]);
		} finally {
			await own.kill();
			await pool.end();
		}
	});
	it('answers 503 with what to do when the database is not there', async () => {
		const own = await startApplication({ databaseUrl: 'postgres://nobody:x@127.0.0.1:1/none' });
		try {
			const answer = await fetch(`${own.base}/api/v1/health`);
			expect(answer.status).toBe(503);
			expect(await answer.json()).toMatchObject({ detail: expect.stringContaining('kept') });
			expect((await fetch(`${own.base}/bench`)).status).toBe(503);
		} finally {
			await own.stop();
		}
	});
	it('refuses to serve other machines', async () => {
		const child = spawn(process.execPath, ['ops/main.mjs', 'start'], {
			env: { ...process.env, HOST: '0.0.0.0' },
			stdio: ['ignore', 'ignore', 'pipe'],
		});
		let said = '';
		child.stderr.on('data', (d) => {
			said += d;
		});
		expect(await new Promise((resolve) => child.on('exit', resolve))).toBe(1);
		expect(said).toMatch(/serves this machine only/);
	});
});

describe('setup by API', () => {
	it('makes and changes systems, stations and instruments; refuses nonsense', async () => {
		expect(
			(await postJson(app.base, '/systems', { code: 'tower', kind: 'tower', volume_l: 80, crop: 'basil' })).status,
		).toBe(201);
		expect(
			await postJson(app.base, '/stations', {
				code: 'tower-tank',
				name: 'T <b>',
				kind: 'reservoir',
				system: 'tower',
				ranges: { ph: [5.5, 6.5] },
			}),
		).toMatchObject({ status: 201, body: { name: 'T <b>', system: 'tower' } });
		expect((await postJson(app.base, '/stations', { code: 'x', kind: 'reservoir', system: 'nowhere' })).status).toBe(
			422,
		);
		expect((await postJson(app.base, '/stations', { code: 'x', kind: 'lake' })).status).toBe(422);
		expect(
			(await postJson(app.base, '/stations', { code: 'x', kind: 'reservoir', ranges: { ph: [7, 6] } })).status,
		).toBe(422);
		expect((await postJson(app.base, '/instruments', { code: 'x', kind: 'combined', ppm_scale: 600 })).status).toBe(
			422,
		);
		expect((await postJson(app.base, '/stations', { code: 'x', kind: 'reservoir', volume_l: -1 })).status).toBe(422);
		const place = async (settings: object) => {
			const body = JSON.stringify({ name: 'X', timezone: 'UTC', settings });
			const put = await fetch(`${app.base}/api/v1/site`, { method: 'PUT', body });
			const { site } = await (await fetch(`${app.base}/api/v1/site`)).json();
			return [put.status, site.settings.latitude ?? null, site.settings.longitude ?? null];
		};
		expect(await place({ latitude: 53 })).toEqual([422, 53, 5]);
		expect(await place({ latitude: 91, longitude: 0 })).toEqual([422, 53, 5]);
		expect(await place({ latitude: -41, longitude: 175 })).toEqual([200, -41, 175]);
		// What is not said stays; nothing is said by null.
		expect(await place({})).toEqual([200, -41, 175]);
		expect(await place({ latitude: null, longitude: null })).toEqual([200, null, null]);
		const zone = await fetch(`${app.base}/api/v1/site`, {
			method: 'PUT',
			headers: { 'content-type': 'application/json' },
			body: JSON.stringify({ name: 'X', timezone: 'Mars/Base' }),
		});
		expect(zone.status).toBe(422);
	});
	it('a long import tells how far it has come, and its result can be fetched', async () => {
		const lines = Array.from(
			{ length: 12_000 },
			(_, i) => `${new Date(Date.UTC(2019, 0, 1) + i * 60_000).toISOString()},tower-tank,plum,ph,5.9,pH`,
		);
		const begun = await (
			await fetch(`${app.base}/api/v1/import?background=1`, {
				method: 'POST',
				headers: { 'content-type': 'text/csv' },
				body: `time,station,instrument,quantity,value,unit\n${lines.join('\n')}\n`,
			})
		).json();
		const phases = new Set<string>();
		for (let tries = 0; tries < 400; tries++) {
			const job = await (await get(`/jobs/${begun.job}`)).json();
			phases.add(job.phase);
			if (job.state !== 'running') {
				expect(job).toMatchObject({ state: 'done', result: { stored: 12_000 } });
				break;
			}
			await new Promise((resolve) => setTimeout(resolve, 25));
		}
		expect([...phases]).toContain('lines stored');
		expect((await get('/jobs/none')).status).toBe(404);
		// And a chart over all of it stays small, with its extremes kept.
		const series = await (
			await get('/stations/tower-tank/series?quantity=ph&from=2019-01-01&to=2019-02-01&points=500')
		).json();
		expect(series.points.length).toBeLessThanOrEqual(500);
		expect(series.points.reduce((n: number, p: { count: number }) => n + p.count, 0)).toBe(12_000);
	});
});
