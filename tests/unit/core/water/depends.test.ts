import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { recipeMeans } from '@/core/water/depends';

describe('what a shift of a source means for a recipe', () => {
	const shift = { from: 780, to: 870 };
	it('feed for the same target, worked by hand: (1900 − 780) / 420 = 2.67 and (1900 − 870) / 420 = 2.45 mL/L', () => {
		const c = recipeMeans({ targetEcUsCm: 1900, strength: null }, shift, 420, 'mL');
		if (c.code !== 'feed-changes') throw new Error(c.code);
		expect(c.beforePerL).toBeCloseTo(2.667, 3);
		expect(c.afterPerL).toBeCloseTo(2.452, 3);
		expect([c.unit, c.targetEcUsCm]).toEqual(['mL', 1900]);
	});
	it('a water over the target is said before anything is planned with it, also where no gain is known', () => {
		for (const gain of [420, null])
			expect(recipeMeans({ targetEcUsCm: 870, strength: null }, shift, gain, 'mL')).toEqual({
				code: 'over-target',
				targetEcUsCm: 870,
			});
	});
	it('a recipe by its share of the label comes out by as much more as the water gained', () => {
		expect(recipeMeans({ targetEcUsCm: null, strength: 0.25 }, shift, 420, 'g')).toEqual({
			code: 'ec-moves',
			strength: 0.25,
			byUsCm: 90,
		});
	});
	it('with neither a gain nor a strength nothing is claimed', () => {
		expect(recipeMeans({ targetEcUsCm: 1900, strength: null }, shift, null, 'mL')).toEqual({ code: 'planned-anew' });
	});
	it('a saltier water never asks for more feed, and never for less than none (property)', () => {
		const ec = fc.double({ min: 0, max: 3000, noNaN: true });
		fc.assert(
			fc.property(ec, ec, fc.double({ min: 50, max: 2000, noNaN: true }), (from, more, gain) => {
				const c = recipeMeans({ targetEcUsCm: 1900, strength: null }, { from, to: from + more }, gain, 'mL');
				return (
					c.code === 'over-target' || (c.code === 'feed-changes' && c.afterPerL <= c.beforePerL && c.afterPerL >= 0)
				);
			}),
		);
	});
});
