import * as ss from 'simple-statistics';
import { describe, expect, it } from 'vitest';
import { combinedEffect } from '@/core/judge/event-effect';
import { believe, doubt, emptyHistory, predict, score } from '@/core/judge/history';
import { toWorking } from '@/core/judge/working-scale';
import type { StationInfo } from '@/core/reading/model';
import { madSigma, median, theilSenSlope } from '@/core/series/robust';
import scipy from '../../../reference/scipy.json';

const DAY = 86_400_000;
const tank: StationInfo = { code: 'pond', kind: 'reservoir', system: null, volumeL: 100, ranges: {} };

describe('robust statistics against scipy and simple-statistics', () => {
	it('median and scaled MAD', () => {
		for (const { values, median: m, mad_sigma } of scipy.robust) {
			expect(median(values)).toBeCloseTo(m, 12);
			expect(median(values)).toBeCloseTo(ss.median(values), 12);
			expect(madSigma(values)).toBeCloseTo(mad_sigma, 9);
		}
	});
	it('Theil–Sen slope', () => {
		for (const { x, y, slope } of scipy.theil_sen) expect(theilSenSlope(x, y)).toBeCloseTo(slope, 10);
		expect(theilSenSlope([1, 1], [2, 3])).toBeNull();
	});
});

describe('prediction from a station’s own history', () => {
	const fill = (values: readonly number[]) => {
		const h = emptyHistory('ph');
		for (const [i, v] of values.entries()) believe(h, i * DAY, v, predict(h, i * DAY, tank));
		return h;
	};
	it('follows a level and is not moved by one outlier', () => {
		const h = fill([5.9, 5.92, 5.88, 5.91, 5.9, 6.6, 5.9]);
		expect(predict(h, 7 * DAY, tank)!.level).toBeCloseTo(5.9, 1);
	});
	it('follows a trend larger than its noise', () => {
		const h = fill([5.5, 5.6, 5.7, 5.8, 5.9, 6.0, 6.1, 6.2, 6.3]);
		expect(predict(h, 9 * DAY, tank)!.level).toBeCloseTo(6.4, 1);
	});
	it('grows less sure with the time since, but never vaguer than the prior', () => {
		const h = fill([5.9, 5.92, 5.88, 5.91, 5.9, 5.93, 5.9]);
		const at = (days: number) => predict(h, (6 + days) * DAY, tank)!.spread;
		expect(at(1)).toBeLessThan(at(7));
		expect(at(7)).toBeLessThan(at(20));
		expect(at(5000)).toBeLessThanOrEqual(0.6);
	});
	it('learns how noisy a station is', () => {
		const calm = fill(Array.from({ length: 25 }, (_, i) => 5.9 + (i % 2) * 0.01));
		const wild = fill(Array.from({ length: 25 }, (_, i) => 5.9 + (i % 3) * 0.3));
		expect(predict(calm, 25 * DAY, tank)!.spread).toBeLessThan(predict(wild, 25 * DAY, tank)!.spread / 1.8);
	});
	it('confirms a new level by a second reading that agrees', () => {
		const h = fill([5.9, 5.92, 5.88, 5.91]);
		expect(doubt(h, 4 * DAY, 6.9, 0.3, 1)).toBe(false);
		expect(doubt(h, 5 * DAY, 6.85, 0.3, 1)).toBe(true);
		expect(predict(h, 6 * DAY, tank)!.level).toBeCloseTo(6.9, 1);
	});
});

describe('events shift the prediction', () => {
	it('a top-up with water dilutes by mass balance: 100 L plus 25 L takes EC to 80 %', () => {
		const effect = combinedEffect('ec', [{ at: 0, station: 'pond', kind: 'water_added', amount: 25, unit: 'L' }], tank);
		expect(Math.exp(-effect.reach)).toBeCloseTo(0.8, 12);
		expect(effect.direction).toBe(-1);
	});
	it('a dose of acid explains a fall and not a rise', () => {
		const effect = combinedEffect('ph', [{ at: 0, station: 'pond', kind: 'acid_added', amount: 5, unit: 'mL' }], tank);
		const p = { level: 6.5, spread: 0.1, from: 9, seen: 9, event: effect };
		expect(score(p, 5.6, 0.02)).toBeCloseTo(0, 12);
		expect(score(p, 7.2, 0.02)).toBeGreaterThan(6);
	});
	it('works on gallons too, and leaves a level untouched by a note', () => {
		const effect = combinedEffect(
			'ec',
			[{ at: 0, station: 'pond', kind: 'water_added', amount: 25 / 3.785411784, unit: 'gal' }],
			tank,
		);
		expect(Math.exp(-effect.reach)).toBeCloseTo(0.8, 12);
		expect(combinedEffect('ec', [{ at: 0, station: 'pond', kind: 'note', amount: null, unit: null }], tank).cuts).toBe(
			false,
		);
	});
	it('EC moves on a scale of percent', () => {
		expect(toWorking('ec', 2000) - toWorking('ec', 1000)).toBeCloseTo(Math.log(2050 / 1050), 12);
	});
});
