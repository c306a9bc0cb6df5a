import { parse } from 'csv-parse/sync';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Answer, type Application, postJson, startApplication } from '../helpers/application';

/** What explains a wander, as the API tells it from what somebody entered. */
const DAY = 86_400_000;
let app: Application;
beforeAll(async () => {
	app = await startApplication('demo');
});
afterAll(() => app.stop());
const get = async (path: string): Promise<Answer> => (await fetch(`${app.base}/api/v1${path}`)).json();
const post = async (path: string, body: object) => {
	const { status, body: answer } = await postJson(app.base, path, body);
	expect([path, status, status < 300 ? '' : answer]).toEqual([path, status === 200 ? 200 : 201, '']);
};
const NOW = Date.now();
const at = (daysAgo: number) => new Date(NOW - daysAgo * DAY).toISOString();
const cause = (e: Answer, name: string) => e.causes.find((c: Answer) => c.cause === name);

describe('what explains it', () => {
	it('a tub whose pH jumps with each top-up of hard water', async () => {
		await post('/stations', { code: 'tap', kind: 'source' });
		await post('/stations', { code: 'tub', kind: 'reservoir', volume_l: 100, fed_by: ['tap'] });
		await post('/readings', { station: 'tap', quantity: 'alkalinity', value: '220', unit: 'mg/L_CaCO3', time: at(17) });
		for (let day = 16; day >= 0; day--) {
			const jumps = Math.floor((16 - day) / 4);
			await post('/readings', {
				station: 'tub',
				instrument: 'plum',
				quantity: 'ph',
				value: (5.6 + 0.3 * jumps + 0.01 * (day % 2)).toFixed(2),
				unit: 'pH',
				time: at(day + 0.1),
			});
			if ((16 - day) % 4 === 3)
				await post('/events', {
					station: 'tub',
					kind: 'water_added',
					amount: 12,
					unit: 'L',
					product: 'tap',
					time: at(day - 0.4 < 0 ? 0.05 : day - 0.4),
				});
		}
		const { station, explanations } = await get('/explanations?station=tub');
		expect(station).toBe('tub');
		expect(explanations.map((e: Answer) => e.quantity)).toEqual(['ph']);
		const [e] = explanations;
		expect([e.way, e.causes[0].cause]).toEqual(['up', 'alkaline_water']);
		expect(e.moved.value).toBeCloseTo(1.2, 1);
		const says = (code: string) => cause(e, 'alkaline_water').evidence.find((x: Answer) => x.says === code);
		expect(says('alkalinity').value).toBeCloseTo(220 / 50.04, 1);
		expect(says('alkalinity').weight).toBeGreaterThan(0);
		// Chances leave room for what nobody thought of.
		expect(e.causes.reduce((n: number, c: Answer) => n + c.chance, 0)).toBeLessThan(0.91);
	});
	it('of a time that is asked for, as CSV with a line for each cause', async () => {
		const query = 'station=gutters-drain&from=2026-06-15T00:00:00Z&to=2026-07-15T00:00:00Z';
		const { explanations } = await get(`/explanations?${query}`);
		const response = await fetch(`${app.base}/api/v1/explanations?${query}&format=csv`);
		expect(response.headers.get('content-type')).toContain('text/csv');
		const rows = parse(await response.text(), { columns: true }) as Record<string, string>[];
		const wanted = explanations.flatMap((e: Answer) =>
			e.causes.length === 0 ? [`${e.quantity} `] : e.causes.map((c: Answer) => `${e.quantity} ${c.cause}`),
		);
		expect(rows.map((r) => `${r.quantity} ${r.cause}`)).toEqual(wanted);
		expect(wanted.length).toBeGreaterThan(1);
	});
	it('what a meter shows in ppm counts once among the conductivity', async () => {
		await post('/stations', { code: 'butt', kind: 'reservoir' });
		await post(
			'/readings',
			Array.from({ length: 14 }, (_, i) => ({
				station: 'butt',
				quantity: 'tds',
				value: String(600 + 20 * i),
				unit: 'ppm500',
				time: at(14 - i),
			})),
		);
		const { trends } = await get('/trends?station=butt');
		expect(trends.map((t: Answer) => [t.quantity, t.readings])).toEqual([['ec', 14]]);
		// 20 ppm (500) a day are 40 µS/cm.
		expect(trends[0].per_day.value).toBeCloseTo(40, 0);
		const { explanations } = await get('/explanations?station=butt');
		expect(explanations.map((e: Answer) => [e.quantity, e.readings])).toEqual([['ec', 14]]);
	});
	it('a feed that bears the name of a water is none', async () => {
		await post('/stations', { code: 'pail', kind: 'reservoir', volume_l: 20 });
		const ph = (daysAgo: number) => ({
			station: 'pail',
			quantity: 'ph',
			value: (6 - 0.02 * daysAgo).toFixed(2),
			unit: 'pH',
			time: at(daysAgo),
		});
		await post('/readings', [ph(9), ph(7), ph(5), ph(3), ph(1)]);
		await post('/events', {
			station: 'pail',
			kind: 'nutrient_added',
			amount: 5,
			unit: 'mL',
			product: 'tap',
			time: at(4),
		});
		expect((await get('/explanations?station=pail')).station).toBe('pail');
	});
	it('trends too go out as CSV, a line for each quantity', async () => {
		const query = 'station=pond&from=2026-06-01T00:00:00Z&to=2026-07-15T00:00:00Z';
		const { trends } = await get(`/trends?${query}`);
		const rows = parse(await (await fetch(`${app.base}/api/v1/trends?${query}&format=csv`)).text(), {
			columns: true,
		}) as Record<string, string>[];
		expect(rows.map((r) => [r.quantity, r.says, Number(r.per_day)])).toEqual(
			trends.map((t: Answer) => [t.quantity, t.says, t.per_day?.value ?? 0]),
		);
		expect(rows.length).toBeGreaterThan(1);
	});
	it('says nothing of a source, and refuses what is not there', async () => {
		expect((await get('/explanations?station=borehole')).explanations).toEqual([]);
		expect((await fetch(`${app.base}/api/v1/explanations?station=attic`)).status).toBe(422);
		expect((await fetch(`${app.base}/api/v1/explanations?station=pond&from=yesterday`)).status).toBe(422);
	});
});
