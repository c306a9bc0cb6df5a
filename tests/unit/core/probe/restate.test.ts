import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { errorCurve } from '@/core/probe/error-curve/in-standards';
import { zetaScore } from '@/core/probe/normal';
import { restate } from '@/core/probe/restate';

const DAY = 86_400_000;

describe('restatement (USGS Techniques and Methods 1–D3)', () => {
	const at = (d: number) => d * DAY;
	const point = (nominal: number, found: number) => ({ nominal, found });
	const drifted = (value: number, day: number) =>
		restate({
			quantity: 'ph',
			value,
			takenAt: at(day),
			from: { at: 0, kind: 'adjust', points: [point(7, 7)] },
			to: { at: at(20), points: [point(7, 7.4)] },
		});

	it('5.70 in the tank by a pen that reads 7.40 in 7.01 was 5.31; a second, 5.81 and 7.5, was 5.32 (common practice)', () => {
		const now = (value: number, found: number) =>
			restate({
				quantity: 'ph',
				value,
				takenAt: at(1),
				from: { at: 0, kind: 'adjust', points: [] },
				to: { at: at(1), points: [point(7.01, found)] },
			});
		const [a, b] = [now(5.7, 7.4), now(5.81, 7.5)];
		expect(a).toMatchObject({ value: { applied: true, value: expect.closeTo(5.31, 9) } });
		expect(b).toMatchObject({ value: { applied: true, value: expect.closeTo(5.32, 9) } });
		// With what fresh two-decimal pens are worth, 0.03, they agree after and not before.
		expect(zetaScore(5.7, 0.03, 5.81, 0.03)).toBeGreaterThan(2);
		expect(a.ok && b.ok && zetaScore(a.value.value, 0.03, b.value.value, 0.03)).toBeLessThan(1);
	});
	it('one EC standard corrects in proportion: 1300 found in 1413 makes 100 into 108.7', () => {
		const r = restate({
			quantity: 'ec',
			value: 100,
			takenAt: at(5),
			from: { at: 0, kind: 'check', points: [point(1413, 1300)] },
			to: { at: at(5), points: [point(1413, 1300)] },
		});
		expect(r.ok && r.value.value).toBeCloseTo(108.7, 1);
	});
	it('as left 0 on day 0, as found +0.40 on day 20: 6.20 of day 10 was 6.00', () => {
		expect(drifted(6.2, 10)).toMatchObject({ value: { value: expect.closeTo(6, 12), error: expect.closeTo(0.2, 12) } });
	});
	it('two standards: the error interpolates in value too, on the axis of found values', () => {
		const r = restate({
			quantity: 'ph',
			value: 5.6,
			takenAt: at(20),
			from: { at: 0, kind: 'adjust', points: [] },
			to: { at: at(20), points: [point(7, 7.2), point(4, 4)] },
		});
		expect(r.ok && r.value.error).toBeCloseTo(0.2 * (1.6 / 3.2), 12);
	});
	it('after a mere check the error starts as found, not at nothing', () => {
		const r = restate({
			quantity: 'ph',
			value: 6,
			takenAt: at(5),
			from: { at: 0, kind: 'check', points: [point(7, 7.2)] },
			to: { at: at(10), points: [point(7, 7.4)] },
		});
		expect(r.ok && r.value.error).toBeCloseTo(0.3, 12);
	});
	it('a second after the adjustment hardly anything; outside the interval nothing', () => {
		const r = drifted(6.2, 1 / 86_400);
		expect(r.ok && Math.abs(r.value.value - 6.2)).toBeLessThan(1e-6);
		expect(drifted(6.2, 21)).toMatchObject({ value: { applied: false, value: 6.2 } });
		expect(drifted(6.2, -1)).toMatchObject({ value: { applied: false, value: 6.2 } });
	});
	it('thresholds: small errors are left alone, beyond 2 pH rejected', () => {
		const run = (found: number) =>
			restate({
				quantity: 'ph',
				value: 6,
				takenAt: at(20),
				from: { at: 0, kind: 'adjust', points: [] },
				to: { at: at(20), points: [point(7, found)] },
				thresholds: { leaveAlone: 0.2, reject: 2 },
			});
		expect(run(7.19)).toMatchObject({ value: { applied: false, why: 'leave-alone', value: 6 } });
		expect(run(7.21)).toMatchObject({ value: { applied: true } });
		expect(run(9.01)).toMatchObject({ value: { applied: false, why: 'rejected', value: 6 } });
	});
	it('never divides by a vanishing gain', () => {
		expect(errorCurve('ph', [point(7, 6.9), point(4, 6.9)])).toEqual({ ok: false, problem: 'vanishing-gain' });
		expect(errorCurve('ph', [point(7, 4), point(4, 7)])).toEqual({ ok: false, problem: 'wrong-way' });
		expect(errorCurve('ec', [point(1413, 0)])).toEqual({ ok: false, problem: 'vanishing-gain' });
		fc.assert(
			fc.property(
				fc.double({ min: 0, max: 14, noNaN: true }),
				fc.double({ min: 0, max: 14, noNaN: true }),
				fc.double({ min: 0, max: 14, noNaN: true }),
				(a, b, v) => {
					const r = restate({
						quantity: 'ph',
						value: v,
						takenAt: 5,
						from: { at: 0, kind: 'adjust', points: [] },
						to: { at: 10, points: [point(7, a), point(4, b)] },
					});
					return !r.ok || (Number.isFinite(r.value.value) && Math.abs(r.value.error) < 300);
				},
			),
		);
	});
	it('what was found in a standard is put back to that standard (property)', () => {
		const found = fc.double({ min: -0.8, max: 0.8, noNaN: true });
		fc.assert(
			fc.property(found, found, (e7, e4) => {
				const points = [point(7, 7 + e7), point(4, 4 + e4)];
				const r = restate({
					quantity: 'ph',
					value: 7 + e7,
					takenAt: 10,
					from: { at: 0, kind: 'adjust', points: [] },
					to: { at: 10, points },
				});
				return r.ok && Math.abs(r.value.value - 7) < 1e-9;
			}),
		);
	});
});
