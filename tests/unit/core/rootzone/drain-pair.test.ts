import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { drainPair } from '@/core/rootzone/drain-pair';
import { remarkWords } from '@/words/en/remark';

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
