import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { molPerLitre, protonsGiven } from '@/core/chem/acids';
import { alkalinityOpen, carbonateConstants } from '@/core/chem/carbonate';
import { afterAdding, dilute } from '@/core/mix/dilute';
import { learnGain, nutrientDose } from '@/core/mix/nutrient-dose';
import { type AcidInput, acidDemand } from '@/core/water/acid-demand';
import { blend } from '@/core/water/blend';
import { gradeWater } from '@/core/water/classes';
import { balanceAccepted, calculatedEc, meqOf, readReport } from '@/core/water/ions';
import { membraneState, pairRejection } from '@/core/water/membrane';
import { baselineOf, brokenRules, followSource } from '@/core/water/source-chart';
import { seeded } from '@/sim/random';
import { remarkWords } from '@/words/en/remark';

const pk = (k: number) => -Math.log10(k);
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

describe('carbonate constants of Plummer and Busenberg (1982)', () => {
	it('pK1 6.352, pK2 10.329, pKw 14.00, pKH 1.468 at 25 °C', () => {
		const c = carbonateConstants(25);
		expect([pk(c.k1), pk(c.k2), pk(c.kw), pk(c.kh)].map((v) => Number(v.toFixed(3)))).toEqual([
			6.352, 10.329, 14, 1.468,
		]);
	});
});

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
		const rows = JSON.parse(readFileSync(join(import.meta.dirname, '../../reference/carbonate.json'), 'utf8')) as {
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

describe('blends', () => {
	const two = (a: number, b: number) => [{ ecUsCm: a }, { ecUsCm: b }];
	it('equal parts of 130 and 0 give 65 (common practice)', () => {
		const r = blend([
			{ ecUsCm: 130, volumeL: 5 },
			{ ecUsCm: 0, volumeL: 5 },
		]);
		expect(r.ok && r.value.ecUsCm).toBeCloseTo(65, 9);
	});
	it('an answer is refused exactly when no mixture reaches it, and salt is conserved (property)', () => {
		const amount = fc.double({ min: 0, max: 3000, noNaN: true });
		fc.assert(
			fc.property(
				fc.array(amount, { minLength: 1, maxLength: 5 }),
				amount,
				fc.double({ min: 1, max: 5000, noNaN: true }),
				(list, target, total) => {
					const r = blend(
						list.map((ecUsCm) => ({ ecUsCm })),
						{ ecUsCm: target },
						total,
					);
					const reachable = target >= Math.min(...list) && target <= Math.max(...list);
					if (!r.ok) return !reachable || Math.max(...list) - Math.min(...list) < 1e-6;
					const sum = r.value.volumesL.reduce((a, b) => a + b, 0);
					const salt = r.value.volumesL.reduce((a, v, i) => a + v * list[i]!, 0);
					return (
						r.value.fractions.every((f) => f >= 0) &&
						Math.abs(sum - total) < 1e-6 * total &&
						Math.abs(salt / sum - target) < 1e-6 * Math.max(target, 1)
					);
				},
			),
		);
	});
	it('two targets with three waters; contradictory ones are refused; an unmeasured alkalinity is unknown and not 0', () => {
		const waters = [
			{ ecUsCm: 780, alkalinityMgLCaco3: 210 },
			{ ecUsCm: 60, alkalinityMgLCaco3: 15 },
			{ ecUsCm: 900, alkalinityMgLCaco3: 40 },
		];
		const r = blend(waters, { ecUsCm: 400, alkalinityMgLCaco3: 60 }, 100);
		if (!r.ok) throw new Error(r.problem.code);
		expect(r.value.ecUsCm).toBeCloseTo(400, 6);
		expect(r.value.alkalinityMgLCaco3).toBeCloseTo(60, 6);
		expect(blend(waters, { ecUsCm: 880, alkalinityMgLCaco3: 200 })).toMatchObject({
			problem: { code: 'targets-contradict' },
		});
		expect(blend([{ ecUsCm: 780 }, { ecUsCm: 60, alkalinityMgLCaco3: 15 }], { alkalinityMgLCaco3: 40 })).toMatchObject({
			ok: false,
			problem: { code: 'water-not-measured', field: 'waters.0', water: 1 },
		});
		const unknown = blend([
			{ ecUsCm: 780, volumeL: 1 },
			{ ecUsCm: 60, alkalinityMgLCaco3: 15, volumeL: 1 },
		]);
		expect(unknown.ok && unknown.value.alkalinityMgLCaco3).toBeNull();
		expect(blend(two(780, 60), { ecUsCm: 900 })).toMatchObject({ ok: false, problem: { field: 'target.ec_us_cm' } });
		expect(blend([{ ecUsCm: 1 }, { ecUsCm: 2 }])).toMatchObject({ ok: false, problem: { field: 'waters' } });
	});
	it('takes the cheapest waters that reach the target', () => {
		const r = blend(
			[
				{ ecUsCm: 780, costPerL: 0 },
				{ ecUsCm: 20, costPerL: 1 },
				{ ecUsCm: 60, costPerL: 0.01 },
			],
			{ ecUsCm: 300 },
		);
		expect(r.ok && r.value.fractions[1]).toBe(0);
	});
	it('pH comes from carbonate chemistry: hard water and rain do not average', () => {
		const r = blend([
			{ ecUsCm: 780, alkalinityMgLCaco3: 210, ph: 7.4, volumeL: 1 },
			{ ecUsCm: 50, alkalinityMgLCaco3: 5, ph: 5.8, volumeL: 1 },
		]);
		// The average would be 6.6; the hard water’s carbonate decides.
		expect(r.ok && r.value.ph).toBeGreaterThan(7);
	});
});

describe('diluting and feeding', () => {
	it('V·(EC − target)/(target − EC_with) where there is room, V·(EC − target)/(EC − EC_with) where there is none', () => {
		expect(dilute({ volumeL: 100, ecUsCm: 2400, targetEcUsCm: 2000, withEcUsCm: 400 })).toEqual({
			ok: true,
			value: { drainL: 0, addL: 25, ecUsCm: 2000 },
		});
		expect(dilute({ volumeL: 100, ecUsCm: 2400, targetEcUsCm: 2000, withEcUsCm: 400, capacityL: 100 })).toEqual({
			ok: true,
			value: { drainL: 20, addL: 20, ecUsCm: 2000 },
		});
	});
	it('conserves salt both ways, and drains only what is needed (property)', () => {
		fc.assert(
			fc.property(
				fc.double({ min: 1, max: 5000, noNaN: true }),
				fc.double({ min: 500, max: 4000, noNaN: true }),
				fc.double({ min: 0.05, max: 0.95, noNaN: true }),
				fc.double({ min: 0, max: 400, noNaN: true }),
				fc.double({ min: 1, max: 2, noNaN: true }),
				(volumeL, ecUsCm, part, withEcUsCm, room) => {
					const targetEcUsCm = withEcUsCm + part * (ecUsCm - withEcUsCm);
					const capacityL = volumeL * room;
					const r = dilute({ volumeL, ecUsCm, targetEcUsCm, withEcUsCm, capacityL });
					if (!r.ok) return false;
					const after = afterAdding(volumeL - r.value.drainL, ecUsCm, r.value.addL, withEcUsCm);
					const full = volumeL - r.value.drainL + r.value.addL;
					return (
						Math.abs(after - targetEcUsCm) < 1e-6 * targetEcUsCm &&
						r.value.drainL >= -1e-9 &&
						full <= capacityL * (1 + 1e-9) &&
						(r.value.drainL < 1e-9 || full > capacityL * (1 - 1e-9))
					);
				},
			),
		);
	});
	it('10 mL/gal in 20 gal is 200 mL of each part (common practice)', () => {
		const gal = 3.785411784;
		const r = nutrientDose({ volumeL: 20 * gal, rateMlPerL: 10 / gal });
		expect(r.ok && r.value.mlEach).toBeCloseTo(200, 6);
		expect(nutrientDose({ volumeL: 100, rateMlPerL: 4, strength: 0.5 })).toMatchObject({ value: { mlEach: 200 } });
	});
	it('towards a target with the learned gain, counting the water’s own EC; a thousandfold slip is refused', () => {
		expect(nutrientDose({ volumeL: 100, targetEcUsCm: 1800, baseEcUsCm: 300, gainUsCmPerMlL: 300 })).toEqual({
			ok: true,
			value: { mlEach: 500, expectedEcUsCm: 1800 },
		});
		expect(nutrientDose({ volumeL: 100, rateMlPerL: 4000 })).toMatchObject({
			ok: false,
			problem: { field: 'rate_ml_per_l' },
		});
		expect(nutrientDose({ volumeL: 100, targetEcUsCm: 200, baseEcUsCm: 300, gainUsCmPerMlL: 300 })).toMatchObject({
			problem: { code: 'water-over-target', ecUsCm: 300 },
		});
		expect(
			learnGain([
				{ mlPerL: 5, ecBeforeUsCm: 300, ecAfterUsCm: 1800 },
				{ mlPerL: 4, ecBeforeUsCm: 300, ecAfterUsCm: 1540 },
				{ mlPerL: 5, ecBeforeUsCm: 300, ecAfterUsCm: 9999 },
			]),
		).toBe(310);
		expect(learnGain([])).toBeNull();
	});
});

describe('control charts of sources', () => {
	// NIST/SEMATECH e-Handbook of Statistical Methods, 6.3.2.2: flow rates of ten batches.
	const NIST = [49.6, 47.6, 49.9, 51.3, 47.8, 51.2, 52.6, 52.4, 53.6, 52.1];
	it('limits of the worked example in the NIST handbook: mean 50.81, moving range 1.8778, 45.8159 to 55.8041', () => {
		const b = baselineOf(NIST)!;
		expect(b.mean).toBeCloseTo(50.81, 10);
		expect(b.meanRange).toBeCloseTo(1.8778, 4);
		expect(b.low).toBeCloseTo(45.8159, 3);
		expect(b.high).toBeCloseTo(55.8041, 3);
	});
	it('run rules one by one, each at its edge', () => {
		const b = { mean: 0, meanRange: 1.128, low: -3, high: 3, from: 20 };
		expect(brokenRules([0, 3.01], b)).toEqual(['beyond-limits']);
		expect(brokenRules([0, 2.99], b)).toEqual([]);
		expect(brokenRules([2.1, 0, 2.1], b)).toEqual(['two-of-three']);
		expect(brokenRules([-2.1, 0, 2.1], b)).toEqual([]);
		expect(brokenRules([1.1, 1.2, 0, 1.1, 1.2], b)).toEqual(['four-of-five']);
		expect(brokenRules([0.1, 0.2, 0.1, 0.3, 0.1, 0.2, 0.1, 0.2, 0.1], b)).toEqual(['nine-one-side']);
		expect(brokenRules([-0.5, -0.3, -0.1, 0.1, 0.3, 0.5], b)).toEqual(['six-trending']);
		expect(brokenRules([-0.5, -0.3, -0.1, 0.1, 0.1, 0.5], b)).toEqual([]);
	});
	const DAY = 86_400_000;
	const series = (seed: number, n: number, shiftAt: number | null) => {
		const chance = seeded(seed);
		return Array.from({ length: n }, (_, i) => ({
			at: i * 7 * DAY,
			value: (shiftAt !== null && i >= shiftAt ? 872 : 780) + 5 * chance.normal(),
		}));
	};
	it('a shift wants a confirming sample first, is confirmed by it, and becomes the new baseline', () => {
		expect(followSource(series(1, 6, null)).wants).toBe('more');
		const first = followSource(series(1, 25, 24));
		expect(first.wants).toBe('confirm');
		expect(first.shifts).toMatchObject([{ confirmed: false, since: 24 * 7 * DAY }]);
		const later = followSource(series(1, 40, 24));
		expect(later.wants).toBe('nothing');
		expect(later.shifts).toMatchObject([{ confirmed: true, since: 24 * 7 * DAY }]);
		expect(later.segments).toHaveLength(2);
		expect(later.segments[1]!.mean).toBeCloseTo(872, -1);
	});
	it('one odd value that does not repeat is no shift', () => {
		const points = series(3, 30, null);
		points[20]!.value = 900;
		expect(followSource(points).shifts.filter((s) => s.confirmed)).toEqual([]);
	});
	it('a steady source rarely asks in vain: under one confirmed shift in ten years of weekly samples', () => {
		let confirmed = 0;
		for (let seed = 100; seed < 120; seed++)
			confirmed += followSource(series(seed, 104, null)).shifts.filter((s) => s.confirmed).length;
		// Forty years in all.
		expect(confirmed).toBeLessThanOrEqual(4);
	});
});

describe('membranes', () => {
	const DAY = 86_400_000;
	const rejection = (d: number) => 0.97 - 0.0004 * d;
	const record = (feedOf: (d: number) => number, rejectOf: (d: number) => number, days = 120) => {
		const chance = seeded(11);
		const list = Array.from({ length: Math.floor(days / 5) }, (_, i) => i * 5);
		const feed = list.map((d) => ({ at: d * DAY, value: feedOf(d) * (1 + 0.01 * chance.normal()) }));
		const permeate = list.map((d, i) => ({
			at: d * DAY + 3_600_000,
			value: feed[i]!.value * (1 - rejectOf(d)) * (1 + 0.02 * chance.normal()),
		}));
		return pairRejection(feed, permeate);
	};
	it('rejection is 1 − permeate/feed, paired in time; what has no feed near it is left out', () => {
		expect(pairRejection([{ at: 0, value: 800 }], [{ at: DAY, value: 40 }])[0]!.rejection).toBeCloseTo(0.95, 12);
		expect(pairRejection([{ at: 0, value: 800 }], [{ at: 5 * DAY, value: 40 }])).toEqual([]);
		expect(
			membraneState(
				record(() => 800, rejection, 20),
				20 * DAY,
			),
		).toEqual({ known: false, reason: 'too-few' });
	});
	it('a display of coarse steps widens the window by what it hides', () => {
		const fine = record(() => 800, rejection);
		const coarse = fine.map((p) => {
			const permeateUsCm = Math.round(p.permeateUsCm / 14) * 14;
			return { ...p, permeateUsCm, rejection: 1 - permeateUsCm / p.feedUsCm };
		});
		const width = (points: typeof fine) => {
			const m = membraneState(points, 120 * DAY);
			if (!m.known || !m.reaches.watch) throw new Error('no date');
			return (m.reaches.watch.late ?? Number.POSITIVE_INFINITY) - m.reaches.watch.early;
		};
		expect(width(coarse)).toBeGreaterThan(1.5 * width(fine));
	});
	it('a tiring membrane gets a window that holds the true date, and is told from a feed that got worse', () => {
		const m = membraneState(
			record(() => 800, rejection),
			120 * DAY,
		);
		if (!m.known || !m.reaches.watch) throw new Error('no date');
		// 0.97 − 0.0004·d = 0.90 at day 175.
		expect(Math.abs(m.reaches.watch.likely / DAY - 175)).toBeLessThan(12);
		expect(m.reaches.watch.early / DAY).toBeLessThanOrEqual(175);
		expect(m.reaches.watch.late === null || m.reaches.watch.late / DAY >= 172).toBe(true);
		expect(m.why).toBe('membrane');
		const feed = membraneState(
			record(
				(d) => 700 + 4 * d,
				() => 0.96,
			),
			120 * DAY,
		);
		expect(feed.known && feed.why).toBe('feed');
		expect(feed.known && feed.grade).toBe('good');
		expect(
			membraneState(
				record(
					() => 800,
					() => 0.85,
				),
				120 * DAY,
			),
		).toMatchObject({ grade: 'watch' });
		expect(
			membraneState(
				record(
					() => 800,
					() => 0.75,
				),
				120 * DAY,
			),
		).toMatchObject({ grade: 'replace' });
	});
});
