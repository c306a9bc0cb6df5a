import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { protonsGiven } from '@/core/chem/acids';
import { activity, phosphatePk2 } from '@/core/chem/activity';
import { carbonateConstants, phOpen, totalCarbonate } from '@/core/chem/carbonate';
import { AERATION } from '@/core/chem/degassing';
import { bufferAt, carbonAfter, heldAt, mediumOf, phOfHeld } from '@/core/chem/solution';
import { phAfterTopUp } from '@/core/mix/top-up-ph';
import { halton, inverseNormal } from '@/core/stats/quasi-normal';
import { acidDemand } from '@/core/water/acid-demand';
import { baseDemand } from '@/core/water/base-demand';

/** Reference values: tests/reference/make_mixing.py (scipy), by full speciation and general solvers. */
const reference = JSON.parse(readFileSync(join(import.meta.dirname, '../../reference/mixing.json'), 'utf8')) as {
	feeds: {
		temp_c: number;
		ec_us_cm: number;
		phosphate: number;
		carbonate: number;
		ph: number;
		to: number;
		takes: number;
	}[];
	degassing: { temp_c: number; alkalinity: number; ph: number; per_hour: number; hours: number; after: number }[];
	top_up: {
		ec_us_cm: number;
		volume: number;
		ph: number;
		phosphate: number;
		add: number;
		water_ph: number;
		water_alkalinity: number;
		water_ec_us_cm: number;
		after: number;
	}[];
};
const MEQ = 50.04;

describe('ions in a feed act as fewer than they are', () => {
	it('activity of a singly charged ion at I = 0.1 mol/L is 0.78 (Davies equation; tables of textbooks, from memory)', () => {
		expect(activity(25, 0.1 / 1.3e-5).gamma1).toBeCloseTo(0.78, 2);
		expect(activity(25, 0).gamma1).toBe(1);
	});
	it('the second pKa of phosphoric acid is about 6.8 at EC 2 mS/cm, 7.2 in thin water', () => {
		expect(phosphatePk2(25, 2000)).toBeCloseTo(6.8, 1);
		expect(phosphatePk2(25)).toBe(7.198);
	});
	it('thin waters have the constants of Plummer and Busenberg (1982) as they stand: pK1 6.352 at 25 °C', () => {
		expect(-Math.log10(carbonateConstants(25).k1)).toBeCloseTo(6.352, 3);
		expect(-Math.log10(carbonateConstants(25, 2000).k1)).toBeCloseTo(6.28, 1);
	});
	it('what feeds take from one pH to another agrees with full speciation within 14 %; thin constants are up to half short', () => {
		const off = (ecOf: (f: (typeof reference.feeds)[0]) => number) =>
			reference.feeds.map((f) => {
				const m = mediumOf(f.temp_c, ecOf(f));
				const takes = heldAt(f.ph, f.carbonate, f.phosphate, m) - heldAt(f.to, f.carbonate, f.phosphate, m);
				return Math.abs(takes / f.takes - 1);
			});
		expect(reference.feeds).toHaveLength(15);
		expect(Math.max(...off((f) => f.ec_us_cm))).toBeLessThan(0.14);
		expect(Math.max(...off(() => 0))).toBeGreaterThan(0.4);
	});
	it('phosphoric acid gives more protons at pH 6.5 in a feed than in thin water; citric too', () => {
		expect(protonsGiven('phosphoric', 6.5, 25, 2000)).toBeGreaterThan(protonsGiven('phosphoric', 6.5) + 0.1);
		expect(protonsGiven('citric', 5.8, 25, 2000)).toBeGreaterThan(protonsGiven('citric', 5.8));
		expect(protonsGiven('nitric', 5.8, 25, 2000)).toBe(1);
	});
});

describe('a solution of two buffers', () => {
	const m = mediumOf(20, 1800);
	it('pH from what is held is the inverse of what is held at a pH (property)', () => {
		const number = (min: number, max: number) => fc.double({ min, max, noNaN: true });
		fc.assert(
			fc.property(number(3, 10), number(0, 8), number(0, 4), number(2, 12), (ph, c, p, guess) => {
				return Math.abs(phOfHeld(heldAt(ph, c, p, m), c, p, m, guess) - ph) < 1e-3;
			}),
		);
	});
	it('the buffer capacity is the slope of what is held', () => {
		for (const ph of [4.5, 5.8, 6.3, 7.5, 9]) {
			const slope = (heldAt(ph + 1e-4, 2, 1, m) - heldAt(ph - 1e-4, 2, 1, m)) / 2e-4;
			expect(bufferAt(ph, 2, 1, m) / slope).toBeCloseTo(1, 5);
		}
	});
	it('the loss of carbon dioxide agrees with a general solver of differential equations', () => {
		for (const r of reference.degassing) {
			const thin = mediumOf(r.temp_c, 0);
			const alkalinity = r.alkalinity / MEQ;
			const total = totalCarbonate(alkalinity, r.ph, thin.c)!;
			const after = carbonAfter(r.hours, r.per_hour, alkalinity, total, 0, thin, r.ph);
			expect(Math.abs(after.ph - r.after)).toBeLessThan(0.03);
		}
	});
	it('nothing leaves at once, everything in the end: the equilibrium with air', () => {
		const thin = mediumOf(20, 0);
		const total = totalCarbonate(0.68, 5.8, thin.c)!;
		const left = (hours: number) => carbonAfter(hours, AERATION['air stone'].perHour, 0.68, total, 0, thin, 5.8).ph;
		expect(left(0)).toBeCloseTo(5.8, 4);
		expect(left(500)).toBeCloseTo(phOpen(0.68, 420, thin.c), 2);
	});
});

