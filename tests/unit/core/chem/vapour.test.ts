import { describe, expect, it } from 'vitest';
import { saturationPressure, vapourDeficit } from '@/core/chem/vapour';

describe('what the air still takes up', () => {
	/** FAO 56, annex 2, table 2.3: saturation vapour pressure, kPa (from memory). */
	it.each([
		[10, 1.228],
		[15, 1.705],
		[20, 2.338],
		[25, 3.168],
		[30, 4.243],
	])('%i °C: %f kPa', (airC, kPa) => expect(Math.abs(saturationPressure(airC) - kPa)).toBeLessThan(0.001));
	it('nothing at full humidity, all of it in dry air', () => {
		expect(vapourDeficit(24, 100)).toBe(0);
		expect(vapourDeficit(24, 0)).toBe(saturationPressure(24));
		expect(vapourDeficit(25, 60)).toBeCloseTo(1.267, 2);
	});
});
