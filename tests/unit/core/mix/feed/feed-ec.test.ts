import { describe, expect, it } from 'vitest';
import { feedEc } from '@/core/mix/feed/feed-ec';
import { type SaltName, saltContent } from '@/core/mix/feed/salts';
import { IONS, type IonKey, type Ions } from '@/core/water/ions';

/**
 * Equivalent conductivities of aqueous solutions at 25 °C, S·cm²/eq, at 0.001, 0.005, 0.01, 0.02, 0.05 and 0.1 eq/L: CRC Handbook
 * of Chemistry and Physics, from memory (potassium nitrate at 0.01 as in Harned and Owen).
 */
const TABLE: [string, Partial<Record<IonKey, number>>, number[]][] = [
	['potassium chloride', { k_mg_l: 1, cl_mg_l: 1 }, [146.88, 143.48, 141.2, 138.27, 133.3, 128.9]],
	['sodium chloride', { na_mg_l: 1, cl_mg_l: 1 }, [123.68, 120.59, 118.45, 115.7, 111.01, 106.69]],
	['potassium nitrate', { k_mg_l: 1, no3_n_mg_l: 1 }, [141.77, 138.41, 135.75, 132.34, 126.25, 120.34]],
	['ammonium chloride', { nh4_n_mg_l: 1, cl_mg_l: 1 }, [146.7, 143.4, 141.21, 138.25, 133.22, 128.69]],
	['calcium chloride', { ca_mg_l: 1, cl_mg_l: 1 }, [130.3, 124.19, 120.3, 115.59, 108.42, 102.41]],
	['magnesium chloride', { mg_mg_l: 1, cl_mg_l: 1 }, [124.15, 118.25, 114.49, 109.99, 103.03, 97.05]],
	['sodium sulfate', { na_mg_l: 1, so4_mg_l: 1 }, [124.09, 117.09, 112.38, 106.73, 97.7, 89.94]],
];
const AT = [0.001, 0.005, 0.01, 0.02, 0.05, 0.1];
const of = (ions: Partial<Record<IonKey, number>>, eqL: number): Ions =>
	Object.fromEntries(Object.keys(ions).map((k) => [k, eqL * 1000 * IONS[k as IonKey].mgPerMeq]));

describe('EC of a feed from its ions', () => {
	it.each(TABLE)('%s is within 5 %% of the table at every strength, within 3 %% to 0.02', (_, ions, published) => {
		AT.forEach((eqL, i) => {
			const off = feedEc(of(ions, eqL)).ecUsCm / (published[i]! * eqL * 1000) - 1;
			expect(Math.abs(off), `${eqL} eq/L: ${(100 * off).toFixed(1)} %`).toBeLessThan(eqL <= 0.02 ? 0.03 : 0.05);
		});
	});
	it('magnesium sulfate pairs: it conducts as zinc sulfate does, its twin, and not as its ions would', () => {
		// ZnSO4 (λ° 52.8 and 80.0, log K 2.3, as magnesium's): 95.44 at 0.005 eq/L, 84.87 at 0.01, 74.20 at 0.02. CRC, from memory.
		for (const [eqL, table] of [
			[0.005, 95.44],
			[0.01, 84.87],
			[0.02, 74.2],
		] as const)
			expect(Math.abs(feedEc(of({ mg_mg_l: 1, so4_mg_l: 1 }, eqL)).ecUsCm / (table * eqL * 1000) - 1)).toBeLessThan(
				0.06,
			);
	});
	it('the standards of conductivity: 0.001, 0.01 and 0.1 mol/L of potassium chloride show 147, 1413 and 12,890 µS/cm', () => {
		// Standard Methods 2510 B, table of equivalent conductivities.
		const kcl = { k_mg_l: 1, cl_mg_l: 1 } as const;
		expect(feedEc(of(kcl, 0.001)).ecUsCm).toBeCloseTo(147, 0);
		expect(Math.abs(feedEc(of(kcl, 0.01)).ecUsCm - 1413)).toBeLessThan(6);
		expect(Math.abs(feedEc(of(kcl, 0.1)).ecUsCm - 12890)).toBeLessThan(130);
	});
	it('a full solution by its salts: half-strength Hoagland comes to about 1 mS/cm', () => {
		// Hoagland and Arnon 1950, solution 1: 5 mmol/L KNO3, 5 Ca(NO3)2, 2 MgSO4, 1 KH2PO4; EC of full strength 2.0 to 2.2 mS/cm
		// (figures of growers' handbooks, from memory).
		const mmol: [SaltName, number, number][] = [
			['potassium nitrate', 5, 101.1],
			['calcium nitrate', 5, 236.15],
			['magnesium sulfate', 2, 246.5],
			['monopotassium phosphate', 1, 136.1],
		];
		const full: Ions = {};
		for (const [name, n, g] of mmol)
			for (const [k, mg] of Object.entries(saltContent(name)) as [IonKey, number][])
				full[k] = (full[k] ?? 0) + (mg * n * g) / 1000;
		const { ecUsCm, unnamedShare } = feedEc(full);
		expect(unnamedShare).toBeLessThan(1e-3);
		expect(ecUsCm).toBeGreaterThan(2000);
		expect(ecUsCm).toBeLessThan(2250);
		const half = Object.fromEntries(Object.entries(full).map(([k, v]) => [k, v / 2])) as Ions;
		expect(feedEc(half).ecUsCm / ecUsCm).toBeGreaterThan(0.5);
	});
	it('charge that a label leaves out conducts all the same', () => {
		const whole = feedEc(of({ k_mg_l: 1, no3_n_mg_l: 1 }, 0.01));
		const half = feedEc(of({ k_mg_l: 1 }, 0.01));
		expect(half.unnamedMeqL).toBeCloseTo(10, 6);
		expect(half.unnamedShare).toBeCloseTo(0.5, 6);
		expect(Math.abs(half.ecUsCm / whole.ecUsCm - 1)).toBeLessThan(0.01);
		expect(feedEc({})).toEqual({ ecUsCm: 0, unnamedMeqL: 0, unnamedShare: 0 });
	});
});
