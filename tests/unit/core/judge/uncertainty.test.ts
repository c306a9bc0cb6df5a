import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readingUncertainty, withoutConstant } from '@/core/judge/uncertainty';
import type { Quantity, Unit } from '@/core/quantity';
import { readingFromText } from '@/core/reading/from-text';
import type { InstrumentInfo, Reading } from '@/core/reading/model';

/** Parts that the engine is made of, each by itself. */
const read = (quantity: Quantity, value: string, unit: Unit, more: Partial<Reading> = {}): Reading => {
	const got = readingFromText({ quantity, value, unit, tempC: null, waitS: null }, { ppmScale: null, altitudeM: 0 });
	if (!got.ok) throw new Error(got.problem.code);
	return { ...got.value, at: 0, station: 'pond', instrument: 'plum', ...more };
};
const pen = (quantities: InstrumentInfo['quantities']): InstrumentInfo => ({
	code: 'plum',
	quantities,
	ppmScale: null,
	compensates: true,
	alphaPctPerC: 2,
	continuous: false,
});

describe('the uncertainty of one reading (JCGM 100, 4.3.7: a rectangle of half width a has u = a/√3)', () => {
	it('a display of 0.01 and an accuracy of ±0.1 pH: √(0.01²/12 + 0.1²/3)', () => {
		const u = readingUncertainty(read('ph', '6.10', 'pH'), pen({ ph: { resolution: 0.01, accuracy: 0.1 } })).u;
		expect(u).toBeCloseTo(Math.sqrt(0.01 ** 2 / 12 + 0.1 ** 2 / 3), 12);
	});
	it('an accuracy in percent goes with the value, in canonical units', () => {
		const ec = pen({ ec: { resolution: 10, accuracyPct: 2 } });
		expect(readingUncertainty(read('ec', '2.00', 'mS/cm'), ec).u).toBeCloseTo(
			Math.hypot(10 / Math.sqrt(12), 40 / Math.sqrt(3)),
			9,
		);
	});
	it('an interval of a drop kit is its own rectangle, whatever the kit says of itself', () => {
		expect(readingUncertainty(read('ph', '5.5..6.5', 'pH'), pen({ ph: { accuracy: 0.01 } })).u).toBeCloseTo(
			1 / Math.sqrt(12),
			12,
		);
	});
	it('nobody said: the digits that were typed are the step, a pen is good to 0.1 pH and 2 %', () => {
		expect(readingUncertainty(read('ec', '1.9', 'mS/cm'), undefined).step).toBeCloseTo(100, 9);
		expect(readingUncertainty(read('ph', '5.80', 'pH'), undefined).step).toBeCloseTo(0.01, 9);
		expect(readingUncertainty(read('ph', '5.80', 'pH'), undefined).u).toBeCloseTo(
			Math.hypot(0.01 / Math.sqrt(12), 0.1 / Math.sqrt(3)),
			9,
		);
	});
	it('two readings of one water differ by less than both are uncertain: half of an accuracy is constant', () => {
		fc.assert(
			fc.property(fc.double({ min: 0.01, max: 0.5, noNaN: true }), (accuracy) => {
				const r = read('ph', '6.10', 'pH');
				const i = pen({ ph: { resolution: 0.01, accuracy } });
				const { repeats, u } = readingUncertainty(r, i);
				expect(repeats).toBeLessThan(u);
			}),
		);
	});
	it('what is constant of an instrument can be taken out again: u² less a quarter of the accuracy’s square', () => {
		const instrument = { quantities: { ph: { resolution: 0.01, accuracy: 0.1 } } } as never;
		const whole = Math.hypot(0.01 / Math.sqrt(12), 0.1 / Math.sqrt(3));
		const varies = Math.hypot(0.01 / Math.sqrt(12), 0.1 / (2 * Math.sqrt(3)));
		expect(withoutConstant(whole, 'ph', 6, instrument)).toBeCloseTo(varies, 10);
		expect(withoutConstant(0.001, 'ph', 6, instrument)).toBe(0);
	});
});
