import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { BASE_KINDS, BASES } from '@/core/chem/acids';
import { alkalinityClosed, carbonateConstants, totalCarbonate } from '@/core/chem/carbonate';
import { acidDemand } from '@/core/water/acid-demand';
import { type BaseInput, baseDemand } from '@/core/water/base-demand';
import { remarkWords } from '@/words/en/remark';
import { MEQ, reference } from '../../../helpers/mixing-reference';

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
