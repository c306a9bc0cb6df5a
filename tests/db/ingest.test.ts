import { gzipSync } from 'node:zlib';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { dropOld } from '@/service/sensors/retention';
import { createPool, type Pool } from '@/store/pool';
import { streamsDue, streamsJudged } from '@/store/sensors/memory';
import { type Answer, type Application, postJson, startApplication } from '../helpers/application';
import { differingRollups, rawOf } from '../helpers/streams';

/** What nodes send: kept once, judged, rolled up; and what is no honest post refused with what to do. */
let app: Application;
let pool: Pool;
beforeAll(async () => {
	app = await startApplication('empty');
	pool = createPool(app.databaseUrl);
	await fetch(`${app.base}/api/v1/site`, {
		method: 'PUT',
		body: JSON.stringify({ name: 'Yard', timezone: 'Europe/Amsterdam' }),
	});
	for (const code of ['tank', 'tray'])
		await postJson(app.base, '/stations', { code, kind: 'reservoir', volume_l: 600 });
});
afterAll(async () => {
	await pool.end();
	await app.stop();
});

const MINUTE = 60_000;
const BEGIN = Date.parse('2026-07-01T00:00:00Z');
let made = 0;
/** A node of its own with a token. */
async function node(station = 'tank'): Promise<{ code: string; token: string }> {
	const code = `node-${++made}`;
	const { status } = await postJson(app.base, '/nodes', { code, station });
	expect(status).toBe(201);
	const { body } = await postJson(app.base, `/nodes/${code}/token`, {});
	return { code, token: body.token };
}
type Sample = { at: string; probe?: string; quantity: string; value: number; unit: string };
const iso = (at: number) => new Date(at).toISOString();
/** A calm tank: what a probe shows is its level and a little noise that is always the same. */
const wave = (i: number, level: number, size: number) =>
	Number((level + size * Math.sin(i * 2.4) * ((i * 7) % 5)).toFixed(4));
const ph = (i: number, value = wave(i, 5.9, 0.004)): Sample => ({
	at: iso(BEGIN + i * MINUTE),
	quantity: 'ph',
	value,
	unit: 'pH',
});
const ec = (i: number, value = wave(i, 1.8, 0.001)): Sample => ({
	at: iso(BEGIN + i * MINUTE),
	quantity: 'ec',
	value,
	unit: 'mS/cm',
});

async function send(
	token: string,
	body: unknown,
	headers: Record<string, string> = {},
): Promise<{ status: number; body: Answer; headers: Headers }> {
	const response = await fetch(`${app.base}/api/v1/ingest`, {
		method: 'POST',
		headers: { authorization: `Bearer ${token}`, 'content-type': 'application/json', ...headers },
		body: typeof body === 'string' || body instanceof Uint8Array ? (body as never) : JSON.stringify(body),
	});
	return { status: response.status, body: await response.json().catch(() => null), headers: response.headers };
}
const range = (from: number, to: number) => Array.from({ length: to - from }, (_, i) => from + i);

