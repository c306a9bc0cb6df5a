import { describe, expect, it } from 'vitest';
import { parseTime } from '@/core/quantity/time';
import { sheetDay, sheetTime } from '@/core/rhythm/sheet-row';

describe('a sheet that nobody has dated', () => {
	const zone = 'Europe/Amsterdam';
	it('is of the day of the site, not of the meridian: summer two hours ahead, winter one', () => {
		expect(sheetDay(Date.UTC(2026, 6, 1, 21, 59), zone)).toBe('2026-07-01');
		expect(sheetDay(Date.UTC(2026, 6, 1, 22, 0), zone)).toBe('2026-07-02');
		expect(sheetDay(Date.UTC(2026, 10, 25, 22, 59), zone)).toBe('2026-11-25');
		expect(sheetDay(Date.UTC(2026, 10, 25, 23, 0), zone)).toBe('2026-11-26');
		expect(sheetDay(Date.UTC(2026, 0, 1, 3), 'America/Los_Angeles')).toBe('2025-12-31');
	});
	it('never begins after the present, at any minute of a day', () => {
		for (let minute = 0; minute < 24 * 60; minute += 7) {
			const now = Date.UTC(2026, 6, 1, 22, minute);
			const day = sheetDay(now, zone);
			const at = parseTime(`${day}T${sheetTime(day, now, zone)}`, zone);
			expect(at.ok && at.at).toBeLessThanOrEqual(now);
		}
	});
	it('and on an earlier day at the hour of a round', () => {
		expect(sheetTime('2026-06-30', Date.UTC(2026, 6, 1, 22, 15), zone)).toBe('07:30');
	});
});
