import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { fromWorking, toWorking } from '@/core/judge/working-scale';

describe('the working scale', () => {
	it.each(['ph', 'ec', 'temp', 'alkalinity', 'level'] as const)('%s goes there and back (property)', (q) => {
		fc.assert(
			fc.property(fc.double({ min: 0, max: 1e5, noNaN: true }), (v) => {
				expect(fromWorking(q, toWorking(q, v))).toBeCloseTo(v, 4);
			}),
		);
	});
	it('keeps the order of values, and a sensor in the air is not minus infinity', () => {
		expect(toWorking('ec', 0)).toBeGreaterThan(Number.NEGATIVE_INFINITY);
		expect(toWorking('ec', 100)).toBeLessThan(toWorking('ec', 101));
	});
});
