import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { BASE_KINDS, BASES, type BaseKind } from '@/core/chem/acids';
import { alkalinityClosed, carbonateConstants, totalCarbonate } from '@/core/chem/carbonate';
import { rangesFor } from '@/core/crop/presets';
import { batchCourse, type CoursePlan, type CourseStep } from '@/core/mix/batch-course';
import { bottleRemarks, leftOf } from '@/core/mix/bottle';
import { batchFigures, compareBatches, gainOf } from '@/core/mix/compare-batches';
import { feedings, isPart, litresAt, pairFeeds } from '@/core/mix/feedings';
import { inLabelMeasure, labelRate } from '@/core/mix/label-rate';
import { STAGES } from '@/core/mix/strength';
import { planTopUp } from '@/core/mix/top-up';
import { drainPair } from '@/core/rootzone/drain-pair';
import { acidDemand } from '@/core/water/acid-demand';
import { type BaseInput, baseDemand } from '@/core/water/base-demand';
import { remarkWords } from '@/words/en/remark';

/** Reference values: tests/reference/make_mixing.py (scipy). Facts of the trade: common practice, no source, unless said otherwise. */
const reference = JSON.parse(readFileSync(join(import.meta.dirname, '../../reference/mixing.json'), 'utf8')) as {
	bases: {
		kind: BaseKind;
		temp_c: number;
		alkalinity: number;
		ph: number;
		target: number;
		mmol: number;
		g_1000_l: number;
	}[];
};
const MEQ = 50.04;

describe('base demand', () => {
	const base = (more: Partial<BaseInput> = {}) =>
		baseDemand({
			ph: 5.5,
			alkalinityMgLCaco3: 20,
			targetPh: 6.5,
			tempC: 20,
			volumeL: 1000,
			base: { kind: 'potassium hydroxide', percentWw: 100 },
			...more,
		});
	it('agrees with the full charge balance for every base and water of the reference', () => {
		expect(reference.bases).toHaveLength(16);
		for (const r of reference.bases) {
			const b = base({
				ph: r.ph,
				alkalinityMgLCaco3: r.alkalinity,
				targetPh: r.target,
				tempC: r.temp_c,
				base: { kind: r.kind, percentWw: 100 },
			});
			if (!b.ok) throw new Error(b.problem.code);
			expect(b.value.mmolPerL / r.mmol).toBeCloseTo(1, 5);
			expect(b.value.gTotal! / r.g_1000_l).toBeCloseTo(1, 4);
		}
	});
	it('bicarbonate lifts less the nearer it comes to pH 8.3, and never beyond', () => {
		const of = (targetPh: number) =>
			base({ ph: 7, alkalinityMgLCaco3: 100, targetPh, base: { kind: 'sodium bicarbonate', percentWw: 100 } });
		const [a, b] = [of(7.3), of(7.8)];
		if (!a.ok || !b.ok) throw new Error('refused');
		expect(b.value.mmolPerL).toBeGreaterThan(3 * a.value.mmolPerL);
		expect(of(8.3)).toMatchObject({ ok: false, problem: { field: 'target_ph' } });
		expect(a.value.adds.na_mg_l).toBeCloseTo(22.99 * a.value.mmolPerL, 6);
		expect(b.value.cautions.map(remarkWords).join(' ')).toMatch(/sodium/i);
	});
	it('a liquid by its label: 25 % hydroxide at 1.24 g/mL holds 5.53 mol/L', () => {
		const b = base({ base: { kind: 'potassium hydroxide', percentWw: 25, densityGMl: 1.24 } });
		if (!b.ok) throw new Error(b.problem.code);
		expect((b.value.mmolPerL * 1000) / b.value.mlTotal!).toBeCloseTo(5.525, 2);
		expect(b.value.cautions.map(remarkWords).join(' ')).toContain('burns skin');
	});
	it.each([
		['a target below the water', { targetPh: 5 }, 'target_ph'],
		['a target at which iron falls out', { targetPh: 10 }, 'target_ph'],
		['0 %', { base: { kind: 'potassium hydroxide', percentWw: 0 } }, 'base.percent_w_w'],
		['boiling water', { tempC: 99 }, 'temp_c'],
	] as const)('refuses %s', (_, more, field) => {
		expect(base(more as Partial<BaseInput>)).toMatchObject({ ok: false, problem: { field } });
	});
	it('whatever the base, the water has the target pH afterwards (property)', () => {
		fc.assert(
			fc.property(
				fc.constantFrom(...BASE_KINDS),
				fc.double({ min: 5, max: 7, noNaN: true }),
				fc.double({ min: 0.2, max: 1, noNaN: true }),
				fc.double({ min: 1, max: 250, noNaN: true }),
				(kind, ph, step, alkalinityMgLCaco3) => {
					const r = base({ ph, alkalinityMgLCaco3, targetPh: ph + step, base: { kind, percentWw: 100 } });
					// Refused: what bicarbonate does not reach, and a pH that contradicts the alkalinity.
					if (!r.ok)
						return r.problem.field === 'alkalinity_mg_l_caco3'
							? ph < 6.5
							: kind.endsWith('bicarbonate') && ph + step > 7.8;
					const c = carbonateConstants(20);
					const total = totalCarbonate(alkalinityMgLCaco3 / MEQ, ph, c)! + BASES[kind].carbon * r.value.mmolPerL;
					return Math.abs(alkalinityClosed(ph + step, total, c) - r.value.alkalinityMgLCaco3 / MEQ) < 1e-6;
				},
			),
		);
	});
});

