import { describe, expect, it } from 'vitest';
import { rangesFor } from '@/core/crop/presets';
import { around, feedings, isPart, litresAt, pairFeeds } from '@/core/mix/feedings';
import { inLabelMeasure, labelRate } from '@/core/mix/label-rate';
import { STAGES } from '@/core/mix/strength';

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
	it('what was poured together with another feed teaches the gain of neither', () => {
		const pair = (together: number[]) =>
			pairFeeds(
				[{ at: 600_000, ml: 30, product: 'f', note: '' }],
				[
					{ at: 0, value: 1800 },
					{ at: 1_200_000, value: 2000 },
				],
				[600_000],
				() => 100,
				together,
			);
		expect(pair([])).toHaveLength(1);
		expect(pair([600_000])).toEqual([]);
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
