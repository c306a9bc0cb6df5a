import { describe, expect, it } from 'vitest';
import { paceChange, pettitt } from '@/core/trend/pace';
import { seeded } from '@/sim/random';
import reference from '../../../reference/trend.json';

const DAY = 86_400_000;

describe('the test of Pettitt (1979)', () => {
	it.each(reference.pettitt)('as its definition by ranks has it (case %#)', (r) => {
		const found = pettitt(r.values)!;
		expect([found.k, found.after]).toEqual([r.k, r.after]);
		expect(found.p).toBeCloseTo(r.p, 12);
	});
	it('says nothing of a single value', () => expect(pettitt([1])).toBeNull());
});

describe('a change of pace', () => {
	/** A pH that is brought back every fourth day. */
	const series = (paces: readonly number[], c = seeded(3)) => {
		let value = 5.6;
		const cuts: number[] = [];
		const points = paces.map((pace, i) => {
			if (i % 4 === 0 && i > 0) {
				cuts.push(i * DAY - 1);
				value = 5.6;
			}
			value += pace;
			return { at: i * DAY, value: value + 0.01 * c.normal() };
		});
		return { points, cuts };
	};
	it('is told with its day, before and after', () => {
		const { points, cuts } = series([...Array(20).fill(0.05), ...Array(20).fill(0.14)]);
		const found = paceChange(points, cuts)!;
		expect(Math.abs(found.at / DAY - 20)).toBeLessThan(2.5);
		expect(found.before).toBeCloseTo(0.05, 1);
		expect(found.after).toBeCloseTo(0.14, 1);
	});
	it('is hardly ever told of a pace that only scatters', () => {
		const c = seeded(11);
		let told = 0;
		for (let i = 0; i < 200; i++) {
			const { points, cuts } = series(
				Array.from({ length: 40 }, () => 0.08 + 0.04 * c.normal()),
				c,
			);
			if (paceChange(points, cuts)) told++;
		}
		expect(told).toBeLessThanOrEqual(6);
	});
	it('is not told of too little', () => {
		const { points, cuts } = series([...Array(5).fill(0.05), ...Array(5).fill(0.2)]);
		expect(paceChange(points, cuts)).toBeNull();
	});
});
