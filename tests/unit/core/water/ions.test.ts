import { describe, expect, it } from 'vitest';
import { gradeWater } from '@/core/water/classes';
import { balanceAccepted, calculatedEc, meqOf, readReport } from '@/core/water/ions';

describe('laboratory reports', () => {
	it('Ca 55, Mg 12, Na 28 mg/L with matching anions: k° 578, I 0.00766, y 0.914, k 483 µS/cm', () => {
		// Anions of the same equivalents, split so that I is the example’s: HCO3 2.60, Cl 0.66, SO4 1.69 meq/L.
		const ions = { ca_mg_l: 55, mg_mg_l: 12, na_mg_l: 28, hco3_mg_l: 158.7, cl_mg_l: 23.4, so4_mg_l: 81.1 };
		const r = calculatedEc(ions);
		expect(r.k0UsCm).toBeCloseTo(578, -0.5);
		expect(r.ionicStrength).toBeCloseTo(0.00766, 4);
		expect(r.y).toBeCloseTo(0.914, 3);
		expect(r.ecUsCm).toBeCloseTo(483, -0.5);
		expect(readReport(ions, 490)).toMatchObject({ balanceOk: true, odd: [] });
	});
	it('a 0.7 mS/cm potassium chloride solution comes out at 0.90 of the truth, and the band allows for strong ones', () => {
		// 0.005 mol/L KCl is 717.5 µS/cm (Standard Methods 2510, from memory).
		expect(calculatedEc({ k_mg_l: 195.5, cl_mg_l: 177.3 }).ecUsCm / 717.5).toBeCloseTo(0.9, 1);
	});
	it('hardness 2.497 Ca + 4.118 Mg, SAR and equivalents by hand', () => {
		const r = readReport({ ca_mg_l: 80, mg_mg_l: 24.3, na_mg_l: 46, hco3_mg_l: 305, cl_mg_l: 71 })!;
		expect(r.hardnessMgLCaco3).toBeCloseTo(80 * 2.497 + 24.3 * 4.118, 6);
		// Ca 3.992, Mg 2.000, Na 2.001 meq/L: 2.001/√2.996 = 1.156.
		expect(r.sar).toBeCloseTo(1.156, 3);
		expect(r.alkalinityMgLCaco3).toBeCloseTo(250.1, 1);
		expect(meqOf('hco3_mg_l', 61.02)).toBe(1);
	});
	it('acceptance at each band’s edge (Standard Methods 1030 E)', () => {
		expect(balanceAccepted(3.2, 3)).toBe(true);
		expect(balanceAccepted(3.21, 3)).toBe(false);
		const at = (anions: number, percent: number) => (anions * (1 + percent / 100)) / (1 - percent / 100);
		expect(balanceAccepted(at(5, 1.99), 5)).toBe(true);
		expect(balanceAccepted(at(5, 2.01), 5)).toBe(false);
		expect(balanceAccepted(at(20, 4.99), 20)).toBe(true);
		expect(balanceAccepted(at(20, 5.01), 20)).toBe(false);
	});
	it.each([
		[
			'alkalinity as CaCO3 in the bicarbonate field',
			{ ca_mg_l: 80, mg_mg_l: 12, na_mg_l: 20, hco3_mg_l: 220, cl_mg_l: 30, so4_mg_l: 30 },
			'alkalinity-as-caco3',
		],
		[
			'calcium in meq/L',
			{ ca_mg_l: 4, mg_mg_l: 12, na_mg_l: 20, hco3_mg_l: 268, cl_mg_l: 30, so4_mg_l: 30 },
			'meq-for-mg',
		],
		['only cations', { ca_mg_l: 80, mg_mg_l: 12 }, 'no-anions'],
		['sodium left out', { ca_mg_l: 40, mg_mg_l: 8, hco3_mg_l: 150, cl_mg_l: 120 }, 'sodium-missing'],
	] as const)('notices %s', (_, ions, code) => {
		expect(readReport(ions)!.odd.map((o) => o.code)).toContain(code);
	});
	it('a conductivity in mS/cm, and one that the ions do not make', () => {
		const ions = { ca_mg_l: 55, mg_mg_l: 12, na_mg_l: 28, hco3_mg_l: 158.7, cl_mg_l: 23.4, so4_mg_l: 81.1 };
		expect(readReport(ions, 0.49)!.odd.map((o) => o.code)).toEqual(['ec-unit']);
		expect(readReport(ions, 800)!.odd.map((o) => o.code)).toEqual(['ec-off']);
		expect(readReport({})).toBeNull();
	});
	it('classes: 60 is soft and 61 is not (USGS); FAO 29 and substrate limits at their edges', () => {
		const of = (w: Parameters<typeof gradeWater>[0], what: string) => gradeWater(w).find((g) => g.of === what)?.grade;
		expect(of({ hardnessMgLCaco3: 60 }, 'hardness')).toBe('soft');
		expect(of({ hardnessMgLCaco3: 121 }, 'hardness')).toBe('hard');
		expect(of({ hardnessMgLCaco3: 181 }, 'hardness')).toBe('very hard');
		expect(of({ ecUsCm: 690 }, 'salinity for irrigation')).toBe('none');
		expect(of({ ecUsCm: 3100 }, 'salinity for irrigation')).toBe('severe');
		expect(of({ ecUsCm: 400, naMgL: 30, clMgL: 40 }, 'substrate class')).toContain('class 1');
		expect(of({ ecUsCm: 780, naMgL: 46, clMgL: 40 }, 'substrate class')).toContain('class 2');
		expect(of({ ecUsCm: 780, clMgL: 200 }, 'substrate class')).toContain('unfit');
	});
});
