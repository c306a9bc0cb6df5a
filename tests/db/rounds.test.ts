import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Answer, type Application, postJson, startApplication } from '../helpers/application';

/** Rounds, retests and what two people do to each other, over HTTP against a real PostgreSQL. */
let app: Application;
beforeAll(async () => {
	app = await startApplication('demo');
});
afterAll(() => app.stop());

const get = async (path: string): Promise<Answer> => (await fetch(`${app.base}/api/v1${path}`)).json();
const enter = (station: string, quantity: string, value: number, unit: string, query = '') =>
	postJson(app.base, `/readings${query}`, { station, quantity, value, unit, instrument: 'plum' });

describe('a round', () => {
	it('is one at a time; reading a station takes it off what is due; finishing twice changes nothing', async () => {
		const { body: round, status } = await postJson(app.base, '/rounds', {});
		expect(status).toBe(201);
		expect((await postJson(app.base, '/rounds', {})).body.id).toBe(round.id);
		const dueAt = async (station: string) =>
			(await get('/rounds/today')).stations
				.find((s: Answer) => s.station === station)
				.due.filter((d: Answer) => d.due)
				.map((d: Answer) => d.quantity);
		expect(await dueAt('pond')).toEqual(['ph', 'ec', 'temp']);
		expect(await dueAt('rain')).toEqual(['ec', 'temp']);
		await enter('pond', 'ph', 6.1, 'pH', `?round=${round.id}`);
		expect(await dueAt('pond')).toEqual(['ec', 'temp']);
		const left = [{ station: 'bench', reason: 'drained for cleaning' }];
		const first = await postJson(app.base, `/rounds/${round.id}/finish`, { left_out: left });
		const second = await postJson(app.base, `/rounds/${round.id}/finish`, { left_out: [] });
		expect(second.body).toEqual(first.body);
		expect(first.body.left_out).toEqual(left);
	});
	it('a reading for a finished round is kept and said to be late; an unknown round or station is refused', async () => {
		const { id } = (await get('/rounds/today')).round;
		const late = await enter('slabs', 'ph', 5.9, 'pH', `?round=${id}`);
		expect(late.status).toBe(201);
		expect(Date.parse(late.body.samples[0].round_finished_at)).toBeGreaterThan(0);
		expect((await enter('slabs', 'ph', 5.9, 'pH', '?round=999999')).status).toBe(404);
		expect(
			(await postJson(app.base, `/rounds/${id}/finish`, { left_out: [{ station: 'nowhere', reason: '' }] })).status,
		).toBe(422);
		expect((await postJson(app.base, '/rounds/999999/finish', {})).status).toBe(404);
	});
});

describe('a retest', () => {
	it('is answered by the next reading there; done twice, both are kept and the second is told', async () => {
		const { body } = await enter('mix', 'ec', 19.2, 'mS/cm');
		const doubted = body.samples[0].readings[0];
		expect(doubted.flag).toBe(3);
		expect((await postJson(app.base, `/readings/${doubted.id}/decision`, { kind: 'retest' })).status).toBe(200);
		const wanted = async () =>
			(await get('/rounds/today')).stations
				.find((s: Answer) => s.station === 'mix')
				.retests.map((r: Answer) => r.quantity);
		expect(await wanted()).toEqual(['ec']);
		// pH there answers nothing.
		expect((await enter('mix', 'ph', 5.8, 'pH')).body.samples[0].retests).toEqual([]);
		const first = await enter('mix', 'ec', 1.92, 'mS/cm');
		expect(first.body.samples[0].retests).toEqual([{ reading_id: doubted.id, answered_before_at: null }]);
		expect(await wanted()).toEqual([]);
		const second = await enter('mix', 'ec', 1.91, 'mS/cm');
		expect(Date.parse(second.body.samples[0].retests[0].answered_before_at)).toBeGreaterThan(0);
		const { readings } = await get('/readings?station=mix&quantity=ec&limit=3');
		expect(readings.map((r: Answer) => r.value).sort()).toEqual(['1.91', '1.92', '19.2']);
	});
	it('a decision on a reading that was corrected meanwhile is refused with what to do', async () => {
		const { body } = await enter('mix', 'ec', 18.8, 'mS/cm');
		const { id } = body.samples[0].readings[0];
		expect((await postJson(app.base, `/readings/${id}/correction`, { value: '1.88', unit: 'mS/cm' })).status).toBe(201);
		const late = await postJson(app.base, `/readings/${id}/decision`, { kind: 'discard', reason: 'slip' });
		expect(late.status).toBe(409);
		expect(late.body.errors[0].message).toContain('newer value');
	});
});

