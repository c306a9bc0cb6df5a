import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { phOpen, totalCarbonate } from '@/core/chem/carbonate';
import { AERATION } from '@/core/chem/degassing';
import { bufferAt, carbonAfter, heldAt, mediumOf, phOfHeld } from '@/core/chem/solution';
import { MEQ, reference } from '../../../helpers/mixing-reference';

describe('a solution of two buffers', () => {
	const m = mediumOf(20, 1800);
	it('pH from what is held is the inverse of what is held at a pH (property)', () => {
		const number = (min: number, max: number) => fc.double({ min, max, noNaN: true });
		fc.assert(
			fc.property(number(3, 10), number(0, 8), number(0, 4), number(2, 12), (ph, c, p, guess) => {
				return Math.abs(phOfHeld(heldAt(ph, c, p, m), c, p, m, guess) - ph) < 1e-3;
			}),
		);
	});
	it('the buffer capacity is the slope of what is held', () => {
		for (const ph of [4.5, 5.8, 6.3, 7.5, 9]) {
			const slope = (heldAt(ph + 1e-4, 2, 1, m) - heldAt(ph - 1e-4, 2, 1, m)) / 2e-4;
			expect(bufferAt(ph, 2, 1, m) / slope).toBeCloseTo(1, 5);
		}
	});
	it('the loss of carbon dioxide agrees with a general solver of differential equations', () => {
		for (const r of reference.degassing) {
			const thin = mediumOf(r.temp_c, 0);
			const alkalinity = r.alkalinity / MEQ;
			const total = totalCarbonate(alkalinity, r.ph, thin.c)!;
			const after = carbonAfter(r.hours, r.per_hour, alkalinity, total, 0, thin, r.ph);
			expect(Math.abs(after.ph - r.after)).toBeLessThan(0.03);
		}
	});
	it('nothing leaves at once, everything in the end: the equilibrium with air', () => {
		const thin = mediumOf(20, 0);
		const total = totalCarbonate(0.68, 5.8, thin.c)!;
		const left = (hours: number) => carbonAfter(hours, AERATION['air stone'].perHour, 0.68, total, 0, thin, 5.8).ph;
		expect(left(0)).toBeCloseTo(5.8, 4);
		expect(left(500)).toBeCloseTo(phOpen(0.68, 420, thin.c), 2);
	});
});
