import { describe, expect, it } from 'vitest';
import { trendWords } from '@/words/en/trend';

describe('what a series does, in words', () => {
	const perDay = { value: '0.1', low: '+0.08', high: '+0.12' };
	it.each([
		[
			{ says: 'rising', readings: 24, spans: 6 },
			'Between what was done to the water pH rises by 0.1 a day (+0.08 to +0.12; 24 readings in 6 stretches).',
		],
		[{ says: 'falling', readings: 9, spans: 1 }, 'pH falls by 0.1 a day (+0.08 to +0.12; 9 readings).'],
		[
			{ says: 'steady', readings: 9, spans: 2 },
			'Between what was done to the water pH goes neither up nor down for sure (+0.08 to +0.12 a day; 9 readings in 2 stretches).',
		],
	] as const)('%o', (t, words) => expect(trendWords(t, 'pH', perDay)).toBe(words));
	it('says what is missing, and nothing of nothing', () => {
		expect(trendWords({ says: 'unknown', readings: 4, spans: 2 }, 'EC', null)).toBe(
			'What EC does by itself cannot be told yet: only 4 readings in 2 stretches lie between what was done to the water.',
		);
		expect(trendWords({ says: 'unknown', readings: 0, spans: 0 }, 'EC', null)).toBe('');
	});
});
