import { describe, expect, it } from 'vitest';
import type { Engine } from '@/core/judge/engine';
import type { ProbeState, Reading } from '@/core/reading/model';
import { DAY, NEXT, practised, reading } from '../../../helpers/small-site';

/** Facts of the trade (common practice, no source) unless a source is named. */
const judged = (e: Engine, r: Reading) => e.judge([r])[0]!;

describe('what is known of the probe', () => {
	const withProbe = (state: ProbeState) =>
		practised({ probe: (code, q) => (code === 'plum' && q === 'ph' ? state : null) });
	const fresh: ProbeState = { at: NEXT - 3 * DAY, verdict: 'good', tempC: 21, intervalDays: 7 };
	const cause = (state: ProbeState, more: Partial<Reading> = {}) =>
		judged(withProbe(state), reading(NEXT, 'pond', 'ph', '5.9', 'pH', more)).deciding?.cause;
	it('a fresh one says nothing; a failed and a long overdue one do', () => {
		expect(cause(fresh)).toBeUndefined();
		expect(cause({ ...fresh, verdict: 'fail' })).toBe('calibration-failed');
		expect(cause({ ...fresh, at: NEXT - 13 * DAY })).toBeUndefined();
		expect(cause({ ...fresh, at: NEXT - 15 * DAY })).toBe('calibration-overdue');
		// Said of the probe, once, and not of each of its readings.
		expect(cause(fresh, { tempC: 31.5 })).toBeUndefined();
	});
});

describe('sensitivity', () => {
	it('keen asks about what calm lets pass', () => {
		const value = reading(NEXT, 'pond', 'ph', '6.28', 'pH');
		const flags = [0.8, 1, 1.3].map((tolerance) => judged(practised({ tolerance }), value).flag);
		expect(flags).toEqual([3, 1, 1]);
		expect(judged(practised({ tolerance: 1.3 }), reading(NEXT, 'pond', 'ph', '6.75', 'pH')).flag).toBe(3);
	});
});
