import { describe, expect, it } from 'vitest';
import { age, chanceWords, dateTime, shown, shownWithUnit, unitLabel } from '@/views/ui/format';

/** What a person types and reads: no rounding, unit or mark may change what is meant. */
const metric = { ec: 'mS/cm', temp: 'C', volume: 'L' } as const;
const ppm = { ec: 'ppm700', temp: 'F', volume: 'L' } as const;

describe('what a person reads', () => {
	it.each([
		['ph', 6.1, '6.10', 'pH 6.10'],
		['ec', 1712, '1.71', '1.71 mS/cm'],
		['ec', 31.4, '0.031', '0.031 mS/cm'],
		['temp', 20.04, '20.0', '20.0 °C'],
		['alkalinity', 220.04, '220', '220 mg/L CaCO3'],
	] as const)('%s %d', (quantity, value, bare, withUnit) => {
		expect([shown(quantity, value, metric), shownWithUnit(quantity, value, metric)]).toEqual([bare, withUnit]);
	});
	it('in the units of the site: 1400 µS/cm is 980 ppm on the 700 scale, 20 °C are 68 °F', () => {
		expect([shownWithUnit('ec', 1400, ppm), shownWithUnit('temp', 20, ppm)]).toEqual(['980 ppm (700)', '68.0 °F']);
	});
	it('a unit that has no other name keeps its own', () => {
		expect([unitLabel('uS/cm'), unitLabel('pH'), unitLabel('mm')]).toEqual(['µS/cm', '', 'mm']);
	});
	it.each([
		[20_000, 'now'],
		[59 * 60_000, '59 min'],
		[35 * 3_600_000, '35 h'],
		[36 * 3_600_000, '2 d'],
	])('%d ms ago: %s', (ms, words) => {
		expect(age(0, ms)).toBe(words);
	});
	it('a chance is never certain', () => {
		expect([chanceWords(1), chanceWords(0), chanceWords(0.953)]).toEqual(['over 99 %', 'under 1 %', '95 %']);
	});
	it('a time is the site’s', () => {
		expect(dateTime(Date.UTC(2026, 6, 1, 22, 30), 'Europe/Amsterdam')).toMatch(/^2 Jul,? 00:30$/);
	});
});