describe('the next day after acid', () => {
	it('the next day stands between the target and the end, and further along where it is moved', () => {
		const r = acidDemand({
			ph: 7.8,
			alkalinityMgLCaco3: 150,
			targetPh: 5.8,
			tempC: 20,
			volumeL: 100,
			acid: { kind: 'nitric', percentWw: 38, densityGMl: 1.24 },
		});
		if (!r.ok) throw new Error(r.problem.code);
		expect(r.value.phNextDay.still).toBeGreaterThan(5.8);
		expect(r.value.phNextDay.moved).toBeGreaterThan(r.value.phNextDay.still);
		expect(r.value.phNextDay.moved).toBeLessThanOrEqual(r.value.phAfterDegassing + 0.01);
	});
});

describe('a top-up down to its target', () => {
	it('says how much of this water alone lands on the target, where it fits', () => {
		const plan = (capacityL: number) =>
			planTopUp({
				volumeL: 100,
				ecUsCm: 2200,
				addL: 5,
				withEcUsCm: 200,
				targetEcUsCm: 2000,
				capacityL,
				stirred: true,
			});
		const toTarget = (capacityL: number) => {
			const p = plan(capacityL);
			return p.ok ? p.value.toTarget! : null;
		};
		// 100·(2200 − 2000)/(2000 − 200) = 11.1 L; where only 110 L fit, 110·200/2000 = 11 L go in after 1 L was drained.
		expect(toTarget(120)).toEqual({ drainL: 0, addL: expect.closeTo(11.11, 2) });
		expect(toTarget(110)).toEqual({ drainL: expect.closeTo(1, 6), addL: expect.closeTo(11, 6) });
	});
});

