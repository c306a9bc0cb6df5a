import { describe, expect, it } from 'vitest';
import { dueNow, usualRhythms } from '@/core/rhythm/due';

describe('what is due', () => {
	const zone = 'Europe/Amsterdam';
	const at = (text: string) => Date.parse(text);
	it('daily means each calendar day of the site, not each 24 hours', () => {
		const evening = at('2026-07-13T21:30:00+02:00');
		expect(dueNow('daily', evening, at('2026-07-13T23:50:00+02:00'), zone)).toEqual({ due: false, inDays: 1 });
		expect(dueNow('daily', evening, at('2026-07-14T00:10:00+02:00'), zone)).toEqual({ due: true, sinceDays: 0 });
		// The day that has 23 hours.
		expect(dueNow('daily', at('2026-03-28T23:59:00+01:00'), at('2026-03-29T00:01:00+01:00'), zone)).toEqual({
			due: true,
			sinceDays: 0,
		});
	});
	it('weekly and monthly count days; never is never; what was never done is due', () => {
		const now = at('2026-07-14T08:00:00+02:00');
		expect(dueNow('weekly', at('2026-07-08T20:00:00+02:00'), now, zone)).toEqual({ due: false, inDays: 1 });
		expect(dueNow('weekly', at('2026-07-07T20:00:00+02:00'), now, zone)).toEqual({ due: true, sinceDays: 0 });
		expect(dueNow('weekly', at('2026-07-04T20:00:00+02:00'), now, zone)).toEqual({ due: true, sinceDays: 3 });
		expect(dueNow('monthly', at('2026-06-20T20:00:00+02:00'), now, zone)).toEqual({ due: false, inDays: 6 });
		expect(dueNow('never', null, now, zone)).toEqual({ due: false, inDays: null });
		expect(dueNow('daily', null, now, zone)).toEqual({ due: true, sinceDays: null });
	});
	it('each visit: due until read on this round', () => {
		const now = at('2026-07-14T08:00:00+02:00');
		expect(dueNow('visit', now - 60_000, now, zone, now - 600_000).due).toBe(false);
		expect(dueNow('visit', now - 3_600_000, now, zone, now - 600_000).due).toBe(true);
		expect(dueNow('visit', now - 3_600_000, now, zone).due).toBe(false);
	});
	it('tanks daily, mixes each visit, sources monthly and without the pH of pure water', () => {
		expect(usualRhythms('reservoir', false).ph).toBe('daily');
		expect(usualRhythms('mix', false).ec).toBe('visit');
		expect(usualRhythms('source', false).ph).toBe('monthly');
		expect(usualRhythms('source', true).ph).toBeUndefined();
	});
});
