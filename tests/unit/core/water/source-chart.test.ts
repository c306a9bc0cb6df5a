import { describe, expect, it } from 'vitest';
import { baselineOf, brokenRules, followSource } from '@/core/water/source-chart';
import { seeded } from '@/sim/random';

describe('control charts of sources', () => {
	// NIST/SEMATECH e-Handbook of Statistical Methods, 6.3.2.2: flow rates of ten batches.
	const NIST = [49.6, 47.6, 49.9, 51.3, 47.8, 51.2, 52.6, 52.4, 53.6, 52.1];
	it('limits of the worked example in the NIST handbook: mean 50.81, moving range 1.8778, 45.8159 to 55.8041', () => {
		const b = baselineOf(NIST)!;
		expect(b.mean).toBeCloseTo(50.81, 10);
		expect(b.meanRange).toBeCloseTo(1.8778, 4);
		expect(b.low).toBeCloseTo(45.8159, 3);
		expect(b.high).toBeCloseTo(55.8041, 3);
	});
	it('run rules one by one, each at its edge', () => {
		const b = { mean: 0, meanRange: 1.128, low: -3, high: 3, from: 20 };
		expect(brokenRules([0, 3.01], b)).toEqual(['beyond-limits']);
		expect(brokenRules([0, 2.99], b)).toEqual([]);
		expect(brokenRules([2.1, 0, 2.1], b)).toEqual(['two-of-three']);
		expect(brokenRules([-2.1, 0, 2.1], b)).toEqual([]);
		expect(brokenRules([1.1, 1.2, 0, 1.1, 1.2], b)).toEqual(['four-of-five']);
		expect(brokenRules([0.1, 0.2, 0.1, 0.3, 0.1, 0.2, 0.1, 0.2, 0.1], b)).toEqual(['nine-one-side']);
		expect(brokenRules([-0.5, -0.3, -0.1, 0.1, 0.3, 0.5], b)).toEqual(['six-trending']);
		expect(brokenRules([-0.5, -0.3, -0.1, 0.1, 0.1, 0.5], b)).toEqual([]);
	});
	const DAY = 86_400_000;
	const series = (seed: number, n: number, shiftAt: number | null) => {
		const chance = seeded(seed);
		return Array.from({ length: n }, (_, i) => ({
			at: i * 7 * DAY,
			value: (shiftAt !== null && i >= shiftAt ? 872 : 780) + 5 * chance.normal(),
		}));
	};
	it('a shift wants a confirming sample first, is confirmed by it, and becomes the new baseline', () => {
		expect(followSource(series(1, 6, null)).wants).toBe('more');
		const first = followSource(series(1, 25, 24));
		expect(first.wants).toBe('confirm');
		expect(first.shifts).toMatchObject([{ confirmed: false, since: 24 * 7 * DAY }]);
		const later = followSource(series(1, 40, 24));
		expect(later.wants).toBe('nothing');
		expect(later.shifts).toMatchObject([{ confirmed: true, since: 24 * 7 * DAY }]);
		expect(later.segments).toHaveLength(2);
		expect(later.segments[1]!.mean).toBeCloseTo(872, -1);
	});
	it('one odd value that does not repeat is no shift', () => {
		const points = series(3, 30, null);
		points[20]!.value = 900;
		expect(followSource(points).shifts.filter((s) => s.confirmed)).toEqual([]);
	});
	it('a steady source rarely asks in vain: under one confirmed shift in ten years of weekly samples', () => {
		let confirmed = 0;
		for (let seed = 100; seed < 120; seed++)
			confirmed += followSource(series(seed, 104, null)).shifts.filter((s) => s.confirmed).length;
		// Forty years in all.
		expect(confirmed).toBeLessThanOrEqual(4);
	});
});