describe('parts and powders', () => {
	it('A and B poured one after the other are one feeding of each; a note of another kind is so much of each', () => {
		const M = 60_000;
		const list = feedings([
			{ at: 0, ml: 200, product: 'f', note: 'part A' },
			{ at: 5 * M, ml: 200, product: 'f', note: 'part B' },
			{ at: 500 * M, ml: 30, product: 'f', note: '' },
			{ at: 510 * M, ml: 40, product: 'f', note: 'a little more' },
		]);
		expect(list.map((f) => [f.ml, f.parts.length])).toEqual([
			[200, 2],
			[30, 1],
			[40, 1],
		]);
		expect([isPart('part A'), isPart('part of the tank'), isPart(undefined)]).toEqual([true, false, false]);
		// 10 mL/gal in 20 gal is 200 mL of each part (common practice): 75.7 L, EC from 300 to 1400.
		const gains = pairFeeds(
			[
				{ at: 10 * M, ml: 200, product: 'f', note: 'part A' },
				{ at: 15 * M, ml: 200, product: 'f', note: 'part B' },
			],
			[
				{ at: 0, value: 300 },
				{ at: 40 * M, value: 1400 },
			],
			[10 * M, 15 * M],
			() => 75.7,
		);
		expect(gains).toEqual([{ mlPerL: 200 / 75.7, ecBeforeUsCm: 300, ecAfterUsCm: 1400 }]);
	});
	it('litres at a dose are those of its own filling, with what was added and drained since', () => {
		const H = 3_600_000;
		const fillings = [
			{ at: 0, kind: 'solution_changed' as const, litres: 800 },
			{ at: H, kind: 'drained' as const, litres: 100 },
			{ at: 2 * H, kind: 'water_added' as const, litres: 130 },
		];
		expect([0.5, 1.5, 3].map((h) => litresAt(fillings, h * H, 1000))).toEqual([800, 700, 830]);
		// Days later plants have drunk from it: it is taken for full.
		expect(litresAt(fillings, 60 * H, 1000)).toBe(1000);
		expect(litresAt([], 5, 1000)).toBe(1000);
		expect(litresAt([{ at: 0, kind: 'solution_changed', litres: null }], H, 1000)).toBe(1000);
	});
	it.each([
		['1.5 g/L', 1.5, 'g'],
		['1 oz per 10 gal', 28.349523125 / 37.85411784, 'g'],
		['2 tsp/gal', (2 * 4.92892159) / 3.785411784, 'mL'],
		['1 fl oz/gal', 29.5735295625 / 3.785411784, 'mL'],
		['3 mL per 500 mL', 6, 'mL'],
	] as const)('%s', (text, perL, unit) => {
		const r = labelRate(text);
		expect(r.ok && [r.value.perL, r.value.unit]).toEqual([expect.closeTo(perL, 9), unit]);
	});
	it('shows an amount as the label measures it', () => {
		// 2 tsp/gal in 40 L: 21.1 teaspoons.
		const r = labelRate('2 tsp/gal');
		expect(r.ok && inLabelMeasure(r.value.perL * 40, '2 tsp/gal')).toBe('21.1 tsp');
		expect(inLabelMeasure(104, '4 mL/L')).toBeNull();
		expect(inLabelMeasure(104, 'as you like')).toBeNull();
	});
	it('seedlings light, rising through growth; easing before harvest is offered and called contested', () => {
		const s = STAGES;
		expect(s.seedling.share).toBeLessThan(s.growing.share);
		// The same half as the range of a crop’s EC takes for them.
		expect(rangesFor('lettuce', 'seedling').ec[1] / rangesFor('lettuce', 'growing').ec[1]).toBe(s.seedling.share);
		expect(s.growing.share).toBeLessThan(s.full.share);
		expect(s.easing.words).toContain('contested');
	});
});

describe('bottles', () => {
	const bottle = {
		unit: 'mL' as const,
		parts: 2,
		stock: 1000,
		opened: '2026-01-10',
		keepsDays: 100,
		expires: '2026-07-20',
	};
	it('counts down: a part poured alone is its share of a feeding, litres are litres, grams are not millilitres', () => {
		const poured = [
			{ amount: 200, unit: 'mL', note: 'part A' },
			{ amount: 200, unit: 'mL', note: 'part B' },
			{ amount: 0.1, unit: 'L', note: '' },
			{ amount: 50, unit: 'g', note: '' },
		];
		expect(leftOf(bottle, poured)).toBe(700);
		expect(leftOf({ ...bottle, stock: null }, poured)).toBeNull();
		expect(leftOf({ ...bottle, unit: 'g', parts: 1 }, poured)).toBe(950);
	});
	it('says what is open too long, about to expire, expired, low, or empty, and nothing of a good one', () => {
		const words = (today: string, left = 700) => bottleRemarks(bottle, left, today).map(remarkWords).join(' ');
		expect(words('2026-03-01')).toBe('');
		expect(words('2026-05-01')).toContain('Open for 111 days; it keeps 100');
		expect(words('2026-07-10')).toContain('expires on 2026-07-20');
		expect(words('2026-07-21')).toContain('It expired');
		expect(words('2026-03-01', 100)).toContain('100 mL left');
		expect(words('2026-03-01', -5)).toContain('count it again');
	});
});

