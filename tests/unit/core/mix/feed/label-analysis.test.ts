import { describe, expect, it } from 'vitest';
import { readAnalysis } from '@/core/mix/feed/label-analysis';
import { saltContent } from '@/core/mix/feed/salts';

/** Oxides to elements: P2O5 2.291, K2O 1.205 (handbooks of fertilisers; atomic weights); CaO 1.399, MgO 1.658, SO3 2.497. */
const mg = (text: string, unit: 'mL' | 'g' = 'g', density: number | null = null) =>
	readAnalysis(text, unit, density).content;

describe('the analysis on a label', () => {
	it.each([
		['Nitrate nitrogen 11.8 %', { no3_n_mg_l: 118 }],
		[
			'Total Nitrogen (N) 15.5 %, Nitrate nitrogen 14.4 %, Ammoniacal nitrogen 1.1 %',
			{ no3_n_mg_l: 144, nh4_n_mg_l: 11 },
		],
		['N-NO3: 14.4%; N-NH4: 1.1%; CaO: 26.5%', { no3_n_mg_l: 144, nh4_n_mg_l: 11, ca_mg_l: 265 / 1.399 }],
		[
			'Phosphorus pentoxide (P2O5) soluble in water 52 %\nPotassium oxide (K2O) 34 %',
			{ p_mg_l: 520 / 2.291, k_mg_l: 340 / 1.205 },
		],
		['Available Phosphate (P2O5) 5%', { p_mg_l: 50 / 2.291 }],
		['Soluble Potash (K2O) 26%', { k_mg_l: 260 / 1.205 }],
		['Phosphorus (as P) 2 %', { p_mg_l: 20 }],
		['P (as P2O5) 2 %', { p_mg_l: 20 / 2.291 }],
		['0-52-34', { no3_n_mg_l: undefined, p_mg_l: 520 / 2.291, k_mg_l: 340 / 1.205 }],
		['MgO 16 %, SO3 32 %', { mg_mg_l: 160 / 1.658, so4_mg_l: (320 / 2.497) * 2.9963 }],
		['Iron (Fe) chelated by EDTA 0.1 %', { fe_mg_l: 1 }],
		['boron 120 mg/kg', { b_mg_l: 0.12 }],
		['K 38,7 %', { k_mg_l: 387 }],
		['Urea nitrogen 10 %', { urea_n_mg_l: 100 }],
		['43 % K2O', { k_mg_l: 430 / 1.205 }],
	])('%s', (text, expected) => {
		const content = mg(text);
		for (const [key, value] of Object.entries(expected))
			if (value === undefined) expect(content?.[key as 'p_mg_l'] ?? 0).toBe(0);
			else expect(content?.[key as 'p_mg_l']).toBeCloseTo(value, 0);
		expect(readAnalysis(text, 'g', null).problems).toEqual([]);
	});
	it('a salt by its label is the salt by its formula', () => {
		const label = mg('13.7-0-46')!;
		const salt = saltContent('potassium nitrate');
		expect(label.k_mg_l! / salt.k_mg_l!).toBeCloseTo(1, 1);
		expect(label.no3_n_mg_l! / salt.no3_n_mg_l!).toBeCloseTo(1, 1);
	});
	it('percent by weight of a liquid wants its density, by volume does not', () => {
		expect(readAnalysis('N 4 %', 'mL', null).problems).toEqual([{ code: 'density-wanted', text: 'N 4 %' }]);
		expect(mg('N 4 %', 'mL', 1.2)).toEqual({ no3_n_mg_l: 48 });
		expect(mg('Nitrate nitrogen 4 % w/v', 'mL')).toEqual({ no3_n_mg_l: 40 });
		expect(mg('CaO 60 g/L', 'mL')!.ca_mg_l).toBeCloseTo(60 / 1.399, 1);
	});
	it('nitrogen of no form is counted as nitrate, and that is said', () => {
		const { content, remarks } = readAnalysis('Total nitrogen 10 %, ammonium nitrogen 2 %', 'g', null);
		expect(content).toEqual({ nh4_n_mg_l: 20, no3_n_mg_l: 80 });
		expect(remarks).toEqual([{ code: 'nitrogen-taken-as-nitrate', share: 0.8 }]);
	});
	it.each([
		['seaweed extract 12 %', 'no-such-nutrient'],
		['nitrogen', 'no-amount'],
		['K 60 %, Ca 50 %', 'more-than-all'],
		['K 10 %, potassium 12 %', 'given-twice'],
	])('%s is asked about: %s', (text, code) => {
		expect(readAnalysis(text, 'g', null).problems.map((p) => p.code)).toContain(code);
	});
});
