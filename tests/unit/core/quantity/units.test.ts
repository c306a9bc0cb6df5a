import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { convert, UNITS, type Unit, unitNamed } from '@/core/quantity';

const value = (v: number, from: Unit, to: Unit) => {
	const r = convert(v, from, to);
	if (!r.ok) throw new Error(r.problem);
	return r.value;
};

describe('units', () => {
	// NIST Handbook 44 appendix C (US customary), UK Weights and Measures Act (imperial gallon).
	it.each([
		[1, 'gal', 'L', 3.785411784],
		[1, 'imp_gal', 'L', 4.54609],
		[1, 'tsp', 'mL', 4.92892159375],
		[1, 'tbsp', 'mL', 14.78676478125],
		[1, 'cup', 'mL', 236.5882365],
		[1, 'floz', 'mL', 29.5735295625],
		[1, 'tsp_metric', 'mL', 5],
		[1, 'gal', 'tsp', 768],
	] as const)('volume: %d %s is %s %d', (v, from, to, result) => expect(value(v, from, to)).toBeCloseTo(result, 9));
	// Definitions of the scales: 1 mS/cm = 1 dS/m = 10 CF; ppm = µS/cm × 0.5, 0.64, 0.7 (common practice).
	it.each([
		[1.413, 'mS/cm', 'uS/cm', 1413],
		[1, 'mS/cm', 'dS/m', 1],
		[1, 'mS/cm', 'CF', 10],
		[2, 'mS/cm', 'ppm500', 1000],
		[2, 'mS/cm', 'ppm640', 1280],
		[2, 'mS/cm', 'ppm700', 1400],
		[1000, 'ppm500', 'ppm700', 1400],
	] as const)('conductivity: %d %s is %d', (v, from, to, result) => expect(value(v, from, to)).toBeCloseTo(result, 9));
	// Standard Methods 2320/2340 equivalents: 1 meq/L = 50.04 mg/L CaCO3 = 61.02 mg/L HCO3 = 2.804 °dKH.
	it.each([
		[1, 'meq/L', 'mg/L_CaCO3', 50.04],
		[1, 'meq/L', 'mg/L_HCO3', 61.02],
		[1, 'meq/L', 'dKH', 2.804],
		[1, 'dGH', 'mg/L_CaCO3', 17.85],
		[1, 'gpg', 'mg/L_CaCO3', 17.12],
	] as const)('alkalinity and hardness: %d %s in %s', (v, from, to, result) =>
		expect(value(v, from, to)).toBeCloseTo(result, 9),
	);
	it('temperature: fixed points of the Fahrenheit scale', () => {
		expect(value(32, 'F', 'C')).toBeCloseTo(0, 10);
		expect(value(212, 'F', 'C')).toBe(100);
		expect(value(100, 'C', 'F')).toBe(212);
		expect(value(-40, 'C', 'F')).toBeCloseTo(-40, 10);
	});
	it('converts there and back for every pair of one kind', () => {
		const units = Object.keys(UNITS) as Unit[];
		fc.assert(
			fc.property(
				fc.constantFrom(...units),
				fc.constantFrom(...units),
				fc.double({ min: 0.001, max: 13, noNaN: true }),
				(a, b, v) => {
					const there = convert(v, a, b);
					if (UNITS[a].dimension !== UNITS[b].dimension) return !there.ok && there.problem === 'different-kinds';
					if (!there.ok) return true;
					const back = convert(there.value, b, a);
					return back.ok && Math.abs(back.value - v) < 1e-9 * Math.max(1, v);
				},
			),
		);
	});
	it('refuses what does not exist', () => {
		expect(convert(5, 'ppm', 'mS/cm')).toEqual({ ok: false, problem: 'different-kinds' });
		expect(convert(1e306, 'mS/cm', 'ppm500')).toEqual({ ok: false, problem: 'not-finite' });
		expect(convert(-1, 'mS/cm', 'uS/cm')).toEqual({ ok: false, problem: 'impossible' });
		expect(convert(15, 'pH', 'pH')).toEqual({ ok: false, problem: 'impossible' });
		expect(convert(Number.NaN, 'L', 'gal')).toEqual({ ok: false, problem: 'not-finite' });
		for (const name of ['constructor', '__proto__', 'toString', '']) expect(unitNamed(name)).toBeUndefined();
		expect(unitNamed('µS/cm')).toBe('uS/cm');
	});
});