describe('a batch goes on from its log', () => {
	const plan: CoursePlan = { parts: 2, targetEcUsCm: 1900, expectedEcUsCm: 1890 };
	const step = (s: string, measured: number | null = null, expected: number | null = null): CourseStep => ({
		step: s,
		measured,
		expected,
	});
	const parts = [step('part'), step('part')];
	it('parts, EC, pH last', () => {
		expect(batchCourse(plan, [])).toMatchObject({ phase: 'parts', part: 0, expectedEcUsCm: 1890 });
		expect(batchCourse(plan, [step('part')])).toMatchObject({ phase: 'parts', part: 1 });
		expect(batchCourse(plan, parts)).toMatchObject({ phase: 'ec', seenEcUsCm: null });
		expect(batchCourse(plan, [...parts, step('ec', 1920)])).toMatchObject({ phase: 'ph', phRead: false });
		expect(batchCourse(plan, [...parts, step('ec', 1920), step('ph', 6.6)])).toMatchObject({ phRead: true });
		expect(batchCourse(plan, [...parts, step('ec', 1920), step('done')])).toMatchObject({ phase: 'done' });
	});
	it('an EC off the target waits for a correction, or for a word that it may stay', () => {
		const high = [...parts, step('ec', 2100)];
		expect(batchCourse(plan, high)).toMatchObject({ phase: 'ec', seenEcUsCm: 2100 });
		expect(batchCourse(plan, [...high, step('diluted', null, 1900)])).toMatchObject({
			phase: 'ec',
			seenEcUsCm: null,
			expectedEcUsCm: 1900,
		});
		expect(batchCourse(plan, [...high, step('next')])).toMatchObject({ phase: 'ph' });
	});
	it('the other school: pH of the water, feed, EC, and pH once more', () => {
		const first = { ...plan, phFirst: true };
		expect(batchCourse(first, [])).toMatchObject({ phase: 'water-ph', phRead: false });
		const set = [step('ph', 7.4), step('dosed'), step('ph', 6.2), step('next')];
		expect(batchCourse(first, set)).toMatchObject({ phase: 'parts', phRead: false });
		expect(batchCourse(first, [...set, ...parts, step('ec', 1890)])).toMatchObject({ phase: 'ph', phRead: false });
	});
	it('without a target any EC is right', () => {
		expect(batchCourse({ parts: 1, targetEcUsCm: null }, [step('part'), step('ec', 400)])).toMatchObject({
			phase: 'ph',
		});
	});
});

describe('batches held against each other', () => {
	const plan = { litres: 1000, waterEcUsCm: 780, mlPerL: 2.67 };
	const log = (ec: number, doses: number[], ph: number) => [
		{ at: 0, step: 'ec', measured: ec },
		...doses.map((amount) => ({ at: 0, step: 'dosed', measured: null, amount })),
		{ at: 0, step: 'ph', measured: ph },
	];
	const a = batchFigures(plan, log(1900, [400, 300], 5.8), 0, 3_600_000);
	it('figures: gain of the feed, product for each litre, minutes', () => {
		// (1900 − 780)/2.67 = 419.5.
		expect(gainOf(a)).toBeCloseTo(419.5, 1);
		expect(a).toMatchObject({ doses: 2, dosedMlPerL: 0.7, minutes: 60, lastPh: 5.8 });
		expect(gainOf({ ...a, feedPerL: 0 })).toBeNull();
	});
	it('tells water, feed, gain, EC, dose and pH that differ, and nothing that a dipstick cannot tell', () => {
		const of = (b: typeof a) => compareBatches(a, b).map((d) => d.of);
		expect(of({ ...a, firstEcUsCm: 1920, lastEcUsCm: 1920, lastPh: 5.84, dosedMlPerL: 0.75 })).toEqual([]);
		expect(of({ ...a, waterEcUsCm: 870, feedPerL: 2.46 })).toEqual(['water', 'feed']);
		expect(of({ ...a, firstEcUsCm: 1700, lastEcUsCm: 1700 })).toEqual(['gain', 'ec']);
		expect(of({ ...a, dosedMlPerL: 1, lastPh: 6.1 })).toEqual(['dosed', 'ph']);
	});
});

