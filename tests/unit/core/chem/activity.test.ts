import { describe, expect, it } from 'vitest';
import { protonsGiven } from '@/core/chem/acids';
import { activity, phosphatePk2 } from '@/core/chem/activity';
import { carbonateConstants } from '@/core/chem/carbonate';
import { heldAt, mediumOf } from '@/core/chem/solution';
import { reference } from '../../../helpers/mixing-reference';

describe('ions in a feed act as fewer than they are', () => {
	it('activity of a singly charged ion at I = 0.1 mol/L is 0.78 (Davies equation; tables of textbooks, from memory)', () => {
		expect(activity(25, 0.1 / 1.3e-5).gamma1).toBeCloseTo(0.78, 2);
		expect(activity(25, 0).gamma1).toBe(1);
	});
	it('the second pKa of phosphoric acid is about 6.8 at EC 2 mS/cm, 7.2 in thin water', () => {
		expect(phosphatePk2(25, 2000)).toBeCloseTo(6.8, 1);
		expect(phosphatePk2(25)).toBe(7.198);
	});
	it('thin waters have the constants of Plummer and Busenberg (1982) as they stand: pK1 6.352 at 25 °C', () => {
		expect(-Math.log10(carbonateConstants(25).k1)).toBeCloseTo(6.352, 3);
		expect(-Math.log10(carbonateConstants(25, 2000).k1)).toBeCloseTo(6.28, 1);
	});
	it('what feeds take from one pH to another agrees with full speciation within 14 %; thin constants are up to half short', () => {
		const off = (ecOf: (f: (typeof reference.feeds)[0]) => number) =>
			reference.feeds.map((f) => {
				const m = mediumOf(f.temp_c, ecOf(f));
				const takes = heldAt(f.ph, f.carbonate, f.phosphate, m) - heldAt(f.to, f.carbonate, f.phosphate, m);
				return Math.abs(takes / f.takes - 1);
			});
		expect(reference.feeds).toHaveLength(15);
		expect(Math.max(...off((f) => f.ec_us_cm))).toBeLessThan(0.14);
		expect(Math.max(...off(() => 0))).toBeGreaterThan(0.4);
	});
	it('phosphoric acid gives more protons at pH 6.5 in a feed than in thin water; citric too', () => {
		expect(protonsGiven('phosphoric', 6.5, 25, 2000)).toBeGreaterThan(protonsGiven('phosphoric', 6.5) + 0.1);
		expect(protonsGiven('citric', 5.8, 25, 2000)).toBeGreaterThan(protonsGiven('citric', 5.8));
		expect(protonsGiven('nitric', 5.8, 25, 2000)).toBe(1);
	});
});