describe('settings of the bench', () => {
	it('own protocol, rhythm and waits are kept; a step left out goes with the reading through the file', async () => {
		const put = await fetch(`${app.base}/api/v1/site`, {
			method: 'PUT',
			body: JSON.stringify({
				name: 'Saltmarsh Yard',
				timezone: 'Europe/Amsterdam',
				settings: { waits: { ph: 60, phLowMineral: 240, ec: 10 }, sensitivity: 'keen' },
			}),
		});
		expect(put.status).toBe(200);
		expect((await get('/site')).site.settings.sensitivity).toBe('keen');
		const own = [{ code: 'own-1', text: 'Run the hose two minutes' }];
		const { stations } = await get('/stations');
		const borehole = stations.find((s: Answer) => s.code === 'borehole');
		await postJson(app.base, '/stations', { ...borehole, protocol: own, rhythm: { ph: 'never', ec: 'daily' } });
		const saved = (await get('/stations')).stations.find((s: Answer) => s.code === 'borehole');
		expect([saved.protocol, saved.rhythm]).toEqual([own, { ph: 'never', ec: 'daily' }]);
		// With the new wait of 60 s, 35 s is too soon.
		const hasty = await postJson(app.base, '/readings', {
			station: 'pond',
			quantity: 'ph',
			value: 6.1,
			unit: 'pH',
			wait_s: 35,
			skipped: ['rinse', 'own-1'],
		});
		expect(hasty.body.samples[0].readings[0].cause).toBe('not-settled');
		const csv = await (
			await fetch(`${app.base}/api/v1/readings?station=pond`, { headers: { accept: 'text/csv' } })
		).text();
		expect(csv.trim().split('\n').at(-1)).toMatch(/rinse own-1/);
		expect(
			(
				await postJson(app.base, '/readings', {
					station: 'pond',
					quantity: 'ph',
					value: 6,
					unit: 'pH',
					skipped: ['a b'],
				})
			).status,
		).toBe(422);
	});
});

describe('a live meter over HTTP', () => {
	it('streams what a dipped probe shows, refuses unknown instruments and impossible water', async () => {
		const act = (body: unknown, code = 'plum') => postJson(app.base, `/meters/${code}/act`, body);
		expect((await act({ do: 'set', speed: 20 })).status).toBe(200);
		expect((await act({ do: 'rinse' })).status).toBe(200);
		expect((await act({ do: 'dip', station: 'slabs', water: { ph: 6, ec_us_cm: 2000, temp_c: 20 } })).status).toBe(200);
		const end = new AbortController();
		const response = await fetch(`${app.base}/api/v1/meters/plum/stream`, { signal: end.signal });
		expect(response.headers.get('content-type')).toContain('text/event-stream');
		const shown: { s: number; ph: number; compensated: boolean }[] = [];
		const decoder = new TextDecoder();
		for await (const chunk of response.body as unknown as AsyncIterable<Uint8Array>) {
			for (const m of decoder.decode(chunk).matchAll(/^data: (.*)$/gm)) shown.push(JSON.parse(m[1]!));
			if (shown.length >= 12) break;
		}
		end.abort();
		expect(shown.every((x, i) => i === 0 || x.s > shown[i - 1]!.s)).toBe(true);
		expect(Math.abs(shown.at(-1)!.ph - 6)).toBeLessThan(0.1);
		expect(shown[0]!.compensated).toBe(true);
		expect((await act({ do: 'dip', station: 'nowhere' })).status).toBe(422);
		expect((await act({ do: 'dip', station: 'slabs', water: { ph: 15 } })).status).toBe(422);
		expect((await act({ do: 'rinse' }, 'brass')).status).toBe(404);
		expect((await act({ do: 'explode' })).status).toBe(422);
	});
	it('/changes tells what others entered, from a number on', async () => {
		const { last } = await get('/changes');
		await enter('bench', 'ph', 6.4, 'pH', '?page=mine');
		const news = await get(`/changes?after=${last}`);
		expect(news.changes).toHaveLength(1);
		expect(news.changes[0]).toMatchObject({ kind: 'readings', station: 'bench', by: 'mine' });
		expect((await get(`/changes?after=${news.last}`)).changes).toEqual([]);
		expect((await get('/changes?after=99999999')).changes).toEqual([]);
	});
});
