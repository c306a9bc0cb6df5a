import { describe, expect, it } from 'vitest';
import { countedDrops, dropResolution, unitsFor, valueOfDrops } from '@/core/reading/drops';

/** Leaflets of titration kits: value = drops × what one stands for, to the width of a drop. */
describe('drop counts', () => {
	it('are told from numbers', () => {
		expect(['12 drops', '1 drop', '7dr', '12', '0 drops', 'drops', '1.5 drops'].map(countedDrops)).toEqual([
			12,
			1,
			7,
			null,
			null,
			null,
			null,
		]);
	});
	it('one drop a German degree: 6 drops are 6 °dKH, of 17.85 mg/L as CaCO3 each (1 °d = 10 mg/L CaO)', () => {
		expect(valueOfDrops(6, { value: 1, unit: 'dKH' })).toBe('6');
		expect(dropResolution('alkalinity', { value: 1, unit: 'dKH' })).toBeCloseTo(17.85, 1);
	});
	it('no trailing noise of arithmetic', () => expect(valueOfDrops(3, { value: 0.1, unit: 'mg/L' })).toBe('0.3'));
	it('in units of the quantity alone', () => {
		expect(dropResolution('alkalinity', { value: 1, unit: 'mV' })).toBeNull();
		expect(unitsFor('hardness')).toEqual(expect.arrayContaining(['mg/L_CaCO3', 'dGH', 'gpg']));
		expect(unitsFor('hardness')).not.toContain('C');
	});
});
