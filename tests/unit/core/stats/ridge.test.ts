import { describe, expect, it } from 'vitest';
import { type Belief, ridge } from '@/core/stats/ridge';
import { seeded } from '@/sim/random';

const WIDE: Belief = { mean: 0, sd: 1e6 };

describe('regression with beliefs', () => {
	it('without beliefs it is least squares: a line through four points', () => {
		// Normal equations by hand: Σx = 10, Σy = 20.4, Σx² = 30, Σxy = 60.1 (n = 4), slope 1.82, intercept 0.55.
		const points = [
			[1, 2.4],
			[2, 4.2],
			[3, 5.9],
			[4, 7.9],
		] as const;
		const fit = ridge(
			points.map(([x, y]) => ({ y, sigma: 1, x: [1, x] })),
			[WIDE, WIDE],
		);
		expect(fit.coefficients[0]).toBeCloseTo(0.55, 2);
		expect(fit.coefficients[1]).toBeCloseTo(1.82, 2);
	});
	it('a belief and what was seen are weighed by their precisions', () => {
		// Two sightings of 3 that agree: their sigma of 1 is scaled to 0.3, the least, and to that over √2 for both.
		const fit = ridge(
			[
				{ y: 3, sigma: 1, x: [1] },
				{ y: 3, sigma: 1, x: [1] },
			],
			[{ mean: 3, sd: 1e6 }],
		);
		expect(fit.coefficients[0]).toBeCloseTo(3, 9);
		expect(fit.scale).toBe(0.3);
		expect(Math.sqrt(fit.covariance[0]![0]!)).toBeCloseTo(0.3 / Math.SQRT2, 6);
		// Three sightings about 4, 0.6 apart, against a belief of 2 ± 0.1: nearly all of it stays (by hand, sigma scaled by 1.4826·0.6/0.5).
		const held = ridge(
			[3.4, 4, 4.6].map((y) => ({ y, sigma: 0.5, x: [1] })),
			[{ mean: 2, sd: 0.1 }],
		);
		expect(held.coefficients[0]).toBeGreaterThan(2);
		expect(held.coefficients[0]).toBeLessThan(2.1);
		expect(ridge([], [{ mean: 1.5, sd: 0.2 }])).toEqual({ coefficients: [1.5], covariance: [[0.2 ** 2]], scale: 1 });
	});
	it('a few wild rows hardly bend it, as Huber has it', () => {
		const c = seeded(5);
		const rows = Array.from({ length: 60 }, (_, i) => ({
			y: 0.5 * i + (i % 12 === 5 ? 40 : c.normal()),
			sigma: 1,
			x: [i],
		}));
		expect(Math.abs(ridge(rows, [WIDE]).coefficients[0]! - 0.5)).toBeLessThan(0.03);
	});
	it('bounds hold as often as they say', () => {
		const c = seeded(11);
		let held = 0;
		for (let k = 0; k < 400; k++) {
			const rows = Array.from({ length: 25 }, (_, i) => ({ y: 0.2 * i + 1 + 0.7 * c.normal(), sigma: 0.7, x: [1, i] }));
			const fit = ridge(rows, [WIDE, WIDE]);
			if (Math.abs(fit.coefficients[1]! - 0.2) < 1.96 * Math.sqrt(fit.covariance[1]![1]!)) held++;
		}
		expect(held / 400).toBeGreaterThan(0.88);
	});
});
