import { describe, expect, it } from 'vitest';
import { readReportText } from '@/core/water/report-text';

describe('reports as laboratories write them', () => {
	it('brings forms and units to mg/L: nitrate as NO3 by 4.427, meq/L, °dKH, alkalinity as CaCO3', () => {
		const r = readReportText(
			'Parameter,value\nCa 4 meq/L\nnitrate: 44.27 mg/L\nalkalinity 50.04 mg/L CaCO3\nSO4 1 mmol/l\nEC 0,78 mS/cm\npH 7,4\nB 0.05',
		);
		expect(r.ions.ca_mg_l).toBeCloseTo(80.16, 2);
		expect(r.ions.no3_n_mg_l).toBeCloseTo(10, 6);
		expect(r.ions.hco3_mg_l).toBeCloseTo(61.02, 3);
		expect(r.ions.so4_mg_l).toBeCloseTo(96.06, 2);
		expect([r.ecUsCm, r.ph, r.boronMgL, r.problems]).toEqual([780, 7.4, 0.05, []]);
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
});