describe('the pH of a top-up', () => {
	it('agrees with full speciation of feed and water within 0.05, where it was 0.17 to 0.19 high', () => {
		expect(reference.top_up).toHaveLength(5);
		for (const r of reference.top_up) {
			const t = phAfterTopUp({
				volumeL: r.volume,
				ph: r.ph,
				ecUsCm: r.ec_us_cm,
				phosphateMmolL: r.phosphate,
				addL: r.add,
				water: { ph: r.water_ph, alkalinityMeqL: r.water_alkalinity / MEQ, ecUsCm: r.water_ec_us_cm },
			})!;
			expect(Math.abs(t.ph - r.after)).toBeLessThan(0.05);
			expect(t.low).toBeLessThanOrEqual(r.after + 0.01);
			expect(t.high).toBeGreaterThanOrEqual(r.after - 0.01);
			expect(t.aerated).toBeGreaterThanOrEqual(t.ph - 0.01);
		}
	});
	it('soft water hardly moves a tank, alkaline water lifts it, more phosphate holds it', () => {
		const t = (alkalinityMeqL: number, phosphateMmolL = 1) =>
			phAfterTopUp({
				volumeL: 90,
				ph: 5.8,
				ecUsCm: 1800,
				phosphateMmolL,
				addL: 10,
				water: { ph: 7, alkalinityMeqL, ecUsCm: 300 },
			})!.ph;
		expect(t(0.1)).toBeLessThan(5.95);
		expect(t(4)).toBeGreaterThan(t(2));
		expect(t(4, 2)).toBeLessThan(t(4, 0.5));
	});
});

describe('a pH and an alkalinity that contradict each other (implied carbon dioxide; common practice)', () => {
	const water = { tempC: 20, volumeL: 1000 };
	it('pH 5.5 with the 150 mg/L of the well is no answer of 41 g of potassium hydroxide', () => {
		const b = baseDemand({
			...water,
			ph: 5.5,
			alkalinityMgLCaco3: 150,
			targetPh: 5.8,
			base: { kind: 'potassium hydroxide', percentWw: 100 },
		});
		expect(b).toMatchObject({ ok: false, problem: { field: 'alkalinity_mg_l_caco3' } });
		const acid = { kind: 'nitric', percentWw: 38, densityGMl: 1.24 } as const;
		expect(acidDemand({ ...water, ph: 5.6, alkalinityMgLCaco3: 150, targetPh: 5.5, acid })).toMatchObject({
			ok: false,
		});
	});
	it('less than a tenth of the air’s carbon dioxide is asked about, an ordinary water is not', () => {
		const acid = { kind: 'nitric', percentWw: 38, densityGMl: 1.24 } as const;
		const odd = acidDemand({ ...water, ph: 9.9, alkalinityMgLCaco3: 150, targetPh: 6, acid });
		expect(odd.ok && odd.value.cautions[0]).toEqual({ code: 'hardly-any-carbon-dioxide', ph: 9.9 });
		const usual = acidDemand({ ...water, ph: 7.8, alkalinityMgLCaco3: 150, targetPh: 6, acid });
		expect(usual.ok && usual.value.cautions.map((c) => c.code)).not.toContain('hardly-any-carbon-dioxide');
	});
});

describe('even numbers', () => {
	it('Halton’s sequence in base 2 begins 1/2, 1/4, 3/4, 1/8 (Halton 1960)', () => {
		expect([1, 2, 3, 4].map((n) => halton(n, 2))).toEqual([0.5, 0.25, 0.75, 0.125]);
		expect(halton(1, 3)).toBeCloseTo(1 / 3, 12);
	});
	it('deviates of the normal: 1.960 below 97.5 %, 0 in the middle, −2.326 below 1 % (tables)', () => {
		expect(inverseNormal(0.975)).toBeCloseTo(1.96, 3);
		expect(inverseNormal(0.5)).toBeCloseTo(0, 3);
		expect(inverseNormal(0.01)).toBeCloseTo(-2.3263, 3);
	});
});