describe('what a node sends', () => {
	it('is kept once, in any order, and rolled up as its raw rows would be', async () => {
		const { code, token } = await node();
		// Three days with a hole, a spike, and a probe lifted out; the second half before the first.
		const samples = range(0, 4320)
			.filter((i) => i < 1000 || i > 1100)
			.flatMap((i) => [ph(i, i === 2000 ? 9.4 : undefined), ec(i, i >= 3000 && i < 3010 ? 0.004 : undefined)]);
		const [first, second] = [samples.slice(0, 4000), samples.slice(4000)];
		expect((await send(token, { samples: second })).body).toMatchObject({ accepted: second.length, duplicates: 0 });
		const late = await send(token, { samples: first });
		expect(late).toMatchObject({ status: 202, body: { accepted: first.length, duplicates: 0 } });
		for (let again = 0; again < 3; again++)
			expect((await send(token, { samples: first })).body).toEqual({
				accepted: 0,
				duplicates: first.length,
				flagged: {},
			});
		const raw = await rawOf(pool, code);
		expect(raw.length).toBe(samples.length);
		expect(raw.filter((r) => r.flag === 4).map((r) => r.quantity)).toEqual(
			Array(20)
				.fill('')
				.map((_, i) => (i % 2 === 0 ? 'ec' : 'ph')),
		);
		expect(raw.filter((r) => r.flag === 3)).toMatchObject([{ quantity: 'ph', value: 9.4, cause: 2 }]);
		expect(await differingRollups(pool, code)).toEqual([]);
	});
	it('gets the same verdicts in one piece, in pieces, and backwards', async () => {
		const samples = range(0, 1200).flatMap((i) => [
			ph(i, i > 300 && i < 310 ? 7.1 : i > 700 ? wave(i, 6.6, 0.004) : undefined),
			ec(i, i > 900 && i < 905 ? 80 : undefined),
		]);
		const verdicts: unknown[] = [];
		for (const pieces of [[samples], chunks(samples, 250), chunks(samples, 250).reverse()]) {
			const { code, token } = await node();
			for (const piece of pieces) expect((await send(token, { samples: piece })).status).toBe(202);
			verdicts.push((await rawOf(pool, code)).map((r) => [r.at, r.quantity, r.cause]));
			expect(await differingRollups(pool, code)).toEqual([]);
		}
		expect(verdicts[1]).toEqual(verdicts[0]);
		expect(verdicts[2]).toEqual(verdicts[0]);
	});
	it('comes as the readings CSV too, and packed', async () => {
		const { code, token } = await node();
		const csv = `time,station,instrument,quantity,value,unit\n${range(0, 50)
			.map((i) => `${iso(BEGIN + i * MINUTE)},tank,,temp,${(20 + i / 100).toFixed(2)},C`)
			.join('\n')}\n`;
		expect((await send(token, csv, { 'content-type': 'text/csv' })).body).toMatchObject({ accepted: 50 });
		const packed = gzipSync(
			JSON.stringify({ samples: [{ ...ph(3), quantity: 'temp', value: 69.8, unit: 'F', at: iso(BEGIN - MINUTE) }] }),
		);
		expect((await send(token, packed, { 'content-encoding': 'gzip' })).body).toMatchObject({ accepted: 1 });
		const raw = await rawOf(pool, code);
		// °F (definition: (F − 32)·5/9)
		expect(raw[0]!.value).toBeCloseTo(21, 9);
	});
	it('is one stretch of doubt for one fault, that a person keeps or discards', async () => {
		const { code, token } = await node();
		await send(token, {
			samples: range(0, 600).flatMap((i) => [ph(i), ec(i, i >= 400 && i < 420 ? 0.004 : undefined)]),
		});
		const waiting = async () =>
			((await (await fetch(`${app.base}/api/v1/sensors/episodes`)).json()).episodes as Answer[]).filter(
				(e) => e.node === code,
			);
		const episodes = await waiting();
		expect(episodes.map((e) => [e.quantity, e.cause, e.samples]).sort()).toEqual([
			['ec', 'probe-in-air', 20],
			['ph', 'probe-in-air', 20],
		]);
		for (const e of episodes) {
			const path = `/sensors/episodes/${e.id}/decision`;
			expect((await postJson(app.base, path, { kind: 'discard', until: e.until })).status).toBe(422);
			expect((await postJson(app.base, path, { kind: 'discard', until: e.until, reason: 'lifted out' })).status).toBe(
				200,
			);
		}
		expect(await waiting()).toEqual([]);
		expect((await rawOf(pool, code)).filter((r) => r.decision === 2)).toHaveLength(40);
		expect(await differingRollups(pool, code)).toEqual([]);
	});
	it('what is written while streams are judged again is not taken for judged', async () => {
		const { token } = await node('tray');
		await send(token, { samples: range(0, 20).map((i) => ph(i)) });
		const write = () =>
			pool.query(
				"INSERT INTO event (site_id, at, station_id, kind, source) SELECT site_id, $1, id, 'water_added', 'test' FROM station WHERE code = 'tray'",
				[iso(BEGIN + 5 * MINUTE)],
			);
		const site = (await pool.query('SELECT id FROM site')).rows[0].id;
		await write();
		const [due] = await streamsDue(pool, site);
		await write();
		await streamsJudged(pool, site, due!.stationId, due!.version);
		const [still] = await streamsDue(pool, site);
		expect([still?.stationId, still?.at]).toEqual([due!.stationId, due!.at]);
		await streamsJudged(pool, site, still!.stationId, still!.version);
		expect(await streamsDue(pool, site)).toEqual([]);
	});
	it('has its days by the clock of the site, also after that was changed', async () => {
		const { code, token } = await node();
		await send(token, { samples: range(0, 3000).map((i) => ph(i)) });
		for (const timezone of ['America/New_York', 'Europe/Amsterdam']) {
			await fetch(`${app.base}/api/v1/site`, { method: 'PUT', body: JSON.stringify({ name: 'Yard', timezone }) });
			expect(await differingRollups(pool, code)).toEqual([]);
			await send(token, { samples: range(3000, 3400).map((i) => ph(i + (timezone.startsWith('E') ? 400 : 0))) });
			expect(await differingRollups(pool, code)).toEqual([]);
		}
	});
	it('goes when it has come of age, its rollups stay, and what comes late after that is refused', async () => {
		const { code, token } = await node();
		await send(token, { samples: range(0, 4400).map((i) => ph(i)) });
		await postJson(app.base, '/nodes', { code, station: 'tank', keep_days: 2 });
		const before = (await pool.query('SELECT count(*)::int AS n FROM rollup')).rows[0].n;
		const now = BEGIN + 4 * 86_400_000;
		const ofSite = createPool(app.databaseUrl, { siteId: 1, guarded: true });
		await dropOld(ofSite, now);
		await ofSite.end();
		const raw = await rawOf(pool, code);
		expect([raw.length, raw[0]!.at]).toEqual([4400 - 2880, BEGIN + 2 * 86_400_000]);
		expect((await pool.query('SELECT count(*)::int AS n FROM rollup')).rows[0].n).toBe(before);
		expect((await send(token, { samples: [ph(5, 6)] })).body.errors[0].message).toMatch(/older ones are not taken/);
		// What is still there can be judged again without harm to what is gone.
		expect(
			(await send(token, { samples: [{ ...ph(4000), at: iso(BEGIN + 4000 * MINUTE + 1000) }] })).body.accepted,
		).toBe(1);
		await expect(pool.query('DELETE FROM sensor_sample')).rejects.toThrow(/append-only/);
		await expect(pool.query('UPDATE sensor_sample SET value = 1')).rejects.toThrow(/append-only/);
		await expect(pool.query('TRUNCATE sensor_sample')).rejects.toThrow(/append-only/);
	});
	it('waits for its site to hear of an event that was written down later', async () => {
		const { code, token } = await node('tray');
		await send(token, { samples: range(0, 600).map((i) => ec(i, i >= 300 ? wave(i, 2.3, 0.001) : undefined)) });
		const doubtful = async () => (await rawOf(pool, code)).filter((r) => r.flag > 2).length;
		expect(await doubtful()).toBeGreaterThan(3);
		await postJson(app.base, '/events', {
			station: 'tray',
			kind: 'nutrient_added',
			amount: 200,
			unit: 'mL',
			time: iso(BEGIN + 299 * MINUTE),
		});
		await expect.poll(doubtful).toBe(0);
		expect(await differingRollups(pool, code)).toEqual([]);
	});
});

