import { describe, expect, it } from 'vitest';
import { mannKendall, theilSen } from '@/core/trend/kendall';
import { cutsOf, spansOf, trendOf } from '@/core/trend/trend';
import reference from '../../../reference/trend.json';

const DAY = 86_400_000;

describe('Kendall’s test and the slope of Theil and Sen', () => {
	it.each(reference.kendall)('as scipy has them: kendalltau and theilslopes (case %#)', (r) => {
		expect(mannKendall([r])!.p).toBeCloseTo(r.p, 5);
		const slope = theilSen([r])!;
		expect(slope.value).toBeCloseTo(r.slope, 9);
		expect(slope.low).toBeCloseTo(r.low, 9);
		expect(slope.high).toBeCloseTo(r.high, 9);
	});
	it('parts are compared only within: sums of their pairs and variances (Hirsch, Slack and Smith 1982)', () => {
		const [a, b] = [reference.kendall[3]!, reference.kendall[5]!];
		const both = mannKendall([a, b])!;
		const [one, two] = [mannKendall([a])!, mannKendall([b])!];
		expect([both.s, both.variance]).toEqual([one.s + two.s, one.variance + two.variance]);
		// A step between two flat parts is no trend; as one series it would be.
		const low = { x: [1, 2, 3, 4, 5, 6], y: [5, 5.1, 5, 5.1, 5, 5.1] };
		const high = { x: [7, 8, 9, 10, 11, 12], y: [6, 6.1, 6, 6.1, 6, 6.1] };
		expect(mannKendall([low, high])!.p).toBeGreaterThan(0.2);
		expect(mannKendall([{ x: [...low.x, ...high.x], y: [...low.y, ...high.y] }])!.p).toBeLessThan(0.01);
	});
	it('nothing where nothing can be compared', () => {
		expect(mannKendall([])).toBeNull();
		expect(mannKendall([{ x: [1], y: [2] }])).toBeNull();
		expect(theilSen([{ x: [1, 1], y: [2, 3] }])).toBeNull();
	});
});

describe('what a series does between events', () => {
	// pH climbs 0.1 a day and is brought down by acid every fourth: it never gets anywhere, and always rises.
	const points = Array.from({ length: 24 }, (_, d) => ({
		at: d * DAY,
		value: 5.8 + 0.1 * (d % 4) + ((d * 7) % 5) * 0.004,
	}));
	const acid = points.filter((_, d) => d > 0 && d % 4 === 0).map((p) => p.at - 3_600_000);
	it('always rises between the acid, though it ends where it began', () => {
		const t = trendOf(points, acid);
		expect(t).toMatchObject({ says: 'rising', readings: 24, spans: 6 });
		expect(t.perDay!.low).toBeLessThanOrEqual(0.1);
		expect(t.perDay!.high).toBeGreaterThanOrEqual(0.1);
		expect(trendOf(points, []).says).toBe('steady');
	});
	it('says nothing of few readings, nor where each stands alone', () => {
		expect(trendOf(points.slice(0, 5), [])).toMatchObject({ says: 'unknown', perDay: null, p: null });
		expect(
			trendOf(
				points,
				points.map((p) => p.at),
			).says,
		).toBe('unknown');
	});
	it('a swing of the day is no trend', () => {
		const hourly = Array.from({ length: 5 * 24 }, (_, h) => ({
			at: h * 3_600_000,
			value: 6 + 0.3 * Math.sin((2 * Math.PI * h) / 24),
		}));
		expect(trendOf(hourly, []).says).not.toBe('rising');
		expect(trendOf(hourly, [])).toMatchObject({ readings: 5 });
	});
	it('acid cuts pH and not EC; spans begin after a cut', () => {
		expect([cutsOf('ph').includes('acid_added'), cutsOf('ec').includes('acid_added')]).toEqual([true, false]);
		expect(cutsOf('temp')).toEqual(['solution_changed']);
		expect(spansOf(points.slice(0, 6), acid).map((s) => s.length)).toEqual([4, 2]);
	});
	// Without a trend it is said to be one in 5 of 100 cases by chance; with noise alone, over many series.
	it('is wrong about noise as rarely as it says', () => {
		let seed = 3;
		const next = () => {
			seed = (seed * 16807) % 2147483647;
			return seed / 2147483647;
		};
		let said = 0;
		for (let k = 0; k < 400; k++) {
			const noise = Array.from({ length: 20 }, (_, d) => ({ at: d * DAY, value: next() }));
			if (trendOf(noise, [7.5 * DAY, 13.5 * DAY]).says !== 'steady') said++;
		}
		expect(said / 400).toBeGreaterThan(0.02);
		expect(said / 400).toBeLessThan(0.08);
	});
});
