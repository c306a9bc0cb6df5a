import { describe, expect, it } from 'vitest';
import { intervalDays } from '@/core/probe/interval';
import { type KnownCalibration, ProbesThen } from '@/core/probe/known-then';
import { uNow, type WorthNow } from '@/core/probe/worth';

const DAY = 86_400_000;
const NOW = Date.UTC(2026, 5, 1);
const found = (kind: 'check' | 'adjust', daysAgo: number, error: number): KnownCalibration => ({
	at: NOW - daysAgo * DAY,
	kind,
	tempC: 25,
	points: [7, 4.01].map((nominal) => ({
		nominal,
		asFound: nominal + error,
		asLeft: kind === 'adjust' ? nominal : null,
	})),
});
const worth = (more: Partial<WorthNow>): number =>
	uNow(
		{
			quantity: 'ph',
			instrumentU: 0.03,
			drift: { ratePerDay: 0, sigmaPerRootDay: 0.02, from: 6 },
			lastCalibration: found('adjust', 4, 0.01),
			upsetSince: false,
			...more,
		},
		NOW,
	);

describe('what a reading is worth now', () => {
	it('instrument and drift since the last adjustment: √(0.03² + 0.02²·4) (sum of squares: JCGM 100, 5.1.2)', () => {
		expect(worth({})).toBeCloseTo(Math.hypot(0.03, 0.02 * 2), 10);
	});
	it('a check that found it off leaves it off: 0.4 is part of every reading until it is adjusted', () => {
		expect(worth({ lastCalibration: found('check', 1, 0.4) })).toBeGreaterThan(0.4);
		expect(worth({ lastCalibration: found('adjust', 1, 0.4) })).toBeLessThan(0.1);
		// Off in the other direction it is as far off.
		expect(worth({ lastCalibration: found('check', 1, -0.4) })).toBeGreaterThan(0.4);
	});
	it('dropped or dried out it is worth no more than one that nobody knows, until it was checked', () => {
		const unknown = worth({ lastCalibration: null });
		expect(worth({ upsetSince: true })).toBeGreaterThanOrEqual(unknown);
		expect(unknown).toBeGreaterThan(3 * worth({}));
	});
	it('EC in percent of the standard: 1,300 found in 1,413 is 8 % (arithmetic)', () => {
		const check: KnownCalibration = {
			at: NOW - DAY,
			kind: 'check',
			tempC: 25,
			points: [{ nominal: 1413, asFound: 1300, asLeft: null }],
		};
		expect(worth({ quantity: 'ec', instrumentU: 0, lastCalibration: check })).toBeCloseTo(8, 1);
	});
});

describe('how a probe stood at the time of a reading', () => {
	const then = new ProbesThen([
		{
			instrument: 'plum',
			quantity: 'ph',
			calibrations: [found('adjust', 60, 0.02), found('check', 30, 1.4), found('adjust', 2, 0.05)],
			jumps: [],
			interval: { by: 'learned' },
		},
	]);
	it('not before its first calibration, and nothing that came later', () => {
		expect(then.stateAt('plum', 'ph', NOW - 61 * DAY)).toBeNull();
		expect(then.stateAt('brass', 'ph', NOW)).toBeNull();
		expect(then.stateAt('plum', 'ph', NOW - 40 * DAY)).toMatchObject({ at: NOW - 60 * DAY, verdict: 'good' });
		expect(then.stateAt('plum', 'ph', NOW - 10 * DAY)).toMatchObject({ verdict: 'fail' });
		expect(then.stateAt('plum', 'ph', NOW)).toMatchObject({ at: NOW - 2 * DAY, verdict: 'good' });
	});
	it('weekly until its own history says otherwise, as chosen, or as the maker says (common practice, no source)', () => {
		expect(then.stateAt('plum', 'ph', NOW)!.intervalDays).toBe(7);
		const learned = { days: 21, reason: 'learned', chance: 0.95 } as const;
		expect(intervalDays({ by: 'learned' }, learned)).toBe(21);
		expect(intervalDays({ by: 'monthly' }, learned)).toBe(30);
		expect(intervalDays({ by: 'maker', days: 14 }, learned)).toBe(14);
		expect(intervalDays({ by: 'days', days: 3 }, learned)).toBe(3);
	});
});
