import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { pinched } from '@/views/trends/lines/use-pinch';

describe('two fingers on a chart', () => {
	it('what lay under a finger lies under it again (geometry)', () => {
		const share = fc.double({ min: 0, max: 1, noNaN: true });
		const fingers = fc
			.tuple(share, share)
			.filter(([a, b]) => Math.abs(a - b) > 0.05)
			.map(([a, b]) => ({ left: Math.min(a, b), right: Math.max(a, b) }));
		fc.assert(
			fc.property(fingers, fingers, (began, ended) => {
				const { from, to } = pinched(began, ended);
				for (const side of ['left', 'right'] as const)
					expect(from + ended[side] * (to - from)).toBeCloseTo(began[side], 9);
			}),
		);
	});
	it('apart is closer, together is wider, side by side is along', () => {
		expect(pinched({ left: 0.4, right: 0.6 }, { left: 0.3, right: 0.7 })).toEqual({
			from: expect.closeTo(0.25),
			to: expect.closeTo(0.75),
		});
		const along = pinched({ left: 0.2, right: 0.6 }, { left: 0.4, right: 0.8 });
		expect(along.to - along.from).toBeCloseTo(1);
		expect(along.from).toBeCloseTo(-0.2);
	});
});
