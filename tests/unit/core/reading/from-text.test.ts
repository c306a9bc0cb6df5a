import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { parseTyped } from '@/core/quantity';
import { decimal, typedNumber } from '@/core/quantity/number';
import { RepeatedHours } from '@/core/quantity/time';
import { readingFromText, temperatureOf } from '@/core/reading/from-text';
import { readingRow } from '@/files/readings-row';
import { READINGS, readHeader } from '@/files/table';
import { readingProblem } from '@/words/en/reading';

const header = readHeader(['time', 'station', 'instrument', 'quantity', 'value', 'unit', 'temp_c', 'wait_s'], READINGS);
const line = (quantity: string, value: string, unit: string, temp = '', wait = '') => {
	if (!header.ok) throw new Error('the header is known');
	return readingRow(['2026-03-01T07:30Z', 'pond', 'plum', quantity, value, unit, temp, wait], header.header, {
		zone: 'UTC',
		altitudeM: 0,
		ppmScale: () => 700,
		hours: new RepeatedHours(),
	});
};
const read = (
	quantity: string,
	value: string,
	unit: string,
	tempC: number | null = null,
	waitS: number | null = null,
) => readingFromText({ quantity, value, unit, tempC, waitS }, { ppmScale: 700, altitudeM: 0 });

