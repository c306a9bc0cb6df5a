import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { parseDay, parseWhen, typedWhen } from '@/core/quantity/when';

/** Times as people say them; which day and hour that is, is the calendar of the zone (IANA tz database). */
const zone = 'Europe/Amsterdam';
// Thursday 2 July 2026, 12:00 there.
const now = Date.UTC(2026, 6, 2, 10);
const said = (text: string, at = now) => {
	const when = parseWhen(text, at, zone);
	return when.ok ? new Date(when.value).toISOString().slice(0, 16) : when.problem;
};

describe('a past moment as it is said', () => {
	it.each([
		['', '2026-07-02T10:00'],
		['now', '2026-07-02T10:00'],
		['7:30', '2026-07-02T05:30'],
		['0730', '2026-07-02T05:30'],
		['7.30', '2026-07-02T05:30'],
		// Not yet today: it was yesterday.
		['18:05', '2026-07-01T16:05'],
		['yesterday 7:30', '2026-07-01T05:30'],
		['Yesterday at 18:05', '2026-07-01T16:05'],
		['mon 18:05', '2026-06-29T16:05'],
		// The same day of the week is that of last week.
		['thursday 7:30', '2026-06-25T05:30'],
		['30 jun 7:30', '2026-06-30T05:30'],
		['dec 24 7:30', '2025-12-24T06:30'],
		['-2h', '2026-07-02T08:00'],
		['−40 min', '2026-07-02T09:20'],
		['1.5 h ago', '2026-07-02T08:30'],
		['3 days ago', '2026-06-29T10:00'],
		['2026-07-01 07:30', '2026-07-01T05:30'],
		['2026-07-01T07:30Z', '2026-07-01T07:30'],
	])('“%s”', (text, utc) => expect(said(text)).toBe(utc));
	it.each([
		['yesterday', 'which-hour'],
		['mon', 'which-hour'],
		['2026-07-01', 'which-hour'],
		['today 18:05', 'to-come'],
		['2026-07-03 07:30', 'to-come'],
		['soon', 'not-a-time'],
		['25:10', 'not-a-time'],
		['31 feb 7:30', 'not-a-time'],
		['7', 'not-a-time'],
	])('“%s” is asked about', (text, problem) => expect(said(text)).toBe(problem));
	it('the day is the site’s: half past midnight there is still yesterday in UTC', () => {
		expect(said('yesterday 7:30', Date.UTC(2026, 6, 1, 22, 30))).toBe('2026-07-01T05:30');
	});
	it('in the hour that the clocks repeat the first is taken; the hour they skip moves on', () => {
		expect(said('2:30', Date.UTC(2026, 9, 25, 12))).toBe('2026-10-25T00:30');
		expect(said('2:30', Date.UTC(2026, 2, 29, 12))).toBe('2026-03-29T01:30');
	});
	it('is never to come, and reads back what it wrote', () => {
		fc.assert(
			fc.property(
				fc.integer({ min: Date.UTC(2000, 0), max: now }),
				fc.constantFrom(zone, 'UTC', 'Asia/Kolkata'),
				(at, z) => {
					const minute = Math.floor(at / 60_000) * 60_000;
					const back = parseWhen(typedWhen(minute, z), now, z);
					// An hour is named twice in autumn.
					return back.ok && back.value <= now && [0, 3_600_000].includes(minute - back.value);
				},
			),
		);
	});
});

describe('a day as it is said', () => {
	it.each([
		['today', '2026-07-02'],
		['Yesterday', '2026-07-01'],
		['mon', '2026-06-29'],
		['30 june', '2026-06-30'],
		['24 dec', '2025-12-24'],
		['2026-02-03', '2026-02-03'],
		['2026-02-30', null],
		['7', null],
		['', null],
		['2 jul 2025', '2025-07-02'],
		['Jul 2 2024', '2024-07-02'],
		['31 feb 2024', null],
	])('“%s”', (text, date) => expect(parseDay(text, now, zone)).toBe(date));
});
