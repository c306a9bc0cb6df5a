import { describe, expect, it } from 'vitest';
import { TREATMENTS, treated } from '@/core/water/treatments';

const tap = { ecUsCm: 600, alkalinityMgLCaco3: 210, hardnessMgLCaco3: 250, naMgL: 12, clMgL: 30 };

describe('what a treatment makes of a water', () => {
	it('a softener puts 46 mg/L of sodium for each 100 mg/L of hardness, and leaves alkalinity', () => {
		// 22.99/50.04: extension tables say 7.9 mg/L of sodium for each grain (17.1 mg/L) of hardness.
		const soft = treated({ ...tap, hardnessMgLCaco3: 105 }, 'softener');
		expect(soft.naMgL! - 12).toBeCloseTo(45.9, 1);
		expect(soft.alkalinityMgLCaco3).toBe(210);
		expect(Math.abs(17.1 * (45.9 / 100) - 7.9)).toBeLessThan(0.1);
		// Salt for salt: EC hardly moves.
		expect(Math.abs(soft.ecUsCm! / 600 - 1)).toBeLessThan(0.05);
	});
	it('a membrane leaves a twentieth, or as much as it is known to; resin leaves nothing', () => {
		expect(treated(tap, 'reverse osmosis').ecUsCm).toBeCloseTo(30, 9);
		expect(treated(tap, 'reverse osmosis', 0.9).naMgL).toBeCloseTo(1.2, 9);
		expect(treated(tap, 'deioniser')).toMatchObject({ ecUsCm: 0, hardnessMgLCaco3: 0 });
	});
	it.each(['carbon filter', 'sediment filter', 'UV lamp'] as const)('a %s changes no salt', (by) =>
		expect(treated(tap, by)).toEqual(tap),
	);
	it('nothing is said of what nobody measured', () => {
		const nothing = { ecUsCm: null, alkalinityMgLCaco3: null, hardnessMgLCaco3: null, naMgL: null, clMgL: null };
		for (const by of TREATMENTS) expect(Object.values(treated(nothing, by)).every((v) => v === null)).toBe(true);
		expect(treated({ ...tap, hardnessMgLCaco3: null }, 'softener').naMgL).toBeNull();
	});
});
