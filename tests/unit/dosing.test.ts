import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readJug } from '@/core/mix/jug';
import { labelRate } from '@/core/mix/label-rate';
import { around, pairDoses, pairFeeds } from '@/core/mix/pair-doses';
import { adviseDose, type DoseQuestion, type PastDose, responseChanged } from '@/core/mix/response';
import { planTopUp } from '@/core/mix/top-up';
import { schoolAdvice } from '@/core/water/advice';
import { readReportText } from '@/core/water/report-text';
import { DosingTank } from '@/sim/dosing-world';
import { seeded } from '@/sim/random';

/** Facts of the trade (common practice, no source) unless a source is named. */
const ask = (more: Partial<DoseQuestion> = {}) =>
	adviseDose({ solution: { volumeL: 100 }, ph: 6.8, targetPh: 5.8, past: [], strengthMeqMl: 4, kind: 'acid', ...more });

const tankOf = (seed: number, more: Partial<ConstructorParameters<typeof DosingTank>[0]> = {}) =>
	new DosingTank(
		{
			volumeL: 100,
			alkalinityMeqL: 2,
			phosphateMmolL: 1.2,
			ammoniumMmolL: 0.5,
			tempC: 20,
			productMeqMl: 4,
			startPh: 7,
			...more,
		},
		seeded(seed),
	);

/** Doses until on target; what they did is added to the past. */
function dose(tank: DosingTank, past: PastDose[], strengthMeqMl = 4): { doses: number; lowest: number } {
	let lowest = tank.ph;
	for (let doses = 0; doses < 12; doses++) {
		const before = tank.measure();
		const a = ask({ ph: before, past, strengthMeqMl, tolerance: 0.07 });
		if (a.do !== 'dose') return { doses, lowest };
		tank.pour(a.ml);
		lowest = Math.min(lowest, tank.ph);
		past.push({ volumeL: 100, ml: a.ml, phBefore: before, phAfter: tank.measure() });
	}
	return { doses: 12, lowest };
}

describe('the next dose', () => {
	it('the first step is at most 0.1 meq/L, whatever the way', () => {
		const a = ask({ ph: 7.5 });
		if (a.do !== 'dose') throw new Error(a.message);
		expect((a.ml * 4) / 100).toBeLessThanOrEqual(0.1 + 1e-9);
		expect(a.predictedPh).toBeGreaterThan(5.8);
	});
	it('a product of unknown strength gets no volume, a doubtful reading no dose, a tank without litres none', () => {
		expect(ask({ strengthMeqMl: null }).do).toBe('titrate');
		expect(ask({ doubtful: 'It jumps.' })).toMatchObject({ do: 'refuse' });
		expect(ask({ solution: { volumeL: 0 } }).do).toBe('refuse');
		expect(ask({ ph: 5.82 }).do).toBe('nothing');
		expect(ask({ ph: 5.2 })).toMatchObject({ do: 'refuse' });
		expect(ask({ ph: 5.2, kind: 'base' }).do).toBe('dose');
		expect(ask({ targetPh: 1 }).do).toBe('refuse');
	});
	it('same water, same volume, same start: later batches take fewer doses and never go far below', () => {
		for (const seed of [1, 2, 3, 4, 5]) {
			const past: PastDose[] = [];
			const runs = Array.from({ length: 4 }, (_, n) => dose(tankOf(seed * 10 + n), past));
			expect(runs[3]!.doses).toBeLessThanOrEqual(3);
			expect(Math.min(...runs.map((r) => r.lowest))).toBeGreaterThan(5.65);
		}
	});
	it('half a teaspoon in a gallon of plain well water went from 7.5 to 5.1: no advice ever jumps like that', () => {
		// 2.46 mL in 3.79 L; the first advised step of a product of that strength is far below it.
		const a = ask({ solution: { volumeL: 3.785 }, ph: 7.5, strengthMeqMl: 1.5 });
		if (a.do !== 'dose') throw new Error(a.message);
		expect(a.ml).toBeLessThan(2.46 / 5);
		expect(a.low).toBeGreaterThan(5.1);
	});
	it('never more than twice what earlier doses have shown a step of pH to take', () => {
		const past = [1, 2, 3].map(() => ({ volumeL: 100, ml: 10, phBefore: 6.6, phAfter: 6.1 }));
		const a = ask({ ph: 6.6, targetPh: 6.1, past, strengthMeqMl: 0.5 });
		expect(a.do === 'dose' && a.ml).toBeLessThanOrEqual(20);
	});
	it('notices a bottle that is three times as strong, and not an ordinary dose', () => {
		const past: PastDose[] = [];
		for (let n = 0; n < 4; n++) dose(tankOf(n + 50), past);
		expect(responseChanged(past, { volumeL: 100 }, 4)).toBeNull();
		const strong = tankOf(99, { productMeqMl: 12, startPh: 6.8 });
		const before = strong.measure();
		strong.pour(8);
		const changed = responseChanged(
			[...past, { volumeL: 100, ml: 8, phBefore: before, phAfter: strong.measure() }],
			{ volumeL: 100 },
			4,
		);
		expect(changed?.factor).toBeGreaterThan(2);
	});
	it('is finite, positive and on the way for any past (property)', () => {
		const number = (min: number, max: number) => fc.double({ min, max, noNaN: true });
		fc.assert(
			fc.property(
				fc.array(
					fc.record({ volumeL: number(1, 3000), ml: number(0, 500), phBefore: number(4, 9), phAfter: number(4, 9) }),
					{ maxLength: 12 },
				),
				number(5.9, 8.5),
				number(0.05, 12),
				(past, ph, strengthMeqMl) => {
					const a = ask({ past, ph, strengthMeqMl });
					if (a.do !== 'dose') return a.do === 'nothing' || a.do === 'refuse';
					return (
						Number.isFinite(a.ml) &&
						a.ml >= 0 &&
						a.predictedPh <= ph + 1e-6 &&
						a.low <= a.predictedPh + 1e-6 &&
						a.high >= a.predictedPh - 1e-6
					);
				},
			),
		);
	});
});

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
		expect(r.ok && r.perL).toBeCloseTo(mlPerL, 9);
	});
	it('refuses litres for millilitres, unknown measures, and nothing', () => {
		for (const text of ['4 L/L', '10 furlongs/L', '10 mL/barrel', '0 mL/L', 'much'])
			expect(labelRate(text).ok).toBe(false);
		expect(labelRate('6 drops/L')).toMatchObject({ estimate: true });
	});
});

