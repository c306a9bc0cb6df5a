import { describe, expect, it } from 'vitest';
import { type FeedPart, feedName, learnedRise, planFeed } from '@/core/mix/feed/plan';

/** A three-part feed and a silicate that keeps its rate; arithmetic of rate times volume, common practice, no source. */
const part = (product: string, perL: number, more: Partial<FeedPart> = {}): FeedPart => ({
	product,
	unit: 'mL',
	bottles: 1,
	perL,
	gainUsCm: 300,
	scales: true,
	waitMin: 5,
	...more,
});
const three = [part('leaf base', 1), part('fruit base', 2), part('traces', 1)];
const silicate = part('silicate', 0.3, { scales: false, gainUsCm: 100 });

describe('a feed of several products', () => {
	it('by the label: each at its own rate, in the order of the recipe', () => {
		const plan = planFeed([silicate, ...three], { waterEcUsCm: 200, strength: 0.5 });
		expect(plan).toMatchObject({ ok: true, value: { strength: 0.5, expectedEcUsCm: 200 + 30 + 600 } });
		if (plan.ok)
			expect(plan.value.pours.map((p) => [p.product, p.perL])).toEqual([
				['silicate', 0.3],
				['leaf base', 0.5],
				['fruit base', 1],
				['traces', 0.5],
			]);
	});
	it('to a target: all that scales by one factor, after the water and what keeps its rate', () => {
		const plan = planFeed([silicate, ...three], { waterEcUsCm: 200, targetEcUsCm: 1430 });
		// (1430 − 200 − 30)/1200 = 1.
		expect(plan).toMatchObject({ ok: true, value: { strength: 1, expectedEcUsCm: 1430 } });
	});
	it('a product in two bottles is two pourings', () => {
		const plan = planFeed([part('feed', 2.5, { bottles: 2 })], { waterEcUsCm: 0 });
		expect(plan.ok && plan.value.pours.map((p) => [p.bottle, p.perL])).toEqual([
			['A', 2.5],
			['B', 2.5],
		]);
	});
	it('a gain taught many times too small pours half as much again as the labels, and says what it would have taken', () => {
		for (const taught of [200, 40, 4]) {
			const plan = planFeed(three, { waterEcUsCm: 200, targetEcUsCm: 1400 }, taught);
			expect(plan).toMatchObject({ ok: true, value: { strength: 1.5, heldFrom: 1200 / taught } });
			// What the true rise of 1,200 at full strength makes of it: 0.6 mS/cm over the target, not six and more.
			if (plan.ok) expect(200 + 1200 * plan.value.strength - 1400).toBeLessThanOrEqual(600);
		}
		expect(planFeed(three, { waterEcUsCm: 200, targetEcUsCm: 1900 })).toMatchObject({
			ok: true,
			value: { heldFrom: null },
		});
	});
	it('without a label no more than any solution takes', () => {
		const alone = (gainUsCm: number, unit: 'mL' | 'g' = 'mL') =>
			planFeed([part('x', 1, { perL: null, gainUsCm, unit })], { waterEcUsCm: 0, targetEcUsCm: 1500 });
		expect(alone(300)).toMatchObject({ ok: true, value: { strength: 5, heldFrom: null } });
		for (const answer of [alone(50), alone(250, 'g')])
			expect(answer).toMatchObject({ ok: false, problem: { code: 'no-such-feed' } });
	});
	it.each([
		['nothing to pour', [], { waterEcUsCm: 0 }, 'no-feed'],
		[
			'a gain that nobody knows',
			[part('x', 1, { gainUsCm: null })],
			{ waterEcUsCm: 0, targetEcUsCm: 900 },
			'gain-of-needed',
		],
		['everything keeps its rate', [silicate], { waterEcUsCm: 0, targetEcUsCm: 900 }, 'nothing-scales'],
		['water above the target', three, { waterEcUsCm: 900, targetEcUsCm: 800 }, 'water-over-target'],
		['ten times the label', three, { waterEcUsCm: 0, strength: 10 }, 'no-such-strength'],
		['litres for millilitres', [part('x', 2500)], { waterEcUsCm: 0 }, 'no-such-feed'],
	] as const)('refuses %s', (_, parts, aim, code) => {
		expect(planFeed(parts, aim)).toMatchObject({ ok: false, problem: { code } });
	});
});

describe('what a mixture does, by its batches', () => {
	const batch = (times: number, firstEcUsCm: number | null, skew = 1) => ({
		pours: [
			{ product: 'leaf base', bottle: '', perL: times },
			{ product: 'fruit base', bottle: '', perL: 2 * times * skew },
			{ product: 'traces', bottle: '', perL: times },
		],
		waterEcUsCm: 200,
		firstEcUsCm,
	});
	it('is the median rise at full strength, of the same proportions only', () => {
		expect(
			learnedRise(three, [batch(1, 1300), batch(0.5, 760), batch(1, 1400), batch(1, 3000, 1.5), batch(1, null)]),
		).toEqual({
			riseUsCm: 1120,
			batches: 3,
		});
	});
	it('says nothing where nothing was mixed so, or where something keeps its rate', () => {
		expect(learnedRise(three, [])).toBeNull();
		expect(learnedRise([silicate, ...three], [batch(1, 1300)])).toBeNull();
	});
	it('plans by it rather than by the gains of labels', () => {
		const plan = planFeed(three, { waterEcUsCm: 200, targetEcUsCm: 1320 }, 1120);
		expect(plan).toMatchObject({ ok: true, value: { strength: 1 } });
	});
	it('is named by its products', () => expect(feedName(batch(1, null).pours)).toBe('leaf base + fruit base + traces'));
});
