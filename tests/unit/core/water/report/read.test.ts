import { describe, expect, it } from 'vitest';
import { readReportText } from '@/core/water/report/read';

describe('reports as laboratories write them', () => {
	it('brings forms and units to mg/L: nitrate as NO3 by 4.427, meq/L, °dKH, alkalinity as CaCO3', () => {
		const r = readReportText(
			'Parameter,value\nCa 4 meq/L\nnitrate: 44.27 mg/L\nalkalinity 50.04 mg/L CaCO3\nSO4 1 mmol/l\nEC 0,78 mS/cm\npH 7,4\nB 0.05',
		);
		expect(r.ions.ca_mg_l).toBeCloseTo(80.16, 2);
		expect(r.ions.no3_n_mg_l).toBeCloseTo(10, 2);
		expect(r.ions.hco3_mg_l).toBeCloseTo(61.02, 3);
		expect(r.ions.so4_mg_l).toBeCloseTo(96.06, 2);
		expect([r.ecUsCm, r.ph, r.traces.b_mg_l, r.problems]).toEqual([780, 7.4, 0.05, []]);
		expect(readReportText('bicarbonate 2.804 dKH').ions.hco3_mg_l).toBeCloseTo(61.02, 3);
	});
	it('says line by line what it does not understand', () => {
		const r = readReportText('Ca 80 furlongs\npotatoes 3\nnonsense\nNa -4');
		expect(r.problems).toEqual([
			{ line: 1, code: 'no-unit-of-an-ion', text: 'furlongs' },
			{ line: 2, code: 'no-such-ion', text: 'potatoes' },
			{ line: 3, code: 'not-a-value', text: 'nonsense' },
			{ line: 4, code: 'below-nothing', text: 'Na' },
		]);
	});
	it('alkalinity beside bicarbonate says the same again: taken once, and asked about where they differ', () => {
		const once = readReportText('HCO3 256 mg/L\nAlkalinity 210 mg/L as CaCO3');
		expect(once.ions.hco3_mg_l).toBeCloseTo(256, 6);
		expect(once.problems).toEqual([]);
		const twice = readReportText('HCO3 210 mg/L\nAlkalinity 210 mg/L as CaCO3');
		expect(twice.ions.hco3_mg_l).toBeUndefined();
		expect(twice.problems).toMatchObject([{ line: 2, code: 'given-twice' }]);
		// Of the alkalinity of a high water carbonate is a part (Standard Methods 2320): 4 meq/L in all, 1 of it carbonate.
		const high = readReportText('CO3 30 mg/L\nAlkalinity 4 meq/L');
		expect(high.ions.hco3_mg_l! / 61.02).toBeCloseTo(3, 2);
	});
	it('nitrate as NO3 and as N of one report agree, or are asked about', () => {
		expect(readReportText('Nitrate 44.3 mg/L\nNO3-N 10 mg/L').ions.no3_n_mg_l).toBeCloseTo(10, 1);
		const odd = readReportText('Nitrate 44.3 mg/L\nNO3-N 44.3 mg/L');
		expect(odd.ions.no3_n_mg_l).toBeUndefined();
		expect(odd.problems).toMatchObject([{ line: 2, code: 'given-twice' }]);
	});
	it('a hardness that calcium and magnesium do not make is asked about (2.497 Ca + 4.118 Mg)', () => {
		expect(readReportText('Ca 80\nMg 12\nHardness 249 mg/L').problems).toEqual([]);
		expect(readReportText('Ca 80\nMg 12\nHardness 14 mg/L').problems).toMatchObject([{ code: 'hardness-differs' }]);
		expect(readReportText('Hardness 14 °dH')).toMatchObject({
			hardnessMgLCaco3: expect.closeTo(249.84, 1),
			problems: [],
		});
	});
	it('thousands are told by the rest of the report', () => {
		expect(readReportText('EC 1,250 µS/cm\npH 7.4').ecUsCm).toBe(1250);
		expect(readReportText('EC 1,250 mS/cm\npH 7,4').ecUsCm).toBe(1250);
		expect(readReportText('EC 1,250 µS/cm').problems).toMatchObject([{ code: 'ambiguous-number', text: '1,250' }]);
	});
});
