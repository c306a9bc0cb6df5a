import { describe, expect, it } from 'vitest';
import { halton, inverseNormal } from '@/core/stats/quasi-normal';

describe('even numbers', () => {
	it('Halton’s sequence in base 2 begins 1/2, 1/4, 3/4, 1/8 (Halton 1960)', () => {
		expect([1, 2, 3, 4].map((n) => halton(n, 2))).toEqual([0.5, 0.25, 0.75, 0.125]);
		expect(halton(1, 3)).toBeCloseTo(1 / 3, 12);
	});
	it('deviates of the normal: 1.960 below 97.5 %, 0 in the middle, −2.326 below 1 % (tables)', () => {
		expect(inverseNormal(0.975)).toBeCloseTo(1.96, 3);
		expect(inverseNormal(0.5)).toBeCloseTo(0, 3);
		expect(inverseNormal(0.01)).toBeCloseTo(-2.3263, 3);
	});
});
