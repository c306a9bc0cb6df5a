import { describe, expect, it } from 'vitest';
import { markOf, readNumber } from '@/core/water/report/number';

describe('numbers in reports', () => {
	it('the report tells its own decimal mark, where one of its numbers leaves no doubt', () => {
		expect(markOf('EC 1,250 µS/cm\npH 7.4')).toBe('point');
		expect(markOf('EC 1.250 µS/cm\npH 7,4')).toBe('comma');
		expect(markOf('TDS 1,250.5')).toBe('point');
		expect(markOf('Ca 80\nEC 1,250')).toBeNull();
		expect(markOf('pH 7.4\nMg 7,4')).toBeNull();
	});
	it.each([
		['1,250', 'point', 1250],
		['1,250', 'comma', 1.25],
		['1,250', null, 'ambiguous'],
		['1.250', null, 1.25],
		['1.250', 'comma', 1250],
		['0,780', null, 0.78],
		['12,5', 'point', 12.5],
		['1 250', null, 1250],
		['1’250.5', null, 1250.5],
		['1,250,000', null, 1_250_000],
		['1.250,5', null, 1250.5],
		['1,2.3,4', null, null],
		['80.', null, null],
	] as const)('“%s” where the mark is %s', (text, mark, value) => expect(readNumber(text, mark)).toBe(value));
});
