import { parse } from 'csv-parse/sync';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Answer, type Application, postJson, startApplication } from '../helpers/application';

/** Drain beside feed as the API tells it, on the demo: coir bags, drip to drain. */
let app: Application;
beforeAll(async () => {
	app = await startApplication('demo');
});
afterAll(() => app.stop());
const get = async (path: string): Promise<Answer> => (await fetch(`${app.base}/api/v1${path}`)).json();

describe('the drain of a system', () => {
	it('stands beside the feed of its time, with volumes, uptake and what to do first', async () => {
		const d = await get('/drains?system=gutters&days=1000');
		expect([d.drain_station, d.feed_station, d.preset]).toEqual(['gutters-drain', 'gutters-feed', 'tight']);
		expect(d.samples.length).toBeGreaterThan(50);
		const withVolumes = d.samples.filter((s: Answer) => s.balance);
		expect(withVolumes.length).toBeGreaterThan(50);
		// The demo’s strawberries take 1,240 µS/cm: 95 of 100 bounds hold it, and those of a week are narrower.
		const held = withVolumes.filter(
			({ balance: { uptake_ec_us_cm: u } }: Answer) => u.low <= 1240 && 1240 <= u.high,
		).length;
		expect(held / withVolumes.length).toBeGreaterThan(0.9);
		const width = (b: Answer) => b.uptake_ec_us_cm.high - b.uptake_ec_us_cm.low;
		const weeks = d.weeks.filter((w: Answer) => w.balance && w.samples > 2);
		expect(width(weeks[0].balance)).toBeLessThan(width(withVolumes[0].balance));
		// (1400 − 1240·0.7)/0.3 is 1,773.
		expect(d.outlook.drain_us_cm.low).toBeLessThan(1773);
		expect(d.outlook.drain_us_cm.high).toBeGreaterThan(1773);
		expect(d.outlook.fraction).toBe(0.3);
		const newest = d.samples.at(-1);
		expect(newest.verdict).toBe('act');
		expect(newest.actions[0]).toMatch(/[Ww]ater more often/);
	});
	it('a run is logged with what was read, all or none; more drained than given is refused; it can be taken back', async () => {
		const ph = (value: string) => ({ quantity: 'ph', value, unit: 'pH', instrument: 'plum' });
		const ec = (value: string) => ({ quantity: 'ec', value, unit: 'mS/cm', instrument: 'plum' });
		const run = {
			system: 'gutters',
			minutes: 6,
			applied_cups_ml: [100, 104, 98],
			drained_cups_ml: [60, 70, 65],
			feed: [ec('1.41'), ph('5.8')],
			drain: [ec('1.95'), ph('6.1')],
		};
		const before = (await get('/irrigations?system=gutters')).irrigations.length;
		const refused = await postJson(app.base, '/irrigations', { ...run, drained_cups_ml: [900, 950, 980] });
		expect([refused.status, refused.body.errors[0].message]).toEqual([422, expect.stringMatching(/ran off of/)]);
		expect((await get('/irrigations?system=gutters')).irrigations).toHaveLength(before);
		const bad = await postJson(app.base, '/irrigations', { ...run, drain: [ph('six')] });
		expect(bad.status).toBe(422);
		expect((await get('/irrigations?system=gutters')).irrigations).toHaveLength(before);
		const { status, body } = await postJson(app.base, '/irrigations', run);
		expect(status).toBe(201);
		const newest = (await get('/drains?system=gutters')).samples.at(-1);
		// Means of the cups times 96 drippers and 24 bags.
		expect(newest.balance.applied_l).toBeCloseTo((96 * (100 + 104 + 98)) / 3000, 6);
		expect(newest.balance.drained_l).toBeCloseTo((24 * 195) / 3000, 6);
		expect(newest.drain.value).toBeCloseTo(1950, -2);
		await postJson(app.base, `/irrigations/${body.id}/withdrawal`, { withdrawn: true });
		expect((await get('/drains?system=gutters')).samples.at(-1).balance).toBeNull();
		expect((await get('/irrigations?system=gutters')).irrigations).toHaveLength(before);
		const gone = await postJson(app.base, '/irrigations/1/withdrawal', { withdrawn: true });
		expect(gone.status).toBe(404);
	});
	it('nothing at all is no run; a system without a drain has none to read', async () => {
		expect((await postJson(app.base, '/irrigations', { system: 'gutters' })).status).toBe(422);
		const drain = [{ quantity: 'ph', value: '6', unit: 'pH' }];
		const none = await postJson(app.base, '/irrigations', { system: 'bench-tank', drain });
		expect([none.status, none.body.errors[0].message]).toEqual([
			422,
			expect.stringMatching(/no station for its drain/),
		]);
		expect((await get('/drains?system=bench-tank')).samples).toEqual([]);
		expect((await fetch(`${app.base}/api/v1/drains?system=moon`)).status).toBe(422);
	});
	it('trends are told between events; a station that is not there is named', async () => {
		const { trends } = await get('/trends?station=pond&from=2025-12-01T00:00:00Z&to=2026-07-15T00:00:00Z');
		const ph = trends.find((t: Answer) => t.quantity === 'ph');
		// The pond climbs by a tenth a day and gets acid: it ends where it began.
		expect(ph).toMatchObject({ says: 'rising' });
		expect(ph.spans).toBeGreaterThan(20);
		expect(ph.per_day.low).toBeGreaterThan(0.02);
		expect(ph.per_day.high).toBeLessThan(0.15);
		expect((await fetch(`${app.base}/api/v1/trends?station=moon`)).status).toBe(422);
		expect((await get('/trends?station=pond&from=2020-01-01T00:00:00Z&to=2020-02-01T00:00:00Z')).trends).toEqual([]);
	});
	it('goes out as CSV', async () => {
		const csv = await (await fetch(`${app.base}/api/v1/irrigations?format=csv&system=gutters`)).text();
		expect(csv.split('\n')[0]!.trim()).toBe(
			'time,system,minutes,first_drain_min,applied_l,applied_cups_ml,drained_l,drained_cups_ml,note',
		);
		expect(csv.trim().split('\n').length).toBeGreaterThan(50);
	});
});

