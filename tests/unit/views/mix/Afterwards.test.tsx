import { createElement } from 'react';
import { describe, expect, it } from 'vitest';
import type { Advice } from '@/contract/doses';
import { Afterwards } from '@/views/mix/Afterwards';
import { draw, read } from '../../../helpers/drawn';

describe('after a dose', () => {
	const advice = (more: Partial<Advice>) => ({ do: 'dose', ...more }) as Advice;
	it('tells where the pH goes by itself, and what is left to hold it', () => {
		const words = read(
			createElement(Afterwards, {
				advice: advice({
					rebound: [
						{ time: '2026-07-14T10:00:00Z', when: 'hour', ph: 5.94, low_ph: 5.8, high_ph: 6.1 },
						{ time: '2026-07-15T09:00:00Z', when: 'day', ph: 6.62, low_ph: 6.2, high_ph: 7 },
					],
					alkalinity_left_meq_l: { value: 1.24, low: 0.8, high: 1.7 },
					rebound_ends: 'It ends when the alkalinity is used up.',
				}),
			}),
		);
		expect(words).toContain('in an hour tomorrow alkalinity left, meq/L');
		expect(words).toContain('5.9 5.8 to 6.1 6.6 6.2 to 7.0 1.2 0.8 to 1.7');
		expect(words).toContain('It ends when');
	});
	it('says nothing where there is no dose', () => {
		expect(draw(createElement(Afterwards, { advice: advice({ do: 'wait' }) }))).toBe('');
	});
});