describe('from text to a reading', () => {
	it.each([
		['ph', '5,80', 'pH', { digits: '5.80', value: 5.8, halfWidth: 0, unit: 'pH' }],
		['ph', '5.0..6.0', 'pH', { digits: '5.0..6.0', value: 5.5, halfWidth: 0.5 }],
		// ppm on the 700 scale: µS/cm = ppm / 0.7 (definition of the scale)
		['tds', '36', 'ppm', { unit: 'ppm700', value: 36 / 0.7 }],
		['ec', '1.9', 'mS/cm', { value: 1900 }],
		// °F (definition: (F − 32)·5/9)
		['temp', '68', 'F', { value: 20 }],
	])('%s %s %s', (quantity, value, unit, expected) => {
		const r = read(quantity, value, unit);
		if (!r.ok) throw new Error(readingProblem(r.problem));
		for (const [key, v] of Object.entries(expected))
			if (typeof v === 'number') expect(r.value[key as 'value']).toBeCloseTo(v, 9);
			else expect(r.value[key as 'digits']).toBe(v);
	});
	it.each([
		['ph', '', 'pH', 'value', 'no-value'],
		['ph', '5.8.1', 'pH', 'value', 'not-a-number'],
		['ph', '6.0..5.0', 'pH', 'value', 'not-a-number'],
		['ph', '1e3', 'pH', 'value', 'not-a-number'],
		['ph', 'NaN', 'pH', 'value', 'not-a-number'],
		['ec', `9${'0'.repeat(14)}`, 'mS/cm', 'value', 'beyond-any-instrument'],
		['acidity', '5', 'pH', 'quantity', 'not-a-quantity'],
		['ph', '5.8', 'furlong', 'unit', 'not-a-unit'],
		['ph', '5.8', 'mS/cm', 'unit', 'wrong-unit'],
	])('%s “%s” %s is refused at its field', (quantity, value, unit, field, code) => {
		expect(read(quantity, value, unit)).toMatchObject({ ok: false, problem: { field, code } });
	});
	it('oxygen as a share is kept as what that is at the temperature of the water (USGS tables of oxygen solubility: 9.09 mg/L at 20 °C, 11.29 at 10 °C)', () => {
		for (const [tempC, held] of [
			[20, 9.09],
			[10, 11.29],
		] as const) {
			const r = read('do', '50', '%', tempC);
			expect(r).toMatchObject({ ok: true, value: { digits: '50', unit: '%' } });
			expect(r.ok && r.value.value).toBeCloseTo(held / 2, 2);
		}
		expect(read('do', '95', '%')).toMatchObject({
			ok: false,
			problem: { field: 'unit', code: 'share-without-temperature' },
		});
		expect(read('do', '8.4', 'mg/L')).toMatchObject({ ok: true, value: { value: 8.4 } });
	});
	it('what flows and what roots grow in', () => {
		// 60 minutes to the hour; SI prefixes.
		expect(read('flow', '2', 'L/min')).toMatchObject({ ok: true, value: { value: 120 } });
		expect(read('flow', '500', 'mL/min')).toMatchObject({ ok: true, value: { value: 30 } });
		expect(read('substrate_ec', '2.4', 'dS/m')).toMatchObject({ ok: true, value: { value: 2400 } });
		expect(read('moisture', '62', '%')).toMatchObject({ ok: true, value: { value: 62 } });
		expect(read('moisture', '62', 'L')).toMatchObject({ ok: false });
	});
	it('plain ppm wants a scale, water a temperature of water, a wait is not negative', () => {
		expect(
			readingFromText(
				{ quantity: 'tds', value: '36', unit: 'ppm', tempC: null, waitS: null },
				{ ppmScale: null, altitudeM: 0 },
			),
		).toMatchObject({
			problem: { code: 'ppm-without-scale' },
		});
		expect(read('ph', '5.8', 'pH', 212)).toMatchObject({ problem: { field: 'temp_c', code: 'not-a-temperature' } });
		expect(read('ph', '5.8', 'pH', 21, -1)).toMatchObject({ problem: { field: 'wait_s', code: 'not-a-wait' } });
		expect(temperatureOf('70', 'F')).toBe(21.11);
		expect(temperatureOf('212', 'F')).toBeNull();
	});
	it('100 % of oxygen is what water holds there: at 20 °C 9.09 mg/L by the sea, about 7.6 at 1,500 m (USGS memorandum 2011.03, tables)', () => {
		const of = (altitudeM: number) =>
			readingFromText(
				{ quantity: 'do', value: '100', unit: '%', tempC: 20, waitS: null },
				{ ppmScale: null, altitudeM },
			);
		expect(of(0)).toMatchObject({ ok: true, value: { value: expect.closeTo(9.09, 1), unit: '%' } });
		expect(of(1500)).toMatchObject({ ok: true, value: { value: expect.closeTo(7.57, 1) } });
	});
	it('a line of a file is read as what was typed: the same reading or the same refusal, whatever was written', () => {
		const text = fc.oneof(
			fc.string({ maxLength: 12 }).map((s) => s.trim()),
			fc.double({ noNaN: true, min: -50, max: 5000 }).map((v) => v.toFixed(2)),
			fc.constantFrom('5,8', '5.0..6.0', '6..5', '−3', '+4', '.5', '5.', '0x10', '1 900'),
		);
		fc.assert(
			fc.property(
				fc.constantFrom('ph', 'ec', 'tds', 'temp', 'orp', 'none'),
				text,
				fc.constantFrom('pH', 'mS/cm', 'uS/cm', 'ppm', 'ppm500', 'C', 'F', 'mV', 'x'),
				(quantity, value, unit) => {
					const typed = read(quantity, value, unit);
					const filed = line(quantity, value, unit);
					expect(filed.ok).toBe(typed.ok);
					if (typed.ok && filed.ok) expect(filed.row).toMatchObject(typed.value);
					else if (!typed.ok && !filed.ok)
						expect(filed.problem).toEqual({ column: typed.problem.field, message: readingProblem(typed.problem) });
				},
			),
			{ numRuns: 400 },
		);
	});
	it('and so is a number typed into the quick line', () => {
		fc.assert(
			fc.property(fc.oneof(fc.string({ maxLength: 8 }), fc.constantFrom('5,8', '5.8', '5.0..6.0', '1,2,3')), (text) => {
				const quick = parseTyped(text);
				const plain = typedNumber(text.trim());
				// Letters behind a number are a unit there.
				if (quick.ok && quick.value.unit === null) expect(plain?.digits).toBe(quick.value.digits);
				if (plain && Math.abs(plain.high) < 1e15)
					expect(quick).toMatchObject({ ok: true, value: { digits: plain.digits } });
			}),
			{ numRuns: 400 },
		);
		expect(decimal('1,9')).toBe(1.9);
		expect(decimal('1e3')).toBeUndefined();
	});
});
