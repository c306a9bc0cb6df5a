import { describe, expect, it } from 'vitest';
import { topFeed } from '@/core/mix/feed/top-feed';

/** Rate times volume; common practice, no source. */
const tank = {
	litres: 20,
	ecUsCm: 1200,
	targetEcUsCm: 1600,
	gainUsCm: 400,
	rateMlL: 2,
	unit: 'mL' as const,
	learned: true,
};

describe('feeding a running tank', () => {
	it('goes all the way by a gain that was learned, three quarters by a label', () => {
		expect(topFeed(tank)).toEqual({ ok: true, value: { amount: 20, expectedEcUsCm: 1600 } });
		expect(topFeed({ ...tank, learned: false })).toEqual({ ok: true, value: { amount: 15, expectedEcUsCm: 1500 } });
	});
	it('never raises EC by more than 0.6 mS/cm at once, however wrong the pen or the target', () => {
		for (const ecUsCm of [0, 100, 500])
			for (const targetEcUsCm of [1600, 4000, 30_000]) {
				const feed = topFeed({ ...tank, ecUsCm, targetEcUsCm });
				expect(feed.ok && (feed.value.amount / tank.litres) * tank.gainUsCm).toBeLessThanOrEqual(600 + 1e-9);
			}
	});
	it('never pours more than the label’s whole rate, though the gain was taught ten times too small', () => {
		const broken = { ...tank, gainUsCm: 40 };
		expect(topFeed(broken)).toEqual({ ok: true, value: { amount: 40, expectedEcUsCm: 1280 } });
		// What the true gain makes of it: EC rises by 0.8 and not by the 4 mS/cm that the gain would ask for.
		const unlabelled = topFeed({ ...broken, rateMlL: null });
		expect(unlabelled.ok && unlabelled.value.amount).toBe(3 * tank.litres);
		const powder = topFeed({ ...broken, rateMlL: null, unit: 'g' });
		expect(powder.ok && powder.value.amount).toBe(tank.litres);
	});
	it.each([
		['an EC that is there already', { ecUsCm: 1700 }, 'ec-high-enough'],
		['a gain that nobody knows', { gainUsCm: null }, 'gain-needed'],
		['a tank without litres', { litres: 0 }, 'litres-now'],
	])('says no amount for %s', (_, more, code) => {
		expect(topFeed({ ...tank, ...more })).toMatchObject({ ok: false, problem: { code } });
	});
});
