import { describe, expect, it } from 'vitest';
import { around, pairFeeds } from '@/core/mix/feedings';
import { readJug } from '@/core/mix/jug';
import { labelRate } from '@/core/mix/label-rate';
import { planTopUp } from '@/core/mix/top-up';
import { schoolAdvice } from '@/core/water/advice';
import { readReportText } from '@/core/water/report-text';
import { DosingTank } from '@/sim/dosing-world';
import { seeded } from '@/sim/random';

/** Facts of the trade (common practice, no source) unless a source is named. */
describe('label rates in their own units', () => {
	it.each([
		['4 mL/L', 4],
		['10 mL/gal', 10 / 3.785411784],
		['10 ml per imp gal', 10 / 4.54609],
		['2 tsp/gal', (2 * 4.92892159) / 3.785411784],
		['1 tbsp per 10 L', 1.478676478],
		['6 drops/L', 0.3],
		['2,5', 2.5],
	])('%s', (text, mlPerL) => {
		const r = labelRate(text);
		expect(r.ok && r.value.perL).toBeCloseTo(mlPerL, 9);
	});
	it('refuses litres for millilitres, unknown measures, and nothing', () => {
		for (const text of ['4 L/L', '10 furlongs/L', '10 mL/barrel', '0 mL/L', 'much'])
			expect(labelRate(text).ok).toBe(false);
		expect(labelRate('6 drops/L')).toMatchObject({ value: { estimate: true } });
	});
});

describe('topping up', () => {
	const plan = (more: Partial<Parameters<typeof planTopUp>[0]> = {}) =>
		planTopUp({ volumeL: 12, ecUsCm: 2000, addL: 2, withEcUsCm: 600, stirred: true, ...more });
	it('EC by mass balance: 12 L of 2000 and 2 L of 600 make 1800', () => {
		expect(plan()).toMatchObject({ ok: true, value: { volumeL: 14, ecUsCm: 1800, feedMlEach: 0 } });
	});
	it('what feed brings it to the target: 100 µS/cm short at 400 per mL/L in 14 L is 3.5 mL', () => {
		expect(plan({ targetEcUsCm: 1900, gainUsCmPerMlL: 400 })).toMatchObject({ value: { feedMlEach: 3.5 } });
		expect(plan({ targetEcUsCm: 1900 })).toMatchObject({ value: { feedMlEach: null } });
	});
	it('2 L into 12 L that cannot be stirred go in parts, with hours between', () => {
		const p = plan({ stirred: false });
		expect(p.ok && p.value.parts.length).toBe(3);
		expect(p.ok && p.value.parts.at(-1)!.ecUsCm).toBeCloseTo(1800, 9);
		expect(p.ok && p.value.waitHours).toBeGreaterThanOrEqual(2);
	});
	it('refuses what runs over, and litres that are not said', () => {
		expect(plan({ capacityL: 13 })).toMatchObject({ ok: false, problem: { field: 'add_l' } });
		expect(plan({ volumeL: 0 })).toMatchObject({ ok: false, problem: { field: 'volume_l' } });
		expect(plan({ addL: -1 })).toMatchObject({ ok: false, problem: { field: 'add_l' } });
	});
});

describe('jug titration', () => {
	const steps = [
		{ ml: 0, ph: 7 },
		{ ml: 0.1, ph: 6.6 },
		{ ml: 0.3, ph: 6.1 },
	];
	it('gives a strength, the buffer over the way, and the mL to a pH in between', () => {
		const r = readJug(steps, 1);
		if (!r.ok) throw new Error(r.problem.code);
		expect(r.value.strengthMeqMl).toBeGreaterThan(0);
		expect(r.value.bufferMeqLPh).toBeCloseTo((r.value.strengthMeqMl * 0.3) / 0.9, 9);
		expect(r.value.mlPerLitreTo(6.35)).toBeCloseTo(0.2, 9);
		expect(r.value.mlPerLitreTo(5)).toBeNull();
	});
	it('shows the true strength of a simulated product within a third, in a solution like the assumed one', () => {
		const tank = new DosingTank(
			{
				volumeL: 1,
				alkalinityMeqL: 1,
				phosphateMmolL: 1,
				ammoniumMmolL: 0,
				tempC: 20,
				productMeqMl: 3,
				startPh: 7,
			},
			seeded(7),
		);
		const noted = [{ ml: 0, ph: tank.ph }];
		for (let n = 1; n <= 4; n++) {
			tank.pour(0.1);
			noted.push({ ml: 0.1 * n, ph: tank.ph });
		}
		const r = readJug(noted, 1);
		expect(r.ok && Math.abs(r.value.strengthMeqMl / 3 - 1)).toBeLessThan(0.33);
	});
	it.each([
		['no first reading', steps.slice(1), 1],
		['hardly moved', [steps[0]!, { ml: 0.1, ph: 6.95 }], 1],
		['went back', [...steps, { ml: 0.4, ph: 6.6 }], 1],
		['no jug', steps, 0],
	] as const)('refuses: %s', (_, list, litres) => {
		expect(readJug(list, litres).ok).toBe(false);
	});
});

describe('feedings read from events and readings', () => {
	const HOUR = 3_600_000;
	const ph = [
		{ at: 0, value: 6.4 },
		{ at: 10 * HOUR, value: 5.9 },
		{ at: 40 * HOUR, value: 6.2 },
	];
	it('takes the readings just before and after, and none across another event or too late', () => {
		expect(around(9 * HOUR, ph, [9 * HOUR])).toMatchObject({ before: 6.4, after: 5.9 });
		expect(around(9 * HOUR, ph, [9 * HOUR, 9.5 * HOUR])).toBeNull();
		expect(around(20 * HOUR, ph, [])).toBeNull();
		expect(
			pairFeeds(
				[{ at: 9 * HOUR, ml: 500, product: 'x' }],
				[
					{ at: 0, value: 300 },
					{ at: 10 * HOUR, value: 1800 },
				],
				[9 * HOUR],
				() => 100,
			),
		).toEqual([{ mlPerL: 5, ecBeforeUsCm: 300, ecAfterUsCm: 1800 }]);
	});
});

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

describe('what the numbers of a source say', () => {
	it('pure water for pure feeds, hard water for a hard-water feed or a blend, and the share of the target used up', () => {
		const fits = (ec: number, alkalinity: number, hardness: number, na = 10) =>
			Object.fromEntries(
				schoolAdvice(
					{ ecUsCm: ec, alkalinityMgLCaco3: alkalinity, hardnessMgLCaco3: hardness, naMgL: na, clMgL: null },
					1800,
				).schools.map((s) => [s.school, s.fits]),
			);
		expect(fits(40, 10, 12)).toEqual({ pure: 'yes', 'hard-water feed': 'no', blend: 'no' });
		expect(fits(780, 210, 290)).toEqual({ pure: 'no', 'hard-water feed': 'yes', blend: 'yes' });
		expect(fits(1500, 210, 290, 150)['hard-water feed']).toBe('no');
		expect(
			schoolAdvice({ ecUsCm: 450, alkalinityMgLCaco3: null, hardnessMgLCaco3: null, naMgL: null, clMgL: null }, 1800)
				.used,
		).toBe(0.25);
	});
});