describe('drain against feed', () => {
	const pair = (more: Partial<Parameters<typeof drainPair>[0]> = {}) =>
		drainPair({ appliedL: 100, drainedL: 30, feedEcUsCm: 1400, drainEcUsCm: 1600, ...more });
	const given = (p: ReturnType<typeof drainPair>) => {
		if (!p.ok) throw new Error(p.problem.code);
		return p;
	};
	it('leaching fraction and what the plants took: (1400·100 − 1600·30)/70', () => {
		const p = given(pair());
		expect([p.value.leachingFraction, p.value.ecDeltaUsCm, p.value.verdict]).toEqual([0.3, 200, 'good']);
		expect(p.value.uptakeEcUsCm).toBeCloseTo(1314.29, 2);
	});
	it('salt is conserved (property)', () => {
		const n = fc.double({ min: 1, max: 5000, noNaN: true });
		fc.assert(
			fc.property(
				n,
				fc.double({ min: 0, max: 0.95, noNaN: true }),
				n,
				n,
				(appliedL, share, feedEcUsCm, drainEcUsCm) => {
					const p = given(drainPair({ appliedL, drainedL: share * appliedL, feedEcUsCm, drainEcUsCm }));
					const taken = appliedL * (1 - share);
					return (
						Math.abs(p.value.uptakeEcUsCm! * taken + drainEcUsCm * share * appliedL - feedEcUsCm * appliedL) <
						1e-6 * feedEcUsCm * appliedL + 1e-6 * drainEcUsCm * appliedL
					);
				},
			),
		);
	});
	it('limits by school, at the edge', () => {
		const verdict = (rise: number, preset?: 'tight' | 'usual' | 'loose') =>
			given(pair({ drainEcUsCm: 1400 + rise, preset })).value.verdict;
		expect([verdict(500), verdict(501), verdict(1001)]).toEqual(['good', 'watch', 'act']);
		expect([verdict(200, 'tight'), verdict(201, 'tight'), verdict(501, 'tight')]).toEqual(['good', 'watch', 'act']);
		expect([verdict(1000, 'loose'), verdict(2001, 'loose')]).toEqual(['good', 'act']);
	});
	it('more often first, then to drain, then weaker feed, then flush', () => {
		const { actions } = given(pair({ drainedL: 3, drainEcUsCm: 3000 })).value;
		expect(actions.map((a) => a.code)).toEqual(['hardly-any-drain', 'run-until-drain', 'feed-weaker', 'flush']);
	});
	it('falling pH with steady EC: look at the roots; with rising EC: the salt first', () => {
		const words = (drainEcUsCm: number) =>
			given(pair({ feedPh: 5.8, drainPh: 5.3, drainEcUsCm }))
				.value.actions.map(remarkWords)
				.join(' ');
		expect(words(1450)).toContain('look at the roots');
		expect(words(2500)).toContain('Bring the salt down first');
	});
	it('more drained than given is refused; more salt out than in is called a bad measurement', () => {
		expect(pair({ drainedL: 120 })).toMatchObject({ ok: false, problem: { field: 'drained_l' } });
		expect(given(pair({ drainedL: 90, drainEcUsCm: 3000 }))).toMatchObject({ value: { verdict: 'check' } });
		expect(given(pair({ drainedL: 100 })).value.uptakeEcUsCm).toBeNull();
	});
});