const chunks = <T>(list: readonly T[], size: number): T[][] =>
	Array.from({ length: Math.ceil(list.length / size) }, (_, i) => list.slice(i * size, (i + 1) * size));

describe('what is no honest post', () => {
	it('is refused with what to do, nothing of it is kept, and the next honest post works', async () => {
		const { code, token } = await node();
		const other = await node();
		await send(other.token, { samples: [ph(0)] });
		const good = ph(0);
		const cases: [string, unknown, Record<string, string>, number, RegExp][] = [
			['not JSON', '{"samples":[', {}, 400, /not JSON/],
			['no list', { samples: 'x' }, {}, 422, /a list/],
			['empty', { samples: [] }, {}, 422, /a list/],
			['a number as text', { samples: [good, { ...good, value: '5.9' }] }, {}, 422, /finite/],
			['null', { samples: [good, { ...good, value: null }] }, {}, 422, /finite/],
			[
				'1e400',
				`{"samples":[{"at":"2026-07-01T00:00:00Z","quantity":"ph","value":1e400,"unit":"pH"}]}`,
				{},
				422,
				/finite/,
			],
			[
				'NaN',
				`{"samples":[{"at":"2026-07-01T00:00:00Z","quantity":"ph","value":NaN,"unit":"pH"}]}`,
				{},
				400,
				/not JSON/,
			],
			['a wrong unit', { samples: [good, { ...good, unit: 'mS/cm' }] }, {}, 422, /not measured in/],
			['an unknown unit', { samples: [{ ...good, unit: 'furlong' }] }, {}, 422, /not a unit/],
			['a name of JavaScript', { samples: [{ ...good, quantity: '__proto__' }] }, {}, 422, /not a quantity/],
			['oxygen as a share', { samples: [{ ...good, quantity: 'do', unit: '%' }] }, {}, 422, /temperature/],
			['level as a share', { samples: [{ ...good, quantity: 'level', unit: '%' }] }, {}, 422, /mm/],
			['1970', { samples: [{ ...good, at: '1970-01-01T00:00:10Z' }] }, {}, 422, /never set/],
			['next year', { samples: [{ ...good, at: iso(Date.now() + 300 * 86_400_000) }] }, {}, 422, /ahead/],
			['an hour ahead', { samples: [{ ...good, at: iso(Date.now() + 3_600_000) }] }, {}, 422, /ahead/],
			['no zone', { samples: [{ ...good, at: '2026-07-01T00:00:00' }] }, {}, 422, /zone/],
			['10,001 samples', { samples: range(0, 10_001).map((i) => ph(i)) }, {}, 413, /10,000/],
			['50 MB', `{"samples":[${' '.repeat(50 * 1024 * 1024)}]}`, {}, 413, /4 MB/],
			['a packed flood', gzipSync(Buffer.alloc(200 * 1024 * 1024)), { 'content-encoding': 'gzip' }, 413, /4 MB/],
			['not packed at all', '{}', { 'content-encoding': 'gzip' }, 422, /unpacked/],
			['a probe nobody knows', { samples: [{ ...good, probe: 'heron' }] }, {}, 422, /no instrument/],
			['the probe of another node', { samples: [{ ...good, probe: other.code }] }, {}, 409, /two nodes/],
			['a CSV of events', 'time,station,kind,amount,unit,product\n', { 'content-type': 'text/csv' }, 422, /no column/],
			[
				'a CSV of another station',
				`time,station,instrument,quantity,value,unit\n${good.at},pond,,ph,5.9,pH\n`,
				{ 'content-type': 'text/csv' },
				422,
				/stands at tank/,
			],
		];
		for (const [name, body, headers, status, words] of cases) {
			const answer = await send(token, body, headers);
			expect([name, answer.status, JSON.stringify(answer.body.errors ?? answer.body)]).toEqual([
				name,
				status,
				expect.stringMatching(words),
			]);
		}
		expect(await rawOf(pool, code)).toEqual([]);
		expect((await send(token, { samples: [good] })).body).toEqual({ accepted: 1, duplicates: 0, flagged: {} });
	});
	it('a problem is named by its sample', async () => {
		const { token } = await node();
		const { body } = await send(token, { samples: [ph(0), { ...ph(1), value: 'x' }, { ...ph(2), unit: '' }] });
		expect(body.errors.map((e: Answer) => e.path)).toEqual(['samples.1.value', 'samples.2.unit']);
		expect(body.detail).toContain('2 of 3');
	});
	it('a token that is wrong or revoked is of no use, and is kept nowhere', async () => {
		const { code, token } = await node();
		expect(await send('cw_nothing', { samples: [ph(0)] })).toMatchObject({ status: 401 });
		expect((await fetch(`${app.base}/api/v1/ingest`, { method: 'POST', body: '{}' })).status).toBe(401);
		const { rows } = await pool.query(
			'SELECT row_to_json(n)::text AS text FROM node n UNION ALL SELECT row_to_json(a)::text FROM audit a UNION ALL SELECT row_to_json(a)::text FROM answered a',
		);
		expect(rows.some((r: Answer) => r.text.includes(token.slice(4, 30)))).toBe(false);
		const newer = (await postJson(app.base, `/nodes/${code}/token`, {})).body.token;
		expect((await send(token, { samples: [ph(0)] })).status).toBe(401);
		expect((await send(newer, { samples: [ph(0)] })).status).toBe(202);
		await fetch(`${app.base}/api/v1/nodes/${code}/token`, { method: 'DELETE' });
		expect((await send(newer, { samples: [ph(1)] })).status).toBe(401);
		expect((await postJson(app.base, '/nodes/heron/token', {})).status).toBe(404);
	});
	it('a node in a loop is told when to try again', async () => {
		const { token } = await node();
		const answers = await Promise.all(range(0, 400).map((i) => send(token, { samples: [ph(i)] })));
		const told = answers.filter((a) => a.status === 429);
		expect(told.length).toBeGreaterThan(5);
		expect(Number(told[0]!.headers.get('retry-after'))).toBeGreaterThan(0);
		expect(answers.every((a) => a.status === 202 || a.status === 429)).toBe(true);
	});
});
