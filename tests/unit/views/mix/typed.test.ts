import { describe, expect, it } from 'vitest';
import { fixedValue } from '@/views/entry/fix';
import {
	ecShown,
	ecTyped,
	ecUnit,
	ecWithUnit,
	litresTyped,
	volumeName,
	volumeShown,
	volumeWithUnit,
} from '@/views/mix/typed';
import { codeFrom } from '@/views/setup/code';

/** What a person types and reads: no rounding, unit or mark may change what is meant. */
const metric = { ec: 'mS/cm', temp: 'C', volume: 'L' } as const;

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
	it('volumes in the gallons of the site: 20 US gal are 75.7 L, 20 imperial 90.9', () => {
		// 3.785411784 L and 4.54609 L, exact by definition (NIST SP 811, appendix B).
		const us = { ...metric, volume: 'gal' } as const;
		const imperial = { ...metric, volume: 'imp_gal' } as const;
		expect(litresTyped('20', us)).toBeCloseTo(75.708, 3);
		expect(litresTyped('20', imperial)).toBeCloseTo(90.922, 3);
		expect(litresTyped('20 L', us)).toBe(20);
		expect([volumeShown(75.708, us), volumeWithUnit(75.708, us), volumeName(us)]).toEqual([
			'20',
			'20 US gal',
			'US gal',
		]);
		expect(volumeName(metric)).toBe('litres');
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
