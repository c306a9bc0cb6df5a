import { describe, expect, it } from 'vitest';
import type { Engine } from '@/core/judge/engine';
import type { Quantity, Unit } from '@/core/quantity';
import type { Reading, WaterEvent } from '@/core/reading/model';
import { DAY, MINUTE, NEXT, practised, reading } from '../../../helpers/small-site';

/** Facts of the trade (common practice, no source) unless a source is named. */
const judged = (e: Engine, r: Reading) => e.judge([r])[0]!;

describe('before and after a mix', () => {
	const reading12hAfter = (kind: WaterEvent['kind'], quantity: Quantity, digits: string, unit: Unit) => {
		const e = practised();
		e.note({ at: NEXT - DAY / 2, station: 'pond', kind, amount: null, unit: null });
		return judged(e, reading(NEXT, 'pond', quantity, digits, unit)).deciding?.cause;
	};
	it('adding nutrients must raise EC, water lowers it, acid lowers pH, base raises it', () => {
		expect(reading12hAfter('nutrient_added', 'ec', '2150', 'uS/cm')).toBeUndefined();
		expect(reading12hAfter('nutrient_added', 'ec', '1500', 'uS/cm')).toBe('against-event');
		expect(reading12hAfter('water_added', 'ec', '2150', 'uS/cm')).toBe('against-event');
		expect(reading12hAfter('acid_added', 'ph', '5.3', 'pH')).toBeUndefined();
		expect(reading12hAfter('acid_added', 'ph', '6.5', 'pH')).toBe('against-event');
		expect(reading12hAfter('base_added', 'ph', '5.3', 'pH')).toBe('against-event');
	});
});

describe('doses by the size typed', () => {
	it('after three doses the next one is expected to do what its size says', () => {
		const e = practised();
		let at = NEXT;
		let ph = 5.92;
		const dose = (ml: number, takesDown: number) => {
			e.note({ at: at + MINUTE, station: 'pond', kind: 'acid_added', amount: ml, unit: null });
			ph -= takesDown;
			at += 3 * 3_600_000;
			e.take([reading(at, 'pond', 'ph', ph.toFixed(2), 'pH')]);
			ph += takesDown;
			for (let k = 0; k < 4; k++) {
				at += DAY / 4;
				if (k === 0) e.note({ at: at - MINUTE, station: 'pond', kind: 'base_added', amount: null, unit: null });
				e.take([reading(at, 'pond', 'ph', ph.toFixed(2), 'pH')]);
			}
		};
		for (const ml of [20, 30, 20]) dose(ml, ml * 0.015);
		e.note({ at: at + MINUTE, station: 'pond', kind: 'acid_added', amount: 40, unit: null });
		const next = e.expect('pond', 'ph', at + 3 * 3_600_000)!;
		expect(next.level).toBeCloseTo(ph - 0.6, 1);
		// Twice the dose moves twice as far; one that did nothing is asked about.
		expect(judged(e, reading(at + 3 * 3_600_000, 'pond', 'ph', (ph - 0.6).toFixed(2), 'pH')).flag).toBe(1);
		expect(judged(e, reading(at + 3 * 3_600_000, 'pond', 'ph', (ph + 0.5).toFixed(2), 'pH')).flag).toBe(3);
	});
});
