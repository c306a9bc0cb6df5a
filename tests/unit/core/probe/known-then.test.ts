import { describe, expect, it } from 'vitest';
import { intervalDays } from '@/core/probe/interval';
import { type KnownCalibration, ProbesThen } from '@/core/probe/known-then';

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
describe('how a probe stood at the time of a reading', () => {
	const then = new ProbesThen([
		{
			instrument: 'plum',
			quantity: 'ph',
			calibrations: [found('adjust', 60, 0.02), found('check', 30, 1.4), found('adjust', 2, 0.05)],
			jumps: [],
			interval: { by: 'learned' },
			step: 0.01,
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
