import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { FIELD, settling, TIGHT } from '@/core/reading/settling';

/** The first-order response of an electrode: value = end + (start − end)·e^(−t/τ), read every second. */
const response = (start: number, end: number, tau: number, seconds: number) =>
	Array.from({ length: seconds + 1 }, (_, s) => ({ s, value: end + (start - end) * Math.exp(-s / tau) }));

describe('settling against the analytic first-order response', () => {
	it('settles when, and only when, ten seconds move less than the criterion on either side of their middle', () => {
		for (const tau of [4, 8, 15]) {
			for (let t = 12; t < 150; t++) {
				const points = response(7, 5.8, tau, t);
				// By the formula: over the window it falls from a to b, its median is the value at the middle.
				const at = (s: number) => 5.8 + 1.2 * Math.exp(-s / tau);
				const spread = Math.max(at(t - 10) - at(t - 5), at(t - 5) - at(t));
				const verdict = settling('ph', points);
				if (spread < 0.012) expect(verdict.state).toBe('settled');
				if (spread > 0.021) expect(verdict.state).toBe('moving');
			}
		}
	});
	it('the settled value is near the end value, and its uncertainty says how near', () => {
		const verdict = settling('ph', response(7, 5.8, 8, 60));
		if (verdict.state !== 'settled') throw new Error(verdict.state);
		expect(Math.abs(verdict.value - 5.8)).toBeLessThan(0.02);
		expect(verdict.u).toBeLessThan(0.02);
	});
	it('the field criterion of the USGS manual A6 is met sooner than ours', () => {
		const first = (preset: typeof TIGHT) => {
			for (let t = 11; t < 200; t++) if (settling('ph', response(7, 5.8, 12, t), preset).state === 'settled') return t;
			return 200;
		};
		expect(first(FIELD)).toBeLessThan(first(TIGHT));
	});
	it('tells a bubble, noise and too little to say', () => {
		const ec = (f: (s: number) => number) => Array.from({ length: 25 }, (_, s) => ({ s, value: f(s) }));
		expect(
			settling(
				'ec',
				ec((s) => (s < 12 ? 1800 : 1100)),
			),
		).toEqual({ state: 'bubble' });
		expect(
			settling(
				'ph',
				ec((s) => 6 + (s % 2 ? 0.08 : -0.08)),
			),
		).toEqual({ state: 'noisy' });
		expect(settling('ph', [{ s: 0, value: 6 }])).toEqual({ state: 'too-few' });
		expect(settling('ph', [])).toEqual({ state: 'too-few' });
	});
	it('a stream that repeats or jumps back in time changes nothing', () => {
		const points = response(7, 5.8, 8, 60);
		const dirty = points.flatMap((p) => [p, { s: p.s - 3, value: 9 }, { s: Number.NaN, value: 1 }]);
		expect(settling('ph', dirty)).toEqual(settling('ph', points));
	});
	it('never throws or gives a number that is not finite (property)', () => {
		fc.assert(
			fc.property(
				fc.array(fc.record({ s: fc.double({ min: -10, max: 300 }), value: fc.double({ min: 0, max: 14 }) })),
				(points) => {
					const r = settling('ph', points);
					return r.state !== 'settled' || (Number.isFinite(r.value) && Number.isFinite(r.u));
				},
			),
		);
	});
});
