import { describe, expect, it } from 'vitest';
import { bottleRemarks, leftOf } from '@/core/mix/bottle';
import { remarkWords } from '@/words/en/remark';

describe('bottles', () => {
	const bottle = {
		unit: 'mL' as const,
		parts: 2,
		stock: 1000,
		opened: '2026-01-10',
		keepsDays: 100,
		expires: '2026-07-20',
	};
	it('counts down: a part poured alone is its share of a feeding, litres are litres, grams are not millilitres', () => {
		const poured = [
			{ amount: 200, unit: 'mL', note: 'part A' },
			{ amount: 200, unit: 'mL', note: 'part B' },
			{ amount: 0.1, unit: 'L', note: '' },
			{ amount: 50, unit: 'g', note: '' },
		];
		expect(leftOf(bottle, poured)).toBe(700);
		expect(leftOf({ ...bottle, stock: null }, poured)).toBeNull();
		expect(leftOf({ ...bottle, unit: 'g', parts: 1 }, poured)).toBe(950);
	});
	it('says what is open too long, about to expire, expired, low, or empty, and nothing of a good one', () => {
		const words = (today: string, left = 700) => bottleRemarks(bottle, left, today).map(remarkWords).join(' ');
		expect(words('2026-03-01')).toBe('');
		expect(words('2026-05-01')).toContain('Open for 111 days; it keeps 100');
		expect(words('2026-07-10')).toContain('expires on 2026-07-20');
		expect(words('2026-07-21')).toContain('It expired');
		expect(words('2026-03-01', 100)).toContain('100 mL left');
		expect(words('2026-03-01', -5)).toContain('count it again');
	});
});
