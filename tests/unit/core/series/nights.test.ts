import { describe, expect, it } from 'vitest';
import { nights } from '@/core/series/nights';

const HOUR = 3_600_000;
const DAY = 24 * HOUR;
const MINUTES = 60_000;
const near = (at: number, iso: string): void =>
	expect(Math.abs(at - Date.parse(iso)), new Date(at).toISOString()).toBeLessThan(3 * MINUTES);

describe('nights', () => {
	// Greenwich, from an almanac's tables: midsummer 2024 the sun sets at 20:21 and rises at 03:43; midwinter 15:53 and 08:04 (from memory).
	it.each([
		['2024-06-20', '2024-06-20T20:21Z', '2024-06-21T03:43Z'],
		['2024-12-20', '2024-12-20T15:53Z', '2024-12-21T08:04Z'],
	])('of %s at Greenwich are those of an almanac', (day, sunset, sunrise) => {
		const noon = Date.parse(`${day}T12:00Z`);
		const found = nights([], { latitude: 51.48, longitude: 0 }, noon, noon + DAY);
		expect(found).toHaveLength(1);
		near(found[0]![0], sunset);
		near(found[0]![1], sunrise);
	});
	// At the equator day and night of an equinox are twelve hours but for refraction and the sun's disc, 3.5 minutes each end
	// (the definition of sunrise by 50' below the horizon: 2 · 50/60 / 15 h; Explanatory Supplement to the Astronomical Almanac).
	it('at the equator on an equinox last twelve hours less seven minutes', () => {
		const noon = Date.parse('2024-03-20T12:00Z');
		const [[dark, light]] = nights([], { latitude: 0, longitude: 0 }, noon, noon + DAY) as [[number, number]];
		expect((light - dark) / HOUR).toBeCloseTo(12 - 400 / 3600, 1);
	});
	it('of a week beyond the polar circle never end in December and never come in June', () => {
		const tromso = { latitude: 69.6, longitude: 19 };
		const week = (iso: string): [number, number] => [Date.parse(iso), Date.parse(iso) + 7 * DAY];
		expect(nights([], tromso, ...week('2024-12-15T00:00Z'))).toEqual([week('2024-12-15T00:00Z')]);
		expect(nights([], tromso, ...week('2024-06-15T00:00Z'))).toEqual([]);
	});
	it('east of the date line too lie in the span that is asked for, whole or cut at its ends', () => {
		const from = Date.parse('2024-09-20T00:00Z');
		const found = nights([], { latitude: -41, longitude: 175 }, from, from + 3 * DAY);
		expect(found).toHaveLength(3);
		for (const [a, b] of found) {
			expect(a).toBeGreaterThanOrEqual(from);
			expect(b).toBeLessThanOrEqual(from + 3 * DAY);
			expect((b - a) / HOUR).toBeGreaterThan(11);
			expect((b - a) / HOUR).toBeLessThan(12.5);
		}
	});
	it('within one night are the whole of a short span, and none within one day', () => {
		const at = Date.parse('2024-03-20T23:00Z');
		expect(nights([], { latitude: 0, longitude: 0 }, at, at + HOUR)).toEqual([[at, at + HOUR]]);
		expect(nights([], { latitude: 0, longitude: 0 }, at + 13 * HOUR, at + 14 * HOUR)).toEqual([]);
	});
	it('are those of the lamps where somebody noted them, from the beginning where they only went on', () => {
		const lamps = [
			{ at: 5 * HOUR, on: true },
			{ at: 23 * HOUR, on: false },
		];
		expect(nights(lamps, { latitude: 51, longitude: 0 }, 0, DAY)).toEqual([
			[0, 5 * HOUR],
			[23 * HOUR, DAY],
		]);
	});
	it('are nobody’s guess where neither lamps nor place are known', () => {
		expect(nights([], null, 0, DAY)).toEqual([]);
	});
});
