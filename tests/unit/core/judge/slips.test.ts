import { describe, expect, it } from 'vitest';
import type { Prediction } from '@/core/judge/history';
import { bestSlip, undoneSlips } from '@/core/judge/slips';
import type { Quantity, Unit } from '@/core/quantity';
import { readingFromText } from '@/core/reading/from-text';
import type { Reading } from '@/core/reading/model';

/** Parts that the engine is made of, each by itself. */
const read = (quantity: Quantity, value: string, unit: Unit, more: Partial<Reading> = {}): Reading => {
	const got = readingFromText({ quantity, value, unit, tempC: null, waitS: null }, { ppmScale: null, altitudeM: 0 });
	if (!got.ok) throw new Error(got.problem.code);
	return { ...got.value, at: 0, station: 'pond', instrument: 'plum', ...more };
};

describe('ordinary slips, undone', () => {
	const values = (r: Reading, q: 'ph' | 'ec' | 'temp') => undoneSlips(q, r).map((s) => Number(s.value.toPrecision(6)));
	it('1850 written in mS/cm, and 1.85 written in µS/cm', () => {
		expect(values(read('ec', '1850', 'mS/cm'), 'ec')).toContain(1850);
		expect(values(read('ec', '1.85', 'uS/cm'), 'ec')).toContain(1850);
	});
	it('the mark one place off, left out, two places off', () => {
		expect(values(read('ph', '59', 'pH'), 'ph')).toEqual(expect.arrayContaining([5.9, 590, 0.59]));
	});
	it('°F written as °C and the other way: 68 °F are 20 °C', () => {
		expect(values(read('temp', '68', 'C'), 'temp')).toContain(20);
		expect(values(read('temp', '20', 'F'), 'temp').some((v) => Math.abs(v - 20) < 1e-3)).toBe(true);
	});
	it('the other ppm scales: 900 on the 500 scale is 1260 of the 700 one, so 1286 µS/cm instead of 1800', () => {
		const r = read('tds', '900', 'ppm500');
		const other = undoneSlips('ec', r).filter((s) => s.cause === 'scale-mismatch');
		expect(other.map((s) => Math.round(s.value))).toEqual([Math.round(900 / 0.64), Math.round(900 / 0.7)]);
		expect(other[1]!.how).toEqual({ code: 'other-scale', scale: 700, named: 500 });
	});
	it('an interval is no slip of typing', () => {
		expect(undoneSlips('ph', read('ph', '5.0..6.0', 'pH'))).toEqual([]);
	});
	const prediction = (level: number): Prediction => ({
		level,
		spread: 0.05,
		from: 10,
		seen: 10,
		event: { kinds: [], direction: 0, reach: 0, shift: 0, widen: 0, dose: null } as unknown as Prediction['event'],
	});
	it('the one that fits is proposed; the commoner of two that fit alike; none where none does', () => {
		const slips = undoneSlips('ph', read('ph', '59', 'pH'));
		const found = bestSlip(slips, 'ph', prediction(5.9), 0.05, 100, [0, 14]);
		expect(found?.slip).toMatchObject({ cause: 'decimal-slip', value: 5.9, how: { code: 'mark-one-off' } });
		expect(bestSlip(slips, 'ph', prediction(8.5), 0.05, 60, [0, 14])).toBeNull();
	});
	it('nothing beyond what a meter shows is proposed', () => {
		expect(
			bestSlip(
				[{ cause: 'decimal-slip', value: 59, how: { code: 'mark-one-off' }, handicap: 0 }],
				'ph',
				prediction(59),
				0.05,
				100,
				[0, 14],
			),
		).toBeNull();
	});
});
