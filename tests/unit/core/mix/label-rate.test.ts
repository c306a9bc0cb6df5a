import { describe, expect, it } from 'vitest';
import { labelRate } from '@/core/mix/label-rate';

/** Facts of the trade (common practice, no source) unless a source is named. */
describe('label rates in their own units', () => {
	it.each([
		['4 mL/L', 4],
		['10 mL/gal', 10 / 3.785411784],
		['10 ml per imp gal', 10 / 4.54609],
		['2 tsp/gal', (2 * 4.92892159) / 3.785411784],
		['1 tbsp per 10 L', 1.478676478],
		['6 drops/L', 0.3],
		['2,5', 2.5],
	])('%s', (text, mlPerL) => {
		const r = labelRate(text);
		expect(r.ok && r.value.perL).toBeCloseTo(mlPerL, 9);
	});
	it('refuses litres for millilitres, unknown measures, and nothing', () => {
		for (const text of ['4 L/L', '10 furlongs/L', '10 mL/barrel', '0 mL/L', 'much'])
			expect(labelRate(text).ok).toBe(false);
		expect(labelRate('6 drops/L')).toMatchObject({ value: { estimate: true } });
	});
});
