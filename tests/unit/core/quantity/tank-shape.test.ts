import { describe, expect, it } from 'vitest';
import { litresAtLevel, tankShape } from '@/core/quantity/tank-shape';

/** Volume of a prism and of a cylinder (geometry): length · width · height, and π/4 · d² · height; 1,000 cm³ are a litre. */
const litres = (text: string, mm: number) => {
	const shape = tankShape(text);
	if (!shape.ok) throw new Error(shape.problem);
	return litresAtLevel(shape.value, mm);
};

describe('a dipstick gives litres', () => {
	it.each([
		['60 x 40', 350, 84],
		['box 60 cm × 40 cm', 350, 84],
		['round 50', 400, 78.54],
		['ø 50 cm', 400, 78.54],
		['10 38; 20 81; 30 130', 200, 81],
		['10 38; 20 81; 30 130', 250, 105.5],
		['10 cm 38 L\n20 cm 81 L', 50, 19],
	])('%s at %d mm holds %d L', (text, mm, l) => expect(litres(text, mm)).toBeCloseTo(l, 1));
	it('says nothing above what was measured, nor below the bottom', () => {
		expect(litres('10 38; 20 81', 250)).toBeNull();
		expect(litres('60 x 40', -1)).toBeNull();
	});
	it.each([
		['a barrel', 'no-such-shape'],
		['60 x', 'no-such-shape'],
		['10 38', 'no-such-shape'],
		['round 0', 'no-such-shape'],
		['10 38; 20 30', 'table-not-rising'],
		['10 38; 10 40', 'table-not-rising'],
	])('%s is refused: %s', (text, problem) => expect(tankShape(text)).toEqual({ ok: false, problem }));
});