describe('a step that is advised', () => {
	const advice = async () => (await get('/drains?system=gutters')).advice;
	beforeAll(async () => {
		// A drain of today, as the demo’s own are of another season.
		const ec = (value: string) => [{ quantity: 'ec', value, unit: 'mS/cm', instrument: 'plum' }];
		const run = { system: 'gutters', applied_l: 10, drained_l: 1, feed: ec('1.41'), drain: ec('1.95') };
		expect((await postJson(app.base, '/irrigations', run)).status).toBe(201);
	});
	it('is taken once: who comes second is told; taken back, the watering is as before', async () => {
		const before = (await get('/drains?system=gutters')).watering;
		const { kind } = await advice();
		const two = await Promise.all(
			[1, 2].map(() => postJson(app.base, '/irrigation-steps', { system: 'gutters', kind })),
		);
		expect(two.map((x) => x.status).sort()).toEqual([201, 409]);
		const after = await get('/drains?system=gutters');
		expect(after.advice.kind).toBe('wait');
		expect(after.watering).not.toEqual(before);
		expect(after.steps[0]).toMatchObject({ kind, after: null });
		const { id } = two.find((x) => x.status === 201)!.body;
		expect((await postJson(app.base, `/irrigation-steps/${id}/withdrawal`, {})).status).toBe(200);
		expect((await get('/drains?system=gutters')).watering).toEqual(before);
		expect((await postJson(app.base, `/irrigation-steps/${id}/withdrawal`, {})).status).toBe(404);
	});
	it('shows what an earlier one did', async () => {
		const step = (await get('/drains?system=gutters&days=1000')).steps.at(-1);
		expect([step.kind, typeof step.before.share]).toEqual(['more-runs', 'number']);
		expect(step.after.drain_us_cm).toBeLessThan(step.before.drain_us_cm);
	});
	it('taken back after somebody set the watering anew leaves that alone', async () => {
		const { kind } = await advice();
		const { body } = await postJson(app.base, '/irrigation-steps', { system: 'gutters', kind });
		const system = (await get('/systems')).systems.find((y: Answer) => y.code === 'gutters');
		const watering = { ...system.watering, run_times: 'every 60 min 7:00 to 19:00' };
		await postJson(app.base, '/systems', { ...system, watering });
		await postJson(app.base, `/irrigation-steps/${body.id}/withdrawal`, {});
		const now = await get('/drains?system=gutters');
		expect([now.watering.run_times, now.runs_a_day]).toEqual(['every 60 min 7:00 to 19:00', 13]);
	});
	it('times that are none are refused at their field', async () => {
		const system = (await get('/systems')).systems.find((y: Answer) => y.code === 'gutters');
		const { status, body } = await postJson(app.base, '/systems', {
			...system,
			watering: { ...system.watering, run_times: 'often' },
		});
		expect([status, body.errors[0].path]).toEqual([422, 'watering.run_times']);
	});
	it('goes out as CSV, a line for each sample with the figures of the answer', async () => {
		const query = 'system=gutters&days=1000';
		const { samples } = await get(`/drains?${query}`);
		const response = await fetch(`${app.base}/api/v1/drains?${query}`, { headers: { accept: 'text/csv' } });
		expect(response.headers.get('content-type')).toContain('text/csv');
		const rows = parse(await response.text(), { columns: true }) as Record<string, string>[];
		expect(rows.map((r) => [r.time, Number(r.drain_us_cm), r.verdict])).toEqual(
			samples.map((s: Answer) => [s.time, s.drain.value, s.verdict]),
		);
		const last = samples.findLast((s: Answer) => s.balance);
		expect(Number(rows.find((r) => r.time === last.time)!.uptake_ec_us_cm)).toBe(last.balance.uptake_ec_us_cm.value);
	});
	it('runs go out as CSV and come in again, each once; bad lines are told, and nothing of the file is kept', async () => {
		const csv = await (await fetch(`${app.base}/api/v1/irrigations?system=gutters&format=csv`)).text();
		const send = async (body: string, query = ''): Promise<Answer> =>
			(
				await fetch(`${app.base}/api/v1/import${query}`, {
					method: 'POST',
					headers: { 'content-type': 'text/csv' },
					body,
				})
			).json();
		const lines = csv.trim().split('\n').length - 1;
		expect(await send(csv)).toMatchObject({ format: 'irrigations', lines, duplicates: lines, stored: 0, bad: 0 });
		const head = csv.split('\n')[0]!;
		const more = `${head}\n2026-05-01T07:42:00Z,gutters,6,4.5,,101 97 104,,95 88 102,from paper\n`;
		expect(await send(more)).toMatchObject({ lines: 1, stored: 1 });
		expect(await send(more)).toMatchObject({ duplicates: 1, stored: 0 });
		const found = (await get('/irrigations?system=gutters&from=2026-05-01T07:00:00Z&to=2026-05-01T08:00:00Z'))
			.irrigations;
		expect(found).toHaveLength(1);
		expect(found[0]).toMatchObject({
			minutes: 6,
			first_drain_min: 4.5,
			applied_cups_ml: [101, 97, 104],
			note: 'from paper',
		});
		const { report: bad } = await send(
			`${head}\n2026-05-02T07:42:00Z,gutters,6,,,100 100,,90,good\n2026-05-02T09:00:00Z,attic,6,,,,,,\n2026-05-02T11:00:00Z,gutters,6,,2,,9,,\n2026-05-02T12:00:00Z,gutters,,,,,,,\n2026-05-02T13:00:00Z,gutters,6,,,a cup,,,\n`,
		);
		expect(bad).toMatchObject({ stored: 0, bad: 4 });
		expect(bad.problems.map((x: Answer) => [x.line, x.column])).toEqual([
			[3, 'system'],
			[4, 'drained_l'],
			[5, 'minutes'],
			[6, 'applied_cups_ml'],
		]);
		expect(
			(await get('/irrigations?system=gutters&from=2026-05-02T00:00:00Z&to=2026-05-03T00:00:00Z')).irrigations,
		).toEqual([]);
	});
});
