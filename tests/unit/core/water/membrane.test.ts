import { describe, expect, it } from 'vitest';
import { membraneState, pairRejection } from '@/core/water/membrane';
import { seeded } from '@/sim/random';

describe('membranes', () => {
	const DAY = 86_400_000;
	const rejection = (d: number) => 0.97 - 0.0004 * d;
	const record = (feedOf: (d: number) => number, rejectOf: (d: number) => number, days = 120) => {
		const chance = seeded(11);
		const list = Array.from({ length: Math.floor(days / 5) }, (_, i) => i * 5);
		const feed = list.map((d) => ({ at: d * DAY, value: feedOf(d) * (1 + 0.01 * chance.normal()) }));
		const permeate = list.map((d, i) => ({
			at: d * DAY + 3_600_000,
			value: feed[i]!.value * (1 - rejectOf(d)) * (1 + 0.02 * chance.normal()),
		}));
		return pairRejection(feed, permeate);
	};
	it('rejection is 1 − permeate/feed, paired in time; what has no feed near it is left out', () => {
		expect(pairRejection([{ at: 0, value: 800 }], [{ at: DAY, value: 40 }])[0]!.rejection).toBeCloseTo(0.95, 12);
		expect(pairRejection([{ at: 0, value: 800 }], [{ at: 5 * DAY, value: 40 }])).toEqual([]);
		expect(
			membraneState(
				record(() => 800, rejection, 20),
				20 * DAY,
			),
		).toEqual({ known: false, reason: 'too-few' });
	});
	it('a display of coarse steps widens the window by what it hides', () => {
		const fine = record(() => 800, rejection);
		const coarse = fine.map((p) => {
			const permeateUsCm = Math.round(p.permeateUsCm / 14) * 14;
			return { ...p, permeateUsCm, rejection: 1 - permeateUsCm / p.feedUsCm };
		});
		const width = (points: typeof fine) => {
			const m = membraneState(points, 120 * DAY);
			if (!m.known || !m.reaches.watch) throw new Error('no date');
			return (m.reaches.watch.late ?? Number.POSITIVE_INFINITY) - m.reaches.watch.early;
		};
		expect(width(coarse)).toBeGreaterThan(1.5 * width(fine));
	});
	it('a tiring membrane gets a window that holds the true date, and is told from a feed that got worse', () => {
		const m = membraneState(
			record(() => 800, rejection),
			120 * DAY,
		);
		if (!m.known || !m.reaches.watch) throw new Error('no date');
		// 0.97 − 0.0004·d = 0.90 at day 175.
		expect(Math.abs(m.reaches.watch.likely / DAY - 175)).toBeLessThan(12);
		expect(m.reaches.watch.early / DAY).toBeLessThanOrEqual(175);
		expect(m.reaches.watch.late === null || m.reaches.watch.late / DAY >= 172).toBe(true);
		expect(m.why).toBe('membrane');
		const feed = membraneState(
			record(
				(d) => 700 + 4 * d,
				() => 0.96,
			),
			120 * DAY,
		);
		expect(feed.known && feed.why).toBe('feed');
		expect(feed.known && feed.grade).toBe('good');
		expect(
			membraneState(
				record(
					() => 800,
					() => 0.85,
				),
				120 * DAY,
			),
		).toMatchObject({ grade: 'watch' });
		expect(
			membraneState(
				record(
					() => 800,
					() => 0.75,
				),
				120 * DAY,
			),
		).toMatchObject({ grade: 'replace' });
	});
});
