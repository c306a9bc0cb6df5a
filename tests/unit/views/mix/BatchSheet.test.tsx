import { createElement } from 'react';
import { describe, expect, it } from 'vitest';
import type { Product } from '@/contract/products';
import { dilute } from '@/core/mix/dilute';
import { BatchSheet, sheetRows } from '@/views/mix/BatchSheet';
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
	it('is planned with what it should come to, and how that is known', () => {
		const plan = (gain: number | undefined, expectedEcUsCm: number | null) =>
			read(
				createElement(PlanWords, {
					plan: { mlEach: 250, expectedEcUsCm },
					feed,
					litres: 100,
					asLabel: '50.7 tsp',
					gain,
					waterEcUsCm: 780,
					units,
				}),
			);
		expect(plan(419, 1830)).toBe(
			'250 mL (50.7 tsp) of each of 2 parts (2.50 mL/L). EC should come to 1.83 mS/cm, of which 0.78 is the water’s own. Its gain, 419 µS/cm for each mL/L, is what it showed the last time.',
		);
		expect(plan(undefined, null)).toContain('What EC it brings is not known yet; this batch teaches it.');
	});
	const correct = (seen: number, more: number, capacityL?: number) =>
		createElement(CorrectEc, {
			seen,
			target: 1800,
			tooHigh: seen > 1800,
			tooLow: seen < 1800,
			correction:
				seen > 1800 ? dilute({ volumeL: 100, ecUsCm: seen, targetEcUsCm: 1800, withEcUsCm: 400, capacityL }) : null,
			more,
			plan: { unit: 'mL', parts: 2, water: 'Borehole' },
			units,
			onDone: nothing,
			onLeave: nothing,
		});
	it('too strong is drained and topped up, with where it may run off', () => {
		expect(read(correct(2100, Number.NaN))).toContain('EC 2.10 is above the target of 1.80. Add 21 L of Borehole.');
		expect(read(correct(2100, Number.NaN, 100))).toMatch(
			/Drain 18 L and add 18 L of Borehole\..*local discharge rules/,
		);
	});
	it('too weak is fed more, with the caution; where nobody knows how much, that is said', () => {
		expect(read(correct(1600, 45))).toMatch(
			/Add 45.0 mL more of each part, stirred in between\. .*Gloves and eye protection/,
		);
		expect(read(correct(1600, Number.NaN))).toContain('How much feed that takes is not known');
		expect(draw(correct(1600, Number.NaN))).toMatch(/<button[^>]*disabled[^>]*>Done: measure again/);
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
		const draft = { targetPh: '5.8', phFirst: true } as Parameters<typeof sheetRows>[0];
		const rows = sheetRows(
			draft,
			feed,
			{ litres: 100, water: 'Borehole', tank: 'Mix tank', amount: '250 mL', asLabel: null, expectedEcUsCm: 1830 },
			units,
		);
		expect(rows[0]![0]).toBe('100 L of Borehole into Mix tank');
		expect(rows[1]![0]).toContain('pH of the water, target 5.8');
		expect(rows.filter(([what]) => what.includes('part '))).toHaveLength(2);
		expect(read(createElement(BatchSheet, { title: 'leaf', rows }))).toContain('acid into water, never the reverse');
	});
});
