import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { compensate, naturalWaterFactor } from '@/core/probe/conductivity';
import { rawStandard1413 } from '@/core/probe/standard-1413';
import { convert, nearestScale, parseTyped, UNITS, type Unit, unitNamed } from '@/core/quantity';
import scipy from '../../reference/scipy.json';

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

describe('parsing what people type', () => {
	it.each([
		['1,9', '1.9', null],
		['1.9', '1.9', null],
		[' 1.9 mS ', '1.9', 'mS/cm'],
		['950ppm', '950', 'ppm'],
		['950 ppm700', '950', 'ppm700'],
		['21.4C', '21.4', 'C'],
		['70 °F', '70', 'F'],
		['.5', '.5', null],
		['5.80', '5.80', null],
		['1920µS', '1920', 'uS/cm'],
	])('%s', (text, digits, unit) => {
		expect(parseTyped(text)).toMatchObject({ ok: true, value: { kind: 'number', digits, unit } });
	});
	it('reads an interval of a drop kit', () => {
		expect(parseTyped('5.0..6.0')).toMatchObject({
			ok: true,
			value: { kind: 'interval', low: 5, high: 6, digits: '5.0..6.0' },
		});
		expect(parseTyped('6..5')).toMatchObject({ ok: false, problem: { code: 'reversed-interval', near: '6..5' } });
	});
	it.each(['', 'abc', 'NaN', 'Infinity', '1e309', '5.8.1', '1,850.5', '--3', '5 8', '0x10', '１２'])(
		'refuses %j',
		(text) => {
			expect(parseTyped(text).ok).toBe(false);
		},
	);
	it('never gives a number that is not finite', () => {
		fc.assert(
			fc.property(fc.string(), (text) => {
				const r = parseTyped(text);
				return (
					!r.ok ||
					(r.value.kind === 'number'
						? Number.isFinite(r.value.value)
						: Number.isFinite(r.value.low) && Number.isFinite(r.value.high))
				);
			}),
		);
	});
});

describe('scale finder', () => {
	// Common practice: 1413 µS/cm shows about 706, 904, 989 ppm on the three scales.
	it.each([
		[706, 500],
		[904, 640],
		[989, 700],
	])('%d ppm in 1413 is the %d scale', (ppm, scale) =>
		expect(nearestScale(ppm, 1413)).toMatchObject({ found: true, scale }),
	);
	it('holds an uncompensated pen against the standard at its temperature', () => {
		// A 700-scale pen without compensation shows 895 at 20 °C and looks like 640 at 25.
		expect(nearestScale(895, 1413)).toMatchObject({ scale: 640 });
		expect(nearestScale(895, rawStandard1413(20)!)).toMatchObject({ found: true, scale: 700 });
	});
	it('is undecided between the scales', () =>
		expect(nearestScale(800, 1413)).toMatchObject({ found: false, reason: 'undecided' }));
});

describe('temperature compensation', () => {
	// The 1413 µS/cm standard conducts 1278 at 20 °C (ISO 7888 table, from memory).
	it('brings the 20 °C standard to 25 °C', () => {
		const r = compensate({ ecUsCm: 1278, tempC: 20 });
		expect(r.ok && r.value).toBeCloseTo(1412.9, 0);
	});
	it('is the identity at 25 °C and linear in the reading', () => {
		expect(compensate({ ecUsCm: 1000, tempC: 25, model: 'natural-water' })).toEqual({ ok: true, value: 1000 });
		expect(compensate({ ecUsCm: 1000, tempC: 15, alphaPctPerC: 2 })).toEqual({ ok: true, value: 1250 });
	});
	it('interpolates f25 as scipy’s natural cubic spline of its logarithm does', () => {
		for (const { temp_c, f } of scipy.f25) expect(naturalWaterFactor(temp_c)).toBeCloseTo(f, 10);
	});
	it('refuses outside', () => {
		expect(compensate({ ecUsCm: 1, tempC: 36, model: 'natural-water' })).toEqual({
			ok: false,
			problem: 'temperature-outside-model',
		});
		expect(compensate({ ecUsCm: 1, tempC: 61 })).toEqual({ ok: false, problem: 'temperature-outside-water' });
		expect(compensate({ ecUsCm: -1, tempC: 20 })).toEqual({ ok: false, problem: 'negative' });
	});
});
