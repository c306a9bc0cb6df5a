import { tzOffset } from '@date-fns/tz';
import { describe, expect, it } from 'vitest';
import { formatTime, parseTime, startOfDay, wallTime } from '@/core/quantity/time';

describe('times', () => {
	const ok = (text: string, zone = 'Europe/Amsterdam') => {
		const t = parseTime(text, zone);
		return t.ok ? `${formatTime(t.at)} ${t.local ?? 'offset'}` : 'refused';
	};
	// Directive 2000/84/EC: summer time begins and ends at 01:00 UTC on the last Sundays of March and October.
	it.each([
		['2026-03-01T07:30Z', '2026-03-01T07:30:00Z offset'],
		['2026-03-01T07:30:15.25+05:30', '2026-03-01T02:00:15.250Z offset'],
		['2026-03-01 07:30', '2026-03-01T06:30:00Z site-zone'],
		['2026-07-01T07:30', '2026-07-01T05:30:00Z site-zone'],
		['2026-10-25T02:30', '2026-10-25T00:30:00Z repeated-hour'],
		['2026-03-29T02:30', '2026-03-29T01:30:00Z skipped-hour'],
		['2026-02-30T00:00Z', 'refused'],
		['2026-13-01T00:00Z', 'refused'],
		['2026-03-01T07:30+15:00', 'refused'],
		['yesterday', 'refused'],
		['0026-03-01T00:00Z', 'refused'],
	])('%s', (text, result) => expect(ok(text)).toBe(result));
	it('a repeated hour with its offset is two instants', () => {
		expect(ok('2026-10-25T02:30+02:00')).not.toBe(ok('2026-10-25T02:30+01:00'));
	});
});

describe('days of the site', () => {
	const at = (text: string | null): string => (text === null ? '' : formatTime(startOfDay(text, 'Europe/Amsterdam')!));
	it('begin at its midnight, an hour earlier in summer (CET and CEST: IANA time zone database)', () => {
		expect(at('2026-01-15')).toBe('2026-01-14T23:00:00Z');
		expect(at('2026-07-15')).toBe('2026-07-14T22:00:00Z');
		// The day on which the clocks go forward has 23 hours.
		expect(Date.parse(at('2026-03-30')) - Date.parse(at('2026-03-29'))).toBe(23 * 3_600_000);
		expect(startOfDay('', 'Europe/Amsterdam')).toBeNull();
		expect(startOfDay('2026-02-30', 'Europe/Amsterdam')).toBeNull();
	});
	it('the clock on the wall, for an axis of days', () => {
		expect(wallTime(Date.UTC(2026, 6, 14, 22), 'Europe/Amsterdam')).toBe(Date.UTC(2026, 6, 15));
		expect(wallTime(Date.UTC(2026, 0, 14, 22), 'Pacific/Auckland')).toBe(Date.UTC(2026, 0, 15, 11));
		// Every half hour of the days on which clocks are moved, as the runtime has it.
		for (const zone of ['Europe/Amsterdam', 'Pacific/Auckland', 'Australia/Lord_Howe', 'America/St_Johns'])
			for (const first of [Date.UTC(2026, 2, 27), Date.UTC(2026, 3, 3), Date.UTC(2026, 8, 25), Date.UTC(2026, 9, 23)])
				for (let at = first; at < first + 5 * 86_400_000; at += 1_800_000)
					expect(wallTime(at, zone) - at).toBe(tzOffset(zone, new Date(at)) * 60_000);
	});
});
