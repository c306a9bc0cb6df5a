import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { afterAdding, dilute } from '@/core/mix/dilute';
import { learnGain, nutrientDose } from '@/core/mix/nutrient-dose';

describe('diluting and feeding', () => {
	it('V·(EC − target)/(target − EC_with) where there is room, V·(EC − target)/(EC − EC_with) where there is none', () => {
		expect(dilute({ volumeL: 100, ecUsCm: 2400, targetEcUsCm: 2000, withEcUsCm: 400 })).toEqual({
			ok: true,
			value: { drainL: 0, addL: 25, ecUsCm: 2000 },
		});
		expect(dilute({ volumeL: 100, ecUsCm: 2400, targetEcUsCm: 2000, withEcUsCm: 400, capacityL: 100 })).toEqual({
			ok: true,
			value: { drainL: 20, addL: 20, ecUsCm: 2000 },
		});
	});
	it('conserves salt both ways, and drains only what is needed (property)', () => {
		fc.assert(
			fc.property(
				fc.double({ min: 1, max: 5000, noNaN: true }),
				fc.double({ min: 500, max: 4000, noNaN: true }),
				fc.double({ min: 0.05, max: 0.95, noNaN: true }),
				fc.double({ min: 0, max: 400, noNaN: true }),
				fc.double({ min: 1, max: 2, noNaN: true }),
				(volumeL, ecUsCm, part, withEcUsCm, room) => {
					const targetEcUsCm = withEcUsCm + part * (ecUsCm - withEcUsCm);
					const capacityL = volumeL * room;
					const r = dilute({ volumeL, ecUsCm, targetEcUsCm, withEcUsCm, capacityL });
					if (!r.ok) return false;
					const after = afterAdding(volumeL - r.value.drainL, ecUsCm, r.value.addL, withEcUsCm);
					const full = volumeL - r.value.drainL + r.value.addL;
					return (
						Math.abs(after - targetEcUsCm) < 1e-6 * targetEcUsCm &&
						r.value.drainL >= -1e-9 &&
						full <= capacityL * (1 + 1e-9) &&
						(r.value.drainL < 1e-9 || full > capacityL * (1 - 1e-9))
					);
				},
			),
		);
	});
	it('10 mL/gal in 20 gal is 200 mL of each part (common practice)', () => {
		const gal = 3.785411784;
		const r = nutrientDose({ volumeL: 20 * gal, rateMlPerL: 10 / gal });
		expect(r.ok && r.value.mlEach).toBeCloseTo(200, 6);
		expect(nutrientDose({ volumeL: 100, rateMlPerL: 4, strength: 0.5 })).toMatchObject({ value: { mlEach: 200 } });
	});
	it('towards a target with the learned gain, counting the water’s own EC; a thousandfold slip is refused', () => {
		expect(nutrientDose({ volumeL: 100, targetEcUsCm: 1800, baseEcUsCm: 300, gainUsCmPerMlL: 300 })).toEqual({
			ok: true,
			value: { mlEach: 500, expectedEcUsCm: 1800 },
		});
		expect(nutrientDose({ volumeL: 100, rateMlPerL: 4000 })).toMatchObject({
			ok: false,
			problem: { field: 'rate_ml_per_l' },
		});
		expect(nutrientDose({ volumeL: 100, targetEcUsCm: 200, baseEcUsCm: 300, gainUsCmPerMlL: 300 })).toMatchObject({
			problem: { code: 'water-over-target', ecUsCm: 300 },
		});
		expect(
			learnGain([
				{ mlPerL: 5, ecBeforeUsCm: 300, ecAfterUsCm: 1800 },
				{ mlPerL: 4, ecBeforeUsCm: 300, ecAfterUsCm: 1540 },
				{ mlPerL: 5, ecBeforeUsCm: 300, ecAfterUsCm: 9999 },
			]),
		).toBe(310);
		expect(learnGain([])).toBeNull();
	});
});