describe('topping up', () => {
	const plan = (more: Partial<Parameters<typeof planTopUp>[0]> = {}) =>
		planTopUp({ volumeL: 12, ecUsCm: 2000, addL: 2, withEcUsCm: 600, stirred: true, ...more });
	it('EC by mass balance: 12 L of 2000 and 2 L of 600 make 1800', () => {
		expect(plan()).toMatchObject({ ok: true, volumeL: 14, ecUsCm: 1800, feedMlEach: 0 });
	});
	it('what feed brings it to the target: 100 µS/cm short at 400 per mL/L in 14 L is 3.5 mL', () => {
		expect(plan({ targetEcUsCm: 1900, gainUsCmPerMlL: 400 })).toMatchObject({ feedMlEach: 3.5 });
		expect(plan({ targetEcUsCm: 1900 })).toMatchObject({ feedMlEach: null });
	});
	it('2 L into 12 L that cannot be stirred go in parts, with hours between', () => {
		const p = plan({ stirred: false });
		expect(p.ok && p.parts.length).toBe(3);
		expect(p.ok && p.parts.at(-1)!.ecUsCm).toBeCloseTo(1800, 9);
		expect(p.ok && p.waitHours).toBeGreaterThanOrEqual(2);
	});
	it('refuses what runs over, and litres that are not said', () => {
		expect(plan({ capacityL: 13 })).toMatchObject({ ok: false, field: 'add_l' });
		expect(plan({ volumeL: 0 })).toMatchObject({ ok: false, field: 'volume_l' });
		expect(plan({ addL: -1 })).toMatchObject({ ok: false, field: 'add_l' });
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
		if (!r.ok) throw new Error(r.message);
		expect(r.strengthMeqMl).toBeGreaterThan(0);
		expect(r.bufferMeqLPh).toBeCloseTo((r.strengthMeqMl * 0.3) / 0.9, 9);
		expect(r.mlPerLitreTo(6.35)).toBeCloseTo(0.2, 9);
		expect(r.mlPerLitreTo(5)).toBeNull();
	});
	it('shows the true strength of a simulated product within a third, in a solution like the assumed one', () => {
		const tank = tankOf(7, {
			volumeL: 1,
			alkalinityMeqL: 1,
			phosphateMmolL: 1,
			ammoniumMmolL: 0,
			productMeqMl: 3,
			startPh: 7,
		});
		const noted = [{ ml: 0, ph: tank.ph }];
		for (let n = 1; n <= 4; n++) {
			tank.pour(0.1);
			noted.push({ ml: 0.1 * n, ph: tank.ph });
		}
		const r = readJug(noted, 1);
		expect(r.ok && Math.abs(r.strengthMeqMl / 3 - 1)).toBeLessThan(0.33);
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

describe('doses read from events and readings', () => {
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
		expect(pairDoses([{ at: 9 * HOUR, ml: 30, product: 'x' }], ph, [9 * HOUR], () => 100)).toMatchObject([
			{ ml: 30, phBefore: 6.4, phAfter: 5.9, volumeL: 100 },
		]);
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
		expect(r.ions.hco3_mg_l).toBeCloseTo(61.017, 3);
		expect(r.ions.so4_mg_l).toBeCloseTo(96.06, 2);
		expect([r.ecUsCm, r.ph, r.boronMgL, r.problems]).toEqual([780, 7.4, 0.05, []]);
		expect(readReportText('bicarbonate 2.804 dKH').ions.hco3_mg_l).toBeCloseTo(61.017, 3);
	});
	it('says line by line what it does not understand', () => {
		const r = readReportText('Ca 80 furlongs\npotatoes 3\nnonsense\nNa -4');
		expect(r.problems.map((p) => p.line)).toEqual([1, 2, 3, 4]);
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
