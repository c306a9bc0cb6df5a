import { createElement } from 'react';
import { describe, expect, it } from 'vitest';
import type { Product } from '@/contract/products';
import { dilute } from '@/core/mix/dilute';
import { moreFeed } from '@/core/mix/feed/more-feed';
import { BatchSheet } from '@/views/mix/BatchSheet';
import type { BatchDraft } from '@/views/mix/batch-draft';
import { CorrectEc } from '@/views/mix/CorrectEc';
import { PlanWords } from '@/views/mix/PlanWords';
import { SoFar } from '@/views/mix/SoFar';
import { draw, nothing, read } from '../../../helpers/drawn';

/** Parts of the pages, drawn as the server draws them: what a person reads, and what a reader of the screen is told. */
const units = { ec: 'mS/cm', temp: 'C', volume: 'L' } as const;

describe('a batch', () => {
	const feed = {
		name: 'feed A and B',
		unit: 'mL',
		parts: 2,
		learned_from_batches: 1,
		gain_us_cm_per_ml_l: 400,
		learned_gain_us_cm_per_ml_l: 419,
	} as Product;
	const pours = ['A', 'B'].map((bottle) => ({
		product: 'feed A and B',
		bottle,
		perL: 2.5,
		unit: 'mL' as const,
		waitMin: 5,
		scales: true,
	}));
	it('is planned with what it should come to, and how that is known', () => {
		const plan = (product: Product, expectedEcUsCm: number | null) =>
			read(
				createElement(PlanWords, {
					plan: { strength: 1, pours, expectedEcUsCm, heldFrom: null },
					products: [product],
					litres: 100,
					learned: null,
					waterEcUsCm: 780,
					units,
				}),
			);
		expect(plan({ ...feed, rate_text: '2 tsp/gal' }, 1830)).toBe(
			'250 mL (50.7 tsp) of each of 2 parts (2.50 mL/L) EC should come to 1.83 mS/cm, of which 0.78 is the water’s own. Its gain, 419 µS/cm for each mL/L, is what it showed the last time.',
		);
		const unknown = { gain_us_cm_per_ml_l: null, learned_gain_us_cm_per_ml_l: null };
		expect(plan({ ...feed, ...unknown, gain_by_label_us_cm_per_ml_l: null }, null)).toContain(
			'What EC it brings is not known yet; this batch teaches it.',
		);
		expect(plan({ ...feed, ...unknown, gain_by_label_us_cm_per_ml_l: 380 }, 1730)).toContain('follows from its label');
	});
	const correct = (seen: number, capacityL?: number) =>
		createElement(CorrectEc, {
			seen,
			target: 1800,
			dilution:
				seen > 1800 ? dilute({ volumeL: 100, ecUsCm: seen, targetEcUsCm: 1800, withEcUsCm: 400, capacityL }) : null,
			more: seen < 1800 ? moreFeed(pours, { waterEcUsCm: 400, seenEcUsCm: seen, targetEcUsCm: 1800 }) : null,
			litres: 100,
			water: 'Borehole',
			units,
			busy: false,
			onDone: nothing,
			onLeave: nothing,
		});
	it('too strong is drained and topped up, with where it may run off', () => {
		expect(read(correct(2100))).toContain('EC 2.10 is above the target of 1.80. Add 21 L of Borehole.');
		expect(read(correct(2100, 100))).toMatch(/Drain 18 L and add 18 L of Borehole\..*local discharge rules/);
	});
	it('too weak is fed more, with the caution; where it hardly rose, nothing is advised', () => {
		// 1,200 of 1,400 has come: a sixth of 250 mL more of each bottle.
		expect(read(correct(1600))).toMatch(
			/Add more, stirred in between: 41\.7 mL of feed A and B, part A 41\.7 mL .*part B .*Gloves and eye protection/,
		);
		expect(read(correct(500))).toContain('less than half of what the feed should bring');
		expect(draw(correct(500))).toMatch(/<button[^>]*disabled[^>]*>Done: measure again/);
	});
	it('keeps what was done, and that a doubt was kept', () => {
		const step = (s: object) => ({ time: '2026-07-14T09:00:00Z', expected: null, measured: null, ...s }) as never;
		const words = read(
			createElement(SoFar, {
				log: [
					step({ step: 'part', words: '250 mL of part A' }),
					step({ step: 'ec', words: 'EC 1.90', measured: 1900, expected: 1830, doubt: 'It jumps.' }),
					step({ step: 'done', words: 'done' }),
				],
				mS: (v: number) => (v / 1000).toFixed(2),
			}),
		);
		expect(words).toBe('✓ 250 mL of part A ◐ EC 1.90 (expected 1.83) kept though it was doubted');
	});
	it('on paper has a line for every step, pH where it is set first too', () => {
		const words = read(
			createElement(BatchSheet, {
				title: 'leaf',
				draft: { targetPh: '5.8', phFirst: true } as BatchDraft,
				plan: { strength: 1, pours, expectedEcUsCm: 1830, heldFrom: null },
				litres: 100,
				places: { tank: 'Mix tank', water: 'Borehole' },
				products: [feed],
				units,
			}),
		);
		expect(words).toContain('acid into water, never the reverse');
		expect(words).toMatch(
			/100 L of Borehole into Mix tank .*pH of the water, target 5\.8.*250 mL of feed A and B, part A; stir, wait 5 min .*part B; stir .*EC, expected 1\.83/,
		);
	});
});
