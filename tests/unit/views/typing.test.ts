import { describe, expect, it } from 'vitest';
import { understandField } from '@/views/bench/understand';
import { fixedValue } from '@/views/entry/fix';
import { ecShown, ecTyped, ecUnit, ecWithUnit, litresTyped } from '@/views/mix/typed';
import { codeFrom } from '@/views/setup/code';
import { age, chanceWords, dateTime, shown, shownWithUnit, unitLabel } from '@/views/ui/format';

/** What a person types and reads: no rounding, unit or mark may change what is meant. */
const metric = { ec: 'mS/cm', temp: 'C' } as const;
const ppm = { ec: 'ppm700', temp: 'F' } as const;

describe('a field of Bench', () => {
	const typed = (field: 'ph' | 'ec' | 'temp', text: string, scale: 500 | 640 | 700 | null = null) =>
		understandField(field, text, scale, metric, null);
	it.each([
		['ph', '5,8', { digits: '5.8', unit: 'pH' }],
		['ec', '1.92', { digits: '1.92', unit: 'mS/cm' }],
		['ec', '60uS', { digits: '60', unit: 'uS/cm' }],
		['ec', '700 ppm500', { quantity: 'tds', digits: '700', unit: 'ppm500' }],
		['temp', '70F', { digits: '70', unit: 'F' }],
	] as const)('%s “%s”', (field, text, meant) => {
		expect(typed(field, text)).toMatchObject({ state: 'value', ...meant });
	});
	it('ppm takes the scale of its meter, and is asked for where it has none', () => {
		expect(typed('ec', '700 ppm', 640)).toMatchObject({ state: 'value', unit: 'ppm640' });
		expect(typed('ec', '700 ppm')).toMatchObject({
			state: 'problem',
			message: expect.stringContaining('on which scale'),
		});
	});
	it('is empty, a problem with what to do, or of another kind', () => {
		expect(typed('ph', '  ')).toEqual({ state: 'empty' });
		expect(typed('ph', '5.8.1')).toMatchObject({ state: 'problem' });
		expect(typed('ph', '1.9 mS')).toEqual({ state: 'problem', message: 'pH is not measured in mS/cm.' });
	});
});

describe('what a person reads', () => {
	it.each([
		['ph', 6.1, '6.10', 'pH 6.10'],
		['ec', 1712, '1.71', '1.71 mS/cm'],
		['ec', 31.4, '0.031', '0.031 mS/cm'],
		['temp', 20.04, '20.0', '20.0 °C'],
		['alkalinity', 220.04, '220', '220'],
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

describe('what a person types elsewhere', () => {
	it.each([
		['1.9', 1900],
		['1900 uS', 1900],
		['', undefined],
		['5.0..6.0', undefined],
	] as const)('EC “%s”', (text, usCm) => {
		expect(ecTyped(text, metric)).toBe(usCm);
	});
	it('EC as the site has it', () => {
		expect([ecShown(1850, metric), ecWithUnit(1850, metric), ecUnit(metric)]).toEqual(['1.85', '1.85 mS/cm', 'mS/cm']);
	});
	it.each([
		['100', 100],
		['20 gal', 75.7],
		['500 mL', 0.5],
		['20 pH', undefined],
		['x', undefined],
	] as const)('litres “%s”', (text, litres) => {
		const got = litresTyped(text);
		if (litres === undefined) expect(got).toBeUndefined();
		else expect(got).toBeCloseTo(litres, 1);
	});
	it('a suggestion has no more digits than a person types', () => {
		expect(fixedValue(1850.0000001, 'mS/cm', '1850')).toBe('1.85');
		expect(fixedValue(5.9, 'pH', '59')).toBe('5.9');
		expect(fixedValue(1234.5, 'uS/cm', '1234')).toBe('1235');
	});
	it.each([
		['Gutters drain', 'gutters-drain'],
		['  Šedá nádrž 2 ', 'seda-nadrz-2'],
		['水槽', '水槽'],
	])('the code of “%s”', (name, code) => {
		expect(codeFrom(name)).toBe(code);
	});
});
