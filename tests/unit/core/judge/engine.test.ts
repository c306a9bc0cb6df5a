import { describe, expect, it } from 'vitest';
import type { Engine } from '@/core/judge/engine';
import type { Quantity, Unit } from '@/core/quantity';
import type { Reading } from '@/core/reading/model';
import { MINUTE, NEXT, practised, reading } from '../../../helpers/small-site';

/** Facts of the trade (common practice, no source) unless a source is named. */
const judged = (e: Engine, r: Reading) => e.judge([r])[0]!;

describe('a step that was left out', () => {
	it('a skipped rinse turns a small excess in pure water into carry-over', () => {
		const e = practised();
		const plain = reading(NEXT, 'ro', 'ec', '36', 'uS/cm');
		expect(judged(e, plain).flag).toBe(1);
		expect(judged(e, { ...plain, skipped: ['rinse'] })).toMatchObject({ flag: 3, deciding: { cause: 'carry-over' } });
		// Salt only ever adds: a value that is low is not carried over.
		expect(judged(e, reading(NEXT, 'ro', 'ec', '20', 'uS/cm', { skipped: ['rinse'] })).deciding?.cause).not.toBe(
			'carry-over',
		);
	});
	it('the first dip of the round, from a combined pen, has the storage cap to blame', () => {
		const [, ec] = practised().judge([
			reading(NEXT, 'ro', 'ph', '6.2', 'pH'),
			reading(NEXT, 'ro', 'ec', '170', 'uS/cm'),
		]);
		expect(ec?.deciding?.cause).toBe('carry-over');
		expect(ec?.deciding?.evidence.before).toBe('storage');
	});
});

describe('compensation switched off on a meter that has it', () => {
	it('1800 µS/cm at 15 °C shows as 1440, is noticed, and the value at 25 °C is offered', () => {
		// By hand: raw = 1800 · (1 + 0.02 · (15 − 25)) = 1440.
		const v = judged(practised(), reading(NEXT, 'pond', 'ec', '1440', 'uS/cm', { tempC: 15 }));
		expect(v.deciding?.cause).toBe('no-compensation');
		expect(v.deciding?.suggested).toBeCloseTo(1800, 0);
	});
	it('is not blamed near 25 °C, on the wrong side, or without a temperature', () => {
		const e = practised();
		for (const more of [{ tempC: 24 }, { tempC: 35 }, { tempC: null }])
			expect(judged(e, reading(NEXT, 'pond', 'ec', '1440', 'uS/cm', more)).deciding?.cause).not.toBe('no-compensation');
	});
});

/** Facts of the trade (common practice, no source) unless a source is named. */

describe('the minute of measuring', () => {
	it('salt carried over into pure water lies between the two waters', () => {
		const e = practised();
		e.take([reading(NEXT, 'pond', 'ec', '1800', 'uS/cm')]);
		expect(e.judge([reading(NEXT + 3 * MINUTE, 'ro', 'ec', '160', 'uS/cm')])[0]).toMatchObject({
			flag: 3,
			deciding: { cause: 'carry-over' },
		});
		// Hours later, or by another instrument, it is something else.
		expect(e.judge([reading(NEXT + 180 * MINUTE, 'ro', 'ec', '160', 'uS/cm')])[0]!.deciding!.cause).not.toBe(
			'carry-over',
		);
		expect(
			e.judge([reading(NEXT + 3 * MINUTE, 'ro', 'ec', '160', 'uS/cm', { instrument: 'brass' })])[0]!.deciding!.cause,
		).not.toBe('carry-over');
	});
	it('a pH wants 30 s in nutrient and three minutes in pure water; an EC pen eight seconds', () => {
		const judged = (where: string, quantity: Quantity, digits: string, unit: Unit, waitS: number) =>
			practised().judge([reading(NEXT, where, quantity, digits, unit, { waitS })])[0]!;
		expect(judged('pond', 'ph', '5.90', 'pH', 10)).toMatchObject({ flag: 3, deciding: { cause: 'not-settled' } });
		expect(judged('pond', 'ph', '5.90', 'pH', 30).flag).toBe(1);
		expect(judged('ro', 'ph', '6.80', 'pH', 20).findings.map((f) => f.cause)).toEqual(
			expect.arrayContaining(['not-settled', 'low-ionic-strength']),
		);
		expect(judged('pond', 'ec', '1800', 'uS/cm', 8).flag).toBe(1);
	});
	it('a meter without compensation at 15 °C is put right: 1500 there is 1875 at 25 (2 %/°C)', () => {
		const judged = (tempC: number | null) =>
			practised().judge([reading(NEXT, 'pond', 'ec', '1500', 'uS/cm', { instrument: 'old', tempC })])[0]!;
		expect(judged(15)).toMatchObject({ flag: 3, deciding: { cause: 'no-compensation', suggested: 1875 } });
		expect(judged(25).deciding?.cause).not.toBe('no-compensation');
	});
	it('two instruments in one sample: ζ above 3 asks about the one further from the expectation (ISO 13528)', () => {
		const [good, off] = practised().judge([
			reading(NEXT, 'pond', 'ph', '5.90', 'pH'),
			reading(NEXT, 'pond', 'ph', '6.75', 'pH', { instrument: 'brass' }),
		]);
		expect(good!.flag).toBe(1);
		expect(off!.findings.map((f) => f.cause)).toContain('disagreement');
		const [a, b] = practised().judge([
			reading(NEXT, 'pond', 'ph', '5.90', 'pH'),
			reading(NEXT, 'pond', 'ph', '6.00', 'pH', { instrument: 'brass' }),
		]);
		expect([a!.flag, b!.flag]).toEqual([1, 1]);
	});
});
