import { createElement } from 'react';
import { describe, expect, it } from 'vitest';
import { GaugeStrip } from '@/views/ui/GaugeStrip';
import { StandingMark } from '@/views/ui/StandingMark';
import { draw } from '../../../helpers/drawn';

/** Parts of the pages, drawn as the server draws them: what a person reads, and what a reader of the screen is told. */
const units = { ec: 'mS/cm', temp: 'C', volume: 'L' } as const;

describe('marks are told apart without colour', () => {
	it('each standing has a shape and its word', () => {
		const all = (['sound', 'doubtful', 'bad', 'restated', 'discarded'] as const).map((standing) =>
			draw(createElement(StandingMark, { standing })),
		);
		expect(
			new Set(all.map((m) => m.replace(/<span class="sr-only">.*?<\/span>/, '').replace(/color:[^"]*/, ''))).size,
		).toBe(5);
		for (const [i, word] of ['sound', 'doubtful', 'bad', 'restated', 'discarded'].entries())
			expect(all[i]).toContain(word);
	});
	it('a strip says value, uncertainty, standing, range and what was read', () => {
		const strip = draw(
			createElement(GaugeStrip, {
				quantity: 'ph',
				value: 6.11,
				u: 0.1,
				range: { low: 5.5, high: 6.5 },
				standing: 'restated',
				units,
				was: 6.4,
			}),
		);
		expect(strip).toContain('pH 6.11 ± 0.20, restated, range 5.50 to 6.50, read as 6.40');
	});
});
