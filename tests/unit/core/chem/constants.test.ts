import { describe, expect, it } from 'vitest';
import { ACIDS, BASES } from '@/core/chem/acids';
import { CONSTANTS, HCO3_PER_CACO3, MG_L_CACO3_PER_MEQ } from '@/core/chem/constants';
import { IONS } from '@/core/water/ions';

/** Standard atomic weights, IUPAC Commission on Isotopic Abundances and Atomic Weights 2021, abridged to five digits. */
const A = {
	H: 1.008,
	B: 10.81,
	C: 12.011,
	N: 14.007,
	O: 15.999,
	F: 18.998,
	Na: 22.99,
	Mg: 24.305,
	Si: 28.085,
	P: 30.974,
	S: 32.06,
	Cl: 35.45,
	K: 39.098,
	Ca: 40.078,
} as const;
/** g/mol of a formula: `Ca1 C1 O3`. */
const of = (formula: string): number =>
	formula.split(' ').reduce((sum, part) => {
		const [, element, n] = /^([A-Z][a-z]?)(\d+)$/.exec(part)!;
		return sum + A[element as keyof typeof A] * Number(n);
	}, 0);

describe('constants are the published ones', () => {
	it.each([
		['nitric', 'H1 N1 O3'],
		['phosphoric', 'H3 P1 O4'],
		['sulfuric', 'H2 S1 O4'],
		['citric', 'C6 H8 O7'],
		['acetic', 'C2 H4 O2'],
	] as const)('%s acid weighs what its atoms do', (kind, formula) => {
		expect(ACIDS[kind].gPerMol).toBeCloseTo(of(formula), 1);
	});
	it.each([
		['potassium hydroxide', 'K1 O1 H1'],
		['potassium carbonate', 'K2 C1 O3'],
		['potassium bicarbonate', 'K1 H1 C1 O3'],
		['potassium silicate', 'K2 Si1 O3'],
		['sodium bicarbonate', 'Na1 H1 C1 O3'],
	] as const)('%s weighs what its atoms do', (kind, formula) => {
		expect(BASES[kind].gPerMol).toBeCloseTo(of(formula), 1);
	});
	it.each([
		['ca_mg_l', 'Ca1', 2],
		['mg_mg_l', 'Mg1', 2],
		['na_mg_l', 'Na1', 1],
		['k_mg_l', 'K1', 1],
		['nh4_n_mg_l', 'N1', 1],
		['no3_n_mg_l', 'N1', 1],
		['cl_mg_l', 'Cl1', 1],
		['so4_mg_l', 'S1 O4', 2],
		['hco3_mg_l', 'H1 C1 O3', 1],
		['co3_mg_l', 'C1 O3', 2],
		['p_mg_l', 'P1', 1],
		['f_mg_l', 'F1', 1],
	] as const)('a milliequivalent of %s', (key, formula, charge) => {
		expect(Math.abs(IONS[key].mgPerMeq / (of(formula) / charge) - 1)).toBeLessThan(2e-4);
		expect(Math.abs(IONS[key].charge)).toBe(charge);
	});
	it('alkalinity as calcium carbonate and as bicarbonate: Standard Methods 2320 B', () => {
		expect(MG_L_CACO3_PER_MEQ).toBe(50.04);
		expect(of('Ca1 C1 O3') / 2).toBeCloseTo(MG_L_CACO3_PER_MEQ, 1);
		expect(HCO3_PER_CACO3).toBeCloseTo(1.2194, 4);
	});
	it('hardness of calcium and magnesium follows from the weights: Standard Methods 2340 B', () => {
		expect(CONSTANTS.hardnessOfCalcium.value).toBeCloseTo(of('Ca1 C1 O3') / A.Ca, 3);
		expect(CONSTANTS.hardnessOfMagnesium.value).toBeCloseTo(of('Ca1 C1 O3') / A.Mg, 3);
	});
	it('each has a value, a unit and a source', () => {
		for (const [name, c] of Object.entries(CONSTANTS)) {
			expect([name, Number.isFinite(c.value) && c.value > 0]).toEqual([name, true]);
			expect(c.unit.length * c.source.length, name).toBeGreaterThan(0);
		}
	});
	it('the gas constant over Faraday’s gives 59.16 mV for a pH at 25 °C (CODATA 2018)', () => {
		const { gas, faraday, zeroCelsius } = CONSTANTS;
		expect((1000 * Math.LN10 * gas.value * (25 + zeroCelsius.value)) / faraday.value).toBeCloseTo(59.16, 2);
	});
});
