import { describe, expect, it } from 'vitest';
import { understandField } from '@/views/bench/understand';

/** What a person types and reads: no rounding, unit or mark may change what is meant. */
const metric = { ec: 'mS/cm', temp: 'C', volume: 'L' } as const;

describe('a field of Bench', () => {
	const typed = (field: 'ph' | 'ec' | 'temp', text: string, scale: 500 | 640 | 700 | null = null) =>
		understandField(field, text, { ppmScale: scale }, metric, null);
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
	it('a count of drops is the count times what one stands for (leaflets of such kits)', () => {
		const kit = { ppmScale: null, perDrop: { value: 17.9, unit: 'mg/L_CaCO3' as const } };
		expect(understandField('alkalinity', '5 drops', kit, metric, null)).toMatchObject({
			state: 'value',
			digits: '89.5',
			unit: 'mg/L_CaCO3',
			drops: 5,
		});
		expect(understandField('alkalinity', '5dr', null, metric, null)).toMatchObject({
			state: 'problem',
			message: expect.stringContaining('one drop'),
		});
		// A number without a unit is the quantity’s own.
		expect(understandField('alkalinity', '120', kit, metric, null)).toMatchObject({
			digits: '120',
			unit: 'mg/L_CaCO3',
		});
		expect(understandField('volume', '2', null, { ...metric, volume: 'gal' }, null)).toMatchObject({ unit: 'gal' });
	});
});
