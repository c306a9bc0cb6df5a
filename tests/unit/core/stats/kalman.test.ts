import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type Epoch, filterStates, smoothStates, startState, updateState } from '@/core/stats/kalman';

const reference = JSON.parse(
	readFileSync(join(import.meta.dirname, '../../../reference/kalman.json'), 'utf8'),
) as Record<string, { y: (number | null)[]; filtered: number[][]; smoothed: number[][]; variance: number[][] }>;
const flat = (...v: number[]) => Float64Array.from(v);
/** As in tests/reference/make_kalman.R; its matrices stand column after column. */
const level = { f: flat(1), q: flat(1469.1), h: flat(1), variance: 15099, start: startState([0], [1e7]) };
const trend = {
	f: flat(1, 1, 0, 1),
	q: flat(1200, 0, 0, 40),
	h: flat(1, 0),
	variance: 15099,
	start: startState([0, 0], [1e7, 1e7]),
};
const skew = {
	f: flat(1, 1, 0, 0.9),
	q: flat(900, 100, 100, 60),
	h: flat(1, 0.5),
	variance: 12000,
	start: { mean: flat(900, -3), cov: flat(5e4, 200, 200, 400) },
};
const models = {
	level,
	'level with gaps': level,
	trend,
	'trend with gaps': trend,
	'two seen together': skew,
} as const;

describe('against KalmanRun and KalmanSmooth of R 4.2.2 (tests/reference/make_kalman.R)', () => {
	it.each(Object.keys(models) as (keyof typeof models)[])(
		'the flow of the Nile, %s: forward, back, and how sure',
		(name) => {
			const { f, q, h, variance, start } = models[name];
			const { y, filtered, smoothed, variance: known } = reference[name]!;
			const epochs: Epoch[] = y.map((value) => ({
				transition: { f, q },
				sights: value === null ? [] : [{ h, value, variance }],
			}));
			const forward = filterStates(start, epochs);
			const { states: back } = smoothStates(epochs, forward);
			// R smooths from diffuse beginnings with some loss of digits of its own.
			const near = (have: number, want: number) =>
				expect(Math.abs(have - want)).toBeLessThan(1e-5 * Math.max(1, Math.abs(want)));
			for (const [t] of y.entries()) {
				for (const [i, want] of filtered[t]!.entries()) near(forward.updated[t]!.mean[i]!, want);
				for (const [i, want] of smoothed[t]!.entries()) near(back[t]!.mean[i]!, want);
				for (const [i, want] of known[t]!.entries()) near(back[t]!.cov[i]!, want);
			}
		},
	);
});

describe('what must be so', () => {
	const seen = fc.array(
		fc.record({
			value: fc.double({ min: -5, max: 5, noNaN: true }),
			variance: fc.double({ min: 0.01, max: 4, noNaN: true }),
		}),
		{ minLength: 1, maxLength: 12 },
	);
	it('a state that does not change is the weighted mean of what was seen of it and what was known before', () => {
		fc.assert(
			fc.property(seen, (sights) => {
				const epochs: Epoch[] = sights.map((s) => ({ transition: {}, sights: [{ ...s, h: flat(1) }] }));
				const { states: back } = smoothStates(epochs, filterStates(startState([0.3], [2]), epochs));
				const weight = 1 / 2 + sights.reduce((sum, s) => sum + 1 / s.variance, 0);
				const mean = (0.3 / 2 + sights.reduce((sum, s) => sum + s.value / s.variance, 0)) / weight;
				for (const state of back) {
					expect(state.mean[0]).toBeCloseTo(mean, 9);
					expect(state.cov[0]).toBeCloseTo(1 / weight, 9);
				}
			}),
		);
	});
	it('what was never seen together with anything stays as it was known', () => {
		const epochs: Epoch[] = [1, 2, 3].map((value) => ({
			transition: { q: flat(0.1, 0, 0, 0.2) },
			sights: [{ h: flat(1, 0), value, variance: 0.5 }],
		}));
		const { states: back } = smoothStates(epochs, filterStates(startState([0, 7], [1, 2]), epochs));
		for (const [t, state] of back.entries()) {
			expect(state.mean[1]).toBe(7);
			expect(state.cov[3]).toBeCloseTo(2 + 0.2 * (t + 1), 12);
			expect(state.cov[1]).toBe(0);
		}
	});
	it('a difference that was seen moves the less certain of two, and ties them', () => {
		const state = updateState(startState([0, 0], [0.0001, 1]), { h: flat(1, -1), value: 0.3, variance: 0.0004 });
		expect(state.mean[0]).toBeLessThan(0.001);
		expect(state.mean[1]).toBeCloseTo(-0.3, 2);
		expect(state.cov[1]).toBeGreaterThan(0);
	});
	it('a component without any doubt keeps it, forward and back', () => {
		const epochs: Epoch[] = [1, 2].map((value) => ({
			transition: { q: flat(0, 0, 0, 0.2) },
			sights: [{ h: flat(1, 1), value, variance: 0.5 }],
		}));
		const { states: back } = smoothStates(epochs, filterStates(startState([0.25, 0], [0, 1]), epochs));
		for (const state of back) expect([state.mean[0], state.cov[0]]).toEqual([0.25, 0]);
	});
});
