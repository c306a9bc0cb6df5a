import { describe, expect, it } from 'vitest';
import { oxygenHeld } from '@/core/chem/oxygen';

describe('oxygen that water holds', () => {
	/** Standard Methods 4500-O, table of saturation at 101.3 kPa (values as remembered, to 0.01 mg/L). */
	it.each([
		[0, 14.62],
		[5, 12.77],
		[10, 11.29],
		[15, 10.08],
		[20, 9.09],
		[25, 8.26],
		[30, 7.56],
		[35, 6.95],
	])('%i °C: %f mg/L', (tempC, held) => expect(Math.abs(oxygenHeld({ tempC })! - held)).toBeLessThan(0.01));
	it('sea water of 35 holds about a fifth less (Standard Methods: 7.38 mg/L at 20 °C), and a feed hardly less', () => {
		// Salinity 35 is a conductivity of about 53,000 µS/cm.
		expect(Math.abs(oxygenHeld({ tempC: 20, ecUsCm: 53_000 })! - 7.38)).toBeLessThan(0.1);
		expect(oxygenHeld({ tempC: 20, ecUsCm: 2000 })! / oxygenHeld({ tempC: 20 })!).toBeGreaterThan(0.99);
	});
	it('thinner air holds less: at 1,500 m about a sixth (standard atmosphere, 0.834)', () => {
		expect(oxygenHeld({ tempC: 20, altitudeM: 1500 })! / oxygenHeld({ tempC: 20 })!).toBeCloseTo(0.83, 2);
		expect(oxygenHeld({ tempC: 45 })).toBeNull();
	});
});
