import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { dayIn } from '@/core/series/days';
import { fiveMinutesOf, hourOf, resolutionFor, rollUp, rollUpFurther } from '@/core/series/rollup';
import reference from '../../../reference/rollups.json';

const MINUTE = 60_000;
const sample = fc.record({
	gap: fc.integer({ min: 1, max: 900 }),
	value: fc.double({ min: -1e3, max: 1e3, noNaN: true }),
	cause: fc.integer({ min: 0, max: 10 }),
	decision: fc.integer({ min: 0, max: 2 }),
});
function kept(list: { gap: number; value: number; cause: number; decision: number }[]) {
	let at = Date.parse('2026-03-28T20:00:00Z');
	const times = list.map((s) => (at += s.gap * 1000));
	return {
		at: times,
		value: list.map((s) => s.value),
		cause: list.map((s) => s.cause),
		decision: list.map((s) => s.decision),
		count: list.length,
	};
}

describe('rollups', () => {
	it('hold least, greatest, sum and count of what is there, and of what is believed', () => {
		// 0: sound; 2: a spike; decision 1: kept, 2: discarded.
		const r = rollUp(
			{
				at: [0, MINUTE, 2 * MINUTE, 5 * MINUTE],
				value: [1, 9, 3, 4],
				cause: [0, 2, 0, 0],
				decision: [0, 0, 2, 0],
				count: 4,
			},
			fiveMinutesOf,
		);
		expect(r).toEqual([
			{
				at: 0,
				least: 1,
				greatest: 9,
				total: 13,
				count: 3,
				worst: 3,
				goodLeast: 1,
				goodGreatest: 1,
				goodTotal: 1,
				goodCount: 1,
			},
			{
				at: 5 * MINUTE,
				least: 4,
				greatest: 4,
				total: 4,
				count: 1,
				worst: 1,
				goodLeast: 4,
				goodGreatest: 4,
				goodTotal: 4,
				goodCount: 1,
			},
		]);
	});
	it('of rollups are those of their samples; sums to rounding (property)', () => {
		fc.assert(
			fc.property(fc.array(sample, { minLength: 1, maxLength: 400 }), (list) => {
				const samples = kept(list);
				const five = rollUp(samples, fiveMinutesOf);
				for (const stretch of [hourOf, dayIn('Europe/Amsterdam')]) {
					const [once, twice] = [rollUp(samples, stretch), rollUpFurther(five, stretch)];
					const rounded = (all: typeof once) =>
						all.map((r) => ({ ...r, total: Math.round(r.total * 1e6), goodTotal: Math.round(r.goodTotal * 1e6) }));
					expect(rounded(twice)).toEqual(rounded(once));
				}
			}),
			{ numRuns: 60 },
		);
	});
	it('are those that numpy and Python’s zone database give, over the night in which the clocks go forward (tests/reference/make_rollups.py)', () => {
		const { begin, step_ms, values, rollups } = reference;
		const samples = {
			at: values.map((_, i) => begin + i * step_ms),
			value: values,
			cause: values.map(() => 0),
			count: values.length,
		};
		for (const [step, stretch] of [
			['5min', fiveMinutesOf],
			['hour', hourOf],
			['day', dayIn('Europe/Amsterdam')],
		] as const)
			expect(
				rollUp(samples, stretch).map((r) => ({
					at: r.at,
					least: r.least,
					greatest: r.greatest,
					mean: Number((r.total / r.count).toFixed(9)),
					count: r.count,
				})),
			).toEqual(rollups[step]);
	});
	it('a day is that of the site, of 23 hours where the clocks go forward (tz database: 29 March 2026)', () => {
		const day = dayIn('Europe/Amsterdam');
		expect(day(Date.parse('2026-03-29T12:00:00Z'))).toBe(Date.parse('2026-03-28T23:00:00Z'));
		expect(day(Date.parse('2026-03-29T22:00:00Z'))).toBe(Date.parse('2026-03-29T22:00:00Z'));
		expect(day(Date.parse('2026-03-29T21:59:59Z'))).toBe(Date.parse('2026-03-28T23:00:00Z'));
	});
	it('the right one is asked for: never the raw samples of a year, never days of a day', () => {
		const DAY = 86_400_000;
		const of = (days: number, usualMs = MINUTE, rawFrom = Number.NEGATIVE_INFINITY) =>
			resolutionFor({ from: 0, to: days * DAY, points: 2000, usualMs, rawFrom });
		expect([of(1), of(7), of(91), of(365), of(4000)]).toEqual(['raw', '5min', 'hour', 'day', 'day']);
		// What has gone is not asked for; what comes seldom is asked for as it is.
		expect([of(1, MINUTE, 1), of(365, DAY)]).toEqual(['5min', 'raw']);
	});
});
