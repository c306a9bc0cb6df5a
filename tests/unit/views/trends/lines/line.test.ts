import { describe, expect, it } from 'vitest';
import { type Line, linesFrom, scalesOf } from '@/views/trends/lines/line';
import { roundEnds } from '@/views/trends/lines/lines-options';

const known: Line[] = [
	{ station: 'pond', quantity: 'ph' },
	{ station: 'pond', quantity: 'ec' },
	{ station: 'a.b', quantity: 'temp' },
];
describe('lines of an address', () => {
	it('are those that are known, each once, in their order', () => {
		expect(linesFrom('pond.ec,a.b.temp,pond.ec,heron.ph,,constructor', known)).toEqual([known[1], known[2]]);
	});
	it('share a scale where they share a unit', () => {
		const units = { ec: 'mS/cm', temp: 'C', volume: 'L' } as const;
		expect(
			scalesOf([...known, { station: 'x', quantity: 'air_temp' }, { station: 'x', quantity: 'vpd' }], units),
		).toEqual(['', 'mS/cm', '°C', 'kPa']);
	});
});
describe('a scale', () => {
	it.each([
		[5.71, 6.48, 5.6, 6.6, 1],
		[1.98, 2.11, 1.95, 2.15, 3],
		[0, 97, 0, 100, 0],
		[1200, 1950, 1200, 2000, 0],
	])('from %d to %d ends at round numbers', (low, high, min, max, decimals) => {
		const s = roundEnds(low, high);
		expect([s.min, s.max].map((x) => Number(x.toFixed(6)))).toEqual([min, max]);
		expect(s.decimals).toBeLessThanOrEqual(decimals);
		expect(Number((s.min + (s.max - s.min) / s.ticks).toFixed(s.decimals))).toBeCloseTo(
			s.min + (s.max - s.min) / s.ticks,
			9,
		);
	});
});
