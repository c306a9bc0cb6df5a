import { afterAll, beforeAll, expect, it } from 'vitest';
import { type Answer, type Application, postJson, startApplication } from '../helpers/application';

/** What a calibration of a node's probe put right is reckoned when it is drawn; what was read stays. */
let app: Application;
beforeAll(async () => {
	app = await startApplication('empty');
});
afterAll(() => app.stop());

const DAY = 86_400_000;
const BEGIN = Date.parse('2026-06-01T00:00:00Z');
const iso = (at: number) => new Date(at).toISOString();

it('the line of a probe that was found 0.4 too high lies lower before its calibration, the read values beside it', async () => {
	await fetch(`${app.base}/api/v1/site`, { method: 'PUT', body: JSON.stringify({ name: 'Yard', timezone: 'UTC' }) });
	await postJson(app.base, '/stations', { code: 'tank', kind: 'reservoir' });
	await postJson(app.base, '/nodes', { code: 'post', station: 'tank' });
	const { token } = (await postJson(app.base, '/nodes/post/token', {})).body;
	const calibrate = (at: number, found: number) =>
		postJson(app.base, '/calibrations', {
			time: iso(at),
			instrument: 'post',
			quantity: 'ph',
			kind: 'adjust',
			temp_c: 25,
			points: [
				{ standard: 'pH 7.00', nominal: 7, as_found: 7 + found, as_left: 7 },
				{ standard: 'pH 4.01', nominal: 4.01, as_found: 4.01 + found, as_left: 4.01 },
			],
		});
	expect((await calibrate(BEGIN, 0)).status).toBe(201);
	const samples = Array.from({ length: 10 * 24 }, (_, i) => ({
		at: iso(BEGIN + (i + 1) * 3_600_000),
		quantity: 'ph',
		value: Number((5.9 + 0.01 * Math.sin(i)).toFixed(3)),
		unit: 'pH',
	}));
	const sent = await fetch(`${app.base}/api/v1/ingest`, {
		method: 'POST',
		headers: { authorization: `Bearer ${token}` },
		body: JSON.stringify({ samples }),
	});
	expect(sent.status).toBe(202);
	expect((await calibrate(BEGIN + 10.5 * DAY, 0.4)).status).toBe(201);
	for (const points of [2000, 20]) {
		const response = await fetch(
			`${app.base}/api/v1/stations/tank/series?quantity=ph&from=${iso(BEGIN)}&to=${iso(BEGIN + 11 * DAY)}&points=${points}`,
		);
		const { points: drawn } = (await response.json()) as Answer;
		expect(drawn.length).toBeLessThanOrEqual(points);
		const last = drawn.at(-1);
		expect(last.value).toBeGreaterThan(5.88);
		// In proportion to the time since it was left right (USGS TM 1–D3): nearly all of 0.4 at the end, little at the beginning.
		expect(last.restated).toBeGreaterThan(5.48);
		expect(last.restated).toBeLessThan(5.56);
		expect(last.least).toBeLessThan(5.6);
		const first = drawn[0];
		expect((first.restated ?? first.value) - first.value).toBeGreaterThan(-0.05);
	}
});
