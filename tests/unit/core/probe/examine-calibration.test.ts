import { describe, expect, it } from 'vitest';
import { examineCalibration } from '@/core/probe/examine-calibration';

const at = (nominal: number, asFound: number | null, asLeft: number | null = null) => ({ nominal, asFound, asLeft });

/** Common practice, no source: primary standards run from about pH 1.7 to 12.5, conductivity standards from 84 µS/cm to 112 mS/cm. */
describe('a calibration as it is written', () => {
	it.each([
		['a nominal of nothing', 'ph', [at(0, 7)], 'impossible-value'],
		['700 for a pH of 7.00', 'ph', [at(7, 700)], 'impossible-value'],
		['a conductivity below nothing', 'ec', [at(1413, -5)], 'impossible-value'],
		['exchanged bottles', 'ph', [at(7, 4.02), at(4, 7.01)], 'wrong-way'],
		['a probe that does not answer', 'ph', [at(7, 7), at(4, 6.95)], 'no-answer'],
		['only what was left', 'ph', [at(7, null, 7)], 'nothing-found'],
		['as left in the wrong order', 'ph', [at(7, 7.1, 4), at(4, 4.1, 7)], 'no-slope-left'],
	] as const)('%s is refused', (_, quantity, points, problem) => {
		expect(examineCalibration(quantity, points, 20, null)).toEqual({ ok: false, problem });
	});
	it('any that makes sense is told what it says of the probe', () => {
		const result = examineCalibration('ph', [at(7, 7.05, 7), at(4, 4.06, 4)], 20, 30);
		expect(result.ok && result.value.offset).toBeCloseTo(0.05, 9);
		expect(examineCalibration('ec', [at(12_880, 12_900)], null, null).ok).toBe(true);
	});
});
