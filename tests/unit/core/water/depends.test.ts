import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { FeedPart } from '@/core/mix/feed/plan';
import { recipeMeans } from '@/core/water/depends';

const feed = (gainUsCm: number | null, unit: 'mL' | 'g' = 'mL'): FeedPart[] => [
	{ product: 'feed', unit, bottles: 2, perL: null, gainUsCm, scales: true, waitMin: 0 },
];

describe('what a shift of a source means for a recipe', () => {
	const shift = { from: 780, to: 870 };
	it('feed for the same target, worked by hand: (1900 − 780) / 420 = 2.67 and (1900 − 870) / 420 = 2.45 mL/L', () => {
		const c = recipeMeans({ targetEcUsCm: 1900, strength: null }, shift, feed(420));
		if (c.code !== 'feed-changes') throw new Error(c.code);
		expect(c.beforePerL).toBeCloseTo(2.667, 3);
		expect(c.afterPerL).toBeCloseTo(2.452, 3);
		expect([c.unit, c.targetEcUsCm]).toEqual(['mL', 1900]);
	});
	it('a water over the target is said before anything is planned with it, also where no gain is known', () => {
		for (const gain of [420, null])
			expect(recipeMeans({ targetEcUsCm: 870, strength: null }, shift, feed(gain))).toEqual({
				code: 'over-target',
				targetEcUsCm: 870,
			});
	});
	it('a recipe by its share of the label comes out by as much more as the water gained', () => {
		expect(recipeMeans({ targetEcUsCm: null, strength: 0.25 }, shift, feed(420, 'g'))).toEqual({
			code: 'ec-moves',
			strength: 0.25,
			byUsCm: 90,
		});
	});
	it('with neither a gain nor a strength nothing is claimed', () => {
		expect(recipeMeans({ targetEcUsCm: 1900, strength: null }, shift, feed(null))).toEqual({ code: 'planned-anew' });
	});
	it('a saltier water never asks for more feed, and never for less than none (property)', () => {
		const ec = fc.double({ min: 0, max: 3000, noNaN: true });
		fc.assert(
			fc.property(ec, ec, fc.double({ min: 100, max: 2000, noNaN: true }), (from, more, gain) => {
				const c = recipeMeans({ targetEcUsCm: 1900, strength: null }, { from, to: from + more }, feed(gain));
				return (
					c.code === 'over-target' || (c.code === 'feed-changes' && c.afterPerL <= c.beforePerL && c.afterPerL >= 0)
				);
			}),
		);
	});
	it('of several products the first that follows the target is told; what keeps its rate is not', () => {
		const parts: FeedPart[] = [
			{ product: 'silicate', unit: 'mL', bottles: 1, perL: 0.2, gainUsCm: 100, scales: false, waitMin: 0 },
			{ product: 'base', unit: 'g', bottles: 1, perL: 1, gainUsCm: 800, scales: true, waitMin: 0 },
			{ product: 'traces', unit: 'mL', bottles: 1, perL: 0.5, gainUsCm: 400, scales: true, waitMin: 0 },
		];
		// Full strength raises EC by 1,000, the silicate by 20: (1900 − 780 − 20)/1000 = 1.10 and (1900 − 870 − 20)/1000 = 1.01 g/L.
		expect(recipeMeans({ targetEcUsCm: 1900, strength: null }, shift, parts)).toEqual({
			code: 'feed-changes',
			of: 'base',
			beforePerL: 1.1,
			afterPerL: 1.01,
			unit: 'g',
			targetEcUsCm: 1900,
		});
	});
});
