import { describe, expect, it } from 'vitest';
import { doubtOfEvent } from '@/core/reading/event-doubt';

/**
 * A tank cannot take in more than it holds. Strong acids are dosed by tenths of a mL in a litre, concentrates by a few (labels;
 * common practice, no source).
 */
describe('an amount that is asked about', () => {
	it('24,000 L into 2,400 L: a digit too many', () => {
		expect(doubtOfEvent('water_added', 24_000, 'L', 2400)).toEqual({
			code: 'more-than-it-holds',
			holdsL: 2400,
			meant: { amount: 2400, unit: 'L' },
		});
	});
	it('3 L of acid into 40 L: mL were meant', () => {
		expect(doubtOfEvent('acid_added', 3, 'L', 40)).toMatchObject({
			code: 'strong-dose',
			perL: 75,
			meant: { amount: 3, unit: 'mL' },
		});
	});
	it('half a kilogram of salts into 40 L; grams would be usual', () => {
		expect(doubtOfEvent('nutrient_added', 50, 'kg', 40)).toMatchObject({ per: 'g', meant: { amount: 50, unit: 'g' } });
		// 2 g/L is what dry feeds are mixed at.
		expect(doubtOfEvent('nutrient_added', 80, 'g', 40)).toBeNull();
	});
	it('a mL where no other unit explains it has no suggestion', () => {
		expect(doubtOfEvent('acid_added', 900, 'mL', 40)).toMatchObject({ code: 'strong-dose', meant: null });
	});
	it('watering for days', () =>
		expect(doubtOfEvent('irrigated', 24 * 60, 'min', null)).toEqual({ code: 'too-long', hours: 24 }));
	it.each([
		['water_added', 2400, 'L', 2400],
		['water_added', 65, 'L', 2400],
		['water_added', 600, 'gal', 2400],
		['acid_added', 38, 'mL', 600],
		['nutrient_added', 400, 'mL', 40],
		// Where nobody said what it holds, nothing is known.
		['water_added', 24_000, 'L', null],
		['acid_added', 3, 'L', null],
		['solution_changed', null, '', 2400],
		['note', 5, 'L', 1],
	] as const)('%s %s %s into %s L is nothing to ask', (kind, amount, unit, volume) => {
		expect(doubtOfEvent(kind, amount, unit, volume)).toBeNull();
	});
});
