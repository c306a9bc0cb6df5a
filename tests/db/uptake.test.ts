import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Answer, type Application, postJson, startApplication } from '../helpers/application';

/** What plants take from a tank, as the API tells it: mass balance between additions, figures by hand. */
const DAY = 86_400_000;
let app: Application;
beforeAll(async () => {
	app = await startApplication('demo');
});
afterAll(() => app.stop());
const get = async (path: string): Promise<Answer> => (await fetch(`${app.base}/api/v1${path}`)).json();
const post = async (path: string, body: object) => {
	const { status, body: answer } = await postJson(app.base, path, body);
	expect([path, status, status < 300 ? '' : answer]).toEqual([path, 201, '']);
};
const ago = (days: number) => new Date(Date.now() - days * DAY).toISOString();
const ec = (station: string, value: string, days: number) =>
	post('/readings', { station, instrument: 'plum', quantity: 'ec', value, unit: 'mS/cm', time: ago(days) });

describe('uptake of a tank', () => {
	it('says what is missing before anything can be told', async () => {
		expect((await get('/uptake?station=gutters-feed&days=28')).missing).toBe('ec');
		const { missing, ec: found, next } = await get('/uptake?station=bench&days=28');
		expect([missing, found, next]).toEqual(['ec', null, null]);
		expect((await fetch(`${app.base}/api/v1/uptake?station=attic`)).status).toBe(422);
	});
	it('by top-ups of which the litres were written down, each to the same mark; the next one lands on target', async () => {
		for (const [filled, first, last] of [
			[12, 11.9, 8.1],
			[8, 7.9, 4.1],
			[4, 3.9, 0.1],
		] as const) {
			await post('/events', { station: 'bench', kind: 'water_added', amount: 5, unit: 'L', time: ago(filled) });
			await ec('bench', '1.60', first);
			await ec('bench', '1.70', last);
		}
		const u = await get('/uptake?station=bench&days=28');
		expect([u.missing, u.known, u.full_l, u.stretches.length]).toEqual([null, 'mark', 40, 2]);
		// 5 L in four days; (1600·39.875 − 1700·35.125)/4.75 is 860 µS/cm.
		expect(u.ec.per_day_l.value).toBeCloseTo(1.25, 2);
		expect(u.ec.taken.value).toBeGreaterThan(u.ec.taken.low);
		expect(Math.abs(u.ec.taken.value - 860)).toBeLessThan(25);
		expect(u.ec.says).toBe('takes-less');
		// Topped up earlier or later, as asked: 40 L by the hundred.
		for (const least of [70, 95])
			expect((await get(`/uptake?station=bench&days=28&least_pct=${least}`)).next.least_l).toBeCloseTo(0.4 * least, 9);
		const { next, now, target_us_cm } = u;
		expect(now.litres).toBeCloseTo(40 - 1.25 * 3.9, 1);
		expect((next.then_ec_us_cm.value * next.least_l + next.with_ec_us_cm.value * next.add_l) / 40).toBeCloseTo(
			target_us_cm,
			6,
		);
	});
});
