import fc from 'fast-check';
import { medianAbsoluteDeviation, median as reference } from 'simple-statistics';
import { describe, expect, it } from 'vitest';
import { MAD_TO_SIGMA, madSigma, median, medianStep, slopeMayExceed, theilSenSlope } from '@/core/series/robust';

const value = fc.double({ min: -1e6, max: 1e6, noNaN: true });
const list = fc.array(value, { minLength: 1, maxLength: 90 });

describe('medians, against the library simple-statistics', () => {
	it('of any list, in any order, of short and of long ones', () => {
		fc.assert(fc.property(list, (v) => void expect(median(v)).toBeCloseTo(reference(v), 6)));
	});
	it('from one position on, and of the steps from each value to the next', () => {
		fc.assert(
			fc.property(list, fc.nat(89), (v, from) => {
				const rest = v.slice(from % v.length);
				expect(median(v, from % v.length)).toBe(median(rest));
				const steps = v.slice(1).map((x, i) => x - v[i]!);
				expect(medianStep(v)).toBe(median(steps));
			}),
		);
	});
	it('does not change what it is given', () => {
		const v = [3, 1, 2];
		median(v);
		expect(v).toEqual([3, 1, 2]);
	});
	it('the scaled median absolute deviation', () => {
		fc.assert(
			fc.property(list, (v) => void expect(madSigma(v)).toBeCloseTo(MAD_TO_SIGMA * medianAbsoluteDeviation(v), 4)),
		);
	});
});

describe('the Theil–Sen slope', () => {
	it('Sen (1968), Journal of the American Statistical Association 63, 1379: the example of section 6, slope 4', () => {
		// Seven pairs; the fifteen slopes and their median are printed there (from memory).
		const x = [1, 2, 3, 4, 10, 12, 18];
		const y = [9, 15, 19, 20, 45, 55, 78];
		expect(theilSenSlope(x, y)).toBe(4);
	});
	const series = fc.array(
		fc.record({ gap: fc.integer({ min: 0, max: 5 }), y: fc.double({ min: -3, max: 3, noNaN: true }) }),
		{ minLength: 2, maxLength: 14 },
	);
	it('is never steeper than a limit that it was said to keep', () => {
		fc.assert(
			fc.property(series, fc.double({ min: 0.001, max: 3, noNaN: true }), (points, limit) => {
				let at = 0;
				const x = points.map((p) => {
					at += p.gap;
					return at;
				});
				const y = points.map((p) => p.y);
				const slope = theilSenSlope(x, y);
				if (slope !== null && Math.abs(slope) > limit) expect(slopeMayExceed(x, y, limit)).toBe(true);
			}),
		);
	});
	it('a flat series is told from a steep one without it', () => {
		expect(slopeMayExceed([0, 1, 2, 3, 4], [1, 1.1, 0.9, 1, 1.05], 1)).toBe(false);
		expect(slopeMayExceed([0, 1, 2, 3, 4], [0, 2, 4, 6, 8], 1)).toBe(true);
	});
});
