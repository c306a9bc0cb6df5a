import { describe, expect, it } from 'vitest';
import { readLine } from '@/core/water/report/line';

/**
 * Lines as laboratories and suppliers write them. Expected values by hand from standard atomic weights (IUPAC 2021): NO3/N 4.4268,
 * NH4/N 1.2878, P2O5/P 2.2914, K2O/K 1.2046, SiO2/Si 2.1393; CaCO3 50.04 mg/meq, HCO3 61.02 mg/meq (Standard Methods 2320);
 * German degree 17.85, French 10, English 14.25 mg/L CaCO3, grain per US gallon 17.12.
 */
const read = (line: string) => {
	const r = readLine(line, null);
	return r.what === 'dissolved'
		? [r.key, Number(r.mgL.toPrecision(4)), ...(r.below ? ['below'] : [])]
		: r.what === 'whole'
			? [r.key, Number(r.value.toPrecision(4)), ...(r.below ? ['below'] : [])]
			: r.what === 'problem'
				? [r.code]
				: ['nothing'];
};

describe('a line of a report', () => {
	it.each([
		['Calcium 80.2 mg/L', ['ca_mg_l', 80.2]],
		['Ca2+ 80,2 mg/l', ['ca_mg_l', 80.2]],
		['Ca²⁺: 80.2', ['ca_mg_l', 80.2]],
		['Calcium (Ca), dissolved; 80.2; mg/L', ['ca_mg_l', 80.2]],
		['Calcium | mg/L | 80.2', ['ca_mg_l', 80.2]],
		['Calcium,80,mg/L', ['ca_mg_l', 80]],
		['Calcium as CaCO3 200 mg/L', ['ca_mg_l', 80.09]],
		['Calcium hardness 200 mg/L CaCO3', ['ca_mg_l', 80.09]],
		['Ca 4 meq/L', ['ca_mg_l', 80.16]],
		['Ca 2 mmol/l', ['ca_mg_l', 80.16]],
		['Magnesium, total 12 mg/L', ['mg_mg_l', 12]],
		['MAGNESIUM\t12.0\tmg/l', ['mg_mg_l', 12]],
		['Sodium (Na+) 23 ppm', ['na_mg_l', 23]],
		['Potassium as K2O 12.05 mg/L', ['k_mg_l', 10]],
		['Nitrate 44.27 mg/L', ['no3_n_mg_l', 10]],
		['Nitrate (as N) 10 mg/L', ['no3_n_mg_l', 10]],
		['Nitrate as NO3: 44.27 mg/L', ['no3_n_mg_l', 10]],
		['Nitrate-N <0.5 mg/L', ['no3_n_mg_l', 0, 'below']],
		['NO3-N 10 mg/l', ['no3_n_mg_l', 10]],
		['NO3- 44.27 mg/l', ['no3_n_mg_l', 10]],
		['Nitrogen, Nitrate 10 mg/L as N', ['no3_n_mg_l', 10]],
		['nitrate nitrogen 10 mg N/L', ['no3_n_mg_l', 10]],
		['Ammonium 1.288 mg/L', ['nh4_n_mg_l', 1]],
		['NH4-N 0.04 mg/L', ['nh4_n_mg_l', 0.04]],
		['Ammonia nitrogen 40 µg/L', ['nh4_n_mg_l', 0.04]],
		['Chloride (Cl-) 35.45 mg/L', ['cl_mg_l', 35.45]],
		['Chloride 1 meq/l', ['cl_mg_l', 35.45]],
		['SO4 2- 96 mg/L', ['so4_mg_l', 96]],
		['SO42- 96 mg/L', ['so4_mg_l', 96]],
		['Sulphate as S 32 mg/L', ['so4_mg_l', 95.88]],
		['Sulfate 1 mmol/L', ['so4_mg_l', 96.06]],
		['Phosphate as P 1 mg/L', ['p_mg_l', 1]],
		['Phosphorus (P2O5) 2.2914 mg/L', ['p_mg_l', 1]],
		['Orthophosphate 3.066 mg/L', ['p_mg_l', 1]],
		['Bicarbonate (HCO3-) 256 mg/L', ['hco3_mg_l', 256]],
		['Bicarbonate as CaCO3 210 mg/L', ['hco3_mg_l', 256.1]],
		['Hydrogen carbonate 256 mg/l', ['hco3_mg_l', 256]],
		['Alkalinity, Total as CaCO3 210 mg/L', ['alkalinity', 210]],
		['Total Alkalinity (CaCO3): 210 mg/L', ['alkalinity', 210]],
		['Alkalinity 4.2 meq/L', ['alkalinity', 210.2]],
		['Acid capacity to pH 4.3 4.2 mmol/l', ['alkalinity', 210.2]],
		['Carbonate hardness 11.8 °dH', ['alkalinity', 210.6]],
		['Total hardness 245 mg/L as CaCO3', ['hardness', 245]],
		['Hardness 14 °dH', ['hardness', 249.8]],
		['Hardness 25 °fH', ['hardness', 250]],
		['Hardness 14.3 gpg', ['hardness', 244.8]],
		['Hardness 2.45 mmol/L', ['hardness', 245.2]],
		['Iron 120 µg/L', ['fe_mg_l', 0.12]],
		['Fe <10 ug/l', ['fe_mg_l', 0, 'below']],
		['Iron, total 0.12 mg/L 0.2 max', ['fe_mg_l', 0.12]],
		['Manganese 20 ppb', ['mn_mg_l', 0.02]],
		['Zinc 0.05 mg/L', ['zn_mg_l', 0.05]],
		['Copper 3 µmol/L', ['cu_mg_l', 0.1906]],
		['Boron 50 µg/l', ['b_mg_l', 0.05]],
		['Silica (SiO2) 21.39 mg/L', ['si_mg_l', 9.999]],
		['Fluoride n.d.', ['nothing']],
		['TDS 450 mg/L', ['tds', 450]],
		['Total Dissolved Solids 450 ppm', ['tds', 450]],
		['Conductivity at 25 °C 780 µS/cm', ['ec', 780]],
		['Electrical conductivity 78 mS/m', ['ec', 780]],
		['EC25 0,78 dS/m', ['ec', 780]],
		['Specific Conductance 1 250 µS/cm', ['ec', 1250]],
		['pH 7,4', ['ph', 7.4]],
		['pH (lab) 7.4 pH units', ['ph', 7.4]],
		['Parameter Unit Result', ['nothing']],
		['', ['nothing']],
	])('“%s”', (line, meant) => expect(read(line)).toEqual(meant));

	it.each([
		['Conductivity 1,250 µS/cm', 'ambiguous-number'],
		['Potatoes 3 mg/L', 'no-such-ion'],
		['Turbidity 0.4 NTU', 'no-such-ion'],
		['Ca 80 furlongs', 'no-unit-of-an-ion'],
		['Conductivity 3 mg/L', 'no-unit-of-ec'],
		['Nitrate as CaCO3 3 mg/L', 'no-such-form'],
		['Na -4 mg/L', 'below-nothing'],
		['Sampled by the grower', 'not-a-value'],
	])('“%s” is asked about: %s', (line, code) => expect(read(line)).toEqual([code]));
});
