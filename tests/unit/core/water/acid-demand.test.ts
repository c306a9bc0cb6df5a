import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { molPerLitre, protonsGiven } from '@/core/chem/acids';
import { alkalinityOpen, carbonateConstants } from '@/core/chem/carbonate';
import { type AcidInput, acidDemand } from '@/core/water/acid-demand';
import { remarkWords } from '@/words/en/remark';

const demand = (more: Partial<AcidInput> = {}) =>
	acidDemand({
		ph: 7.8,
		alkalinityMgLCaco3: 150,
		targetPh: 5.8,
		tempC: 25,
		volumeL: 1000,
		acid: { kind: 'nitric', percentWw: 67, densityGMl: 1.4 },
		...more,
	});
const granted = (r: ReturnType<typeof demand>) => {
	if (!r.ok) throw new Error(r.problem.code);
	return r;
};

describe('acid demand', () => {
	it('150 mg/L CaCO3 at pH 7.8 and 25 °C takes 2.32 meq/L to 5.8 and 2.05 to 6.0, closed', () => {
		expect(granted(demand()).value.meqPerL).toBeCloseTo(2.32, 2);
		expect(granted(demand({ targetPh: 6 })).value.meqPerL).toBeCloseTo(2.05, 2);
	});
	it('aerated it comes back to about 8.0, and holding 5.8 takes 3.00 meq/L', () => {
		const r = granted(demand());
		expect(r.value.phAfterDegassingCarbonate).toBeCloseTo(8.0, 1);
		expect(r.value.meqPerLAerated).toBeCloseTo(3.0, 2);
		// Phosphate of the acid itself holds it lower.
		const p = granted(demand({ acid: { kind: 'phosphoric', percentWw: 85, densityGMl: 1.685 } }));
		expect(p.value.phAfterDegassingCarbonate).toBeCloseTo(8.0, 1);
		expect(p.value.phAfterDegassing).toBeLessThan(7.2);
	});
	it('agrees with an independent numerical solution of the charge balance over 144 waters', () => {
		const rows = JSON.parse(readFileSync(join(import.meta.dirname, '../../../reference/carbonate.json'), 'utf8')) as {
			temp_c: number;
			alkalinity: number;
			ph: number;
			target: number;
			meq: number;
			rebound: number;
		}[];
		expect(rows.length).toBe(144);
		for (const row of rows) {
			const r = granted(
				demand({ tempC: row.temp_c, alkalinityMgLCaco3: row.alkalinity, ph: row.ph, targetPh: row.target }),
			);
			expect(r.value.meqPerL).toBeCloseTo(row.meq, 6);
			expect(r.value.phAfterDegassingCarbonate).toBeCloseTo(row.rebound, 6);
		}
	});
	it('label strengths: 85 % phosphoric at 1.685 is 14.6 mol/L, 67 % nitric at 1.40 14.9, 93 % sulfuric at 1.83 17.35', () => {
		expect(molPerLitre('phosphoric', 85, 1.685)).toBeCloseTo(14.6, 1);
		expect(molPerLitre('nitric', 67, 1.4)).toBeCloseTo(14.9, 1);
		expect(molPerLitre('sulfuric', 93, 1.83)).toBeCloseTo(17.35, 2);
	});
	it('litres of each product by hand', () => {
		// 1000 L, 2.3213 meq/L = 2321.3 meq. Nitric: 1 proton, 14.886 mol/L → 155.9 mL.
		expect(granted(demand()).value.mlTotal).toBeCloseTo(155.9, 0);
		// Phosphoric at 5.8: protons 1 + 10^(5.8−7.198)/(1 + 10^(5.8−7.198)) = 1.0384; 14.616 mol/L → 152.9 mL.
		expect(
			granted(demand({ acid: { kind: 'phosphoric', percentWw: 85, densityGMl: 1.685 } })).value.mlTotal,
		).toBeCloseTo(152.9, 0);
		// Sulfuric: 2 protons (1.9998), 17.353 mol/L → 66.9 mL.
		expect(granted(demand({ acid: { kind: 'sulfuric', percentWw: 93, densityGMl: 1.83 } })).value.mlTotal).toBeCloseTo(
			66.9,
			0,
		);
		// Acetic, 5 % vinegar at 1.005: 0.8368 mol/L, gives 10^1.044/(1 + 10^1.044) = 0.9171 → 3025 mL.
		expect(granted(demand({ acid: { kind: 'acetic', percentWw: 5, densityGMl: 1.005 } })).value.mlTotal).toBeCloseTo(
			3025,
			-1,
		);
		// Citric powder at 5.8: 2.120 protons of 192.124 g/mol → 210.3 g.
		expect(protonsGiven('citric', 5.8)).toBeCloseTo(2.12, 2);
		const citric = granted(demand({ acid: { kind: 'citric', percentWw: 100 } }));
		expect(citric.value.mlTotal).toBeNull();
		expect(citric.value.gTotal).toBeCloseTo(210.3, 0);
	});
	it('2.32 meq/L as phosphoric acid at one proton each feeds about 70 mg/L of phosphorus: too much, and said', () => {
		const r = granted(demand({ acid: { kind: 'phosphoric', percentWw: 85, densityGMl: 1.685 } }));
		// 2.3213/1.0384 mmol/L · 30.974.
		expect(r.value.adds.p_mg_l).toBeCloseTo(69.2, 1);
		expect(r.value.cautions.map(remarkWords).join(' ')).toContain('nitric or sulfuric acid');
		expect(granted(demand()).value.adds.no3_n_mg_l).toBeCloseTo(32.5, 1);
	});
	it.each([
		['target above the water', { targetPh: 8 }, 'target_ph'],
		['target that no plant lives in', { targetPh: 2 }, 'target_ph'],
		['0 %', { acid: { kind: 'nitric', percentWw: 0, densityGMl: 1.4 } }, 'acid.percent_w_w'],
		['120 %', { acid: { kind: 'nitric', percentWw: 120, densityGMl: 1.4 } }, 'acid.percent_w_w'],
		['pH 11 with hardly any alkalinity', { ph: 11, alkalinityMgLCaco3: 2 }, 'alkalinity_mg_l_caco3'],
	] as const)('refuses %s with what to do', (_, more, field) => {
		expect(demand(more as Partial<AcidInput>)).toMatchObject({ ok: false, problem: { field } });
	});
	it('more alkalinity always takes more acid, and a lower target too (property)', () => {
		fc.assert(
			fc.property(
				fc.double({ min: 5, max: 400, noNaN: true }),
				fc.double({ min: 5, max: 6.4, noNaN: true }),
				fc.double({ min: 2, max: 40, noNaN: true }),
				(alkalinityMgLCaco3, targetPh, tempC) => {
					const a = granted(demand({ alkalinityMgLCaco3, targetPh, tempC }));
					const b = granted(demand({ alkalinityMgLCaco3: alkalinityMgLCaco3 * 1.1, targetPh, tempC }));
					const c = granted(demand({ alkalinityMgLCaco3, targetPh: targetPh - 0.1, tempC }));
					return (
						b.value.meqPerL > a.value.meqPerL &&
						c.value.meqPerL > a.value.meqPerL &&
						a.value.meqPerLAerated >= a.value.meqPerL - 1e-9
					);
				},
			),
		);
	});
	it('a water in equilibrium with air has the alkalinity that the open formula gives: 2.0 meq/L near pH 8.5', () => {
		// Stumm and Morgan, Aquatic Chemistry: an alkalinity of 2 meq/L in air lies near pH 8.5 (from memory).
		expect(alkalinityOpen(8.5, 420, carbonateConstants(25))).toBeCloseTo(2.1, 1);
	});
});
