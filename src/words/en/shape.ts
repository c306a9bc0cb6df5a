import type { ShapeProblem } from '@/core/quantity/tank-shape';

/** Why a shape gives no litres. */
export const shapeProblem = (p: ShapeProblem): string =>
	p === 'no-such-shape'
		? 'Write the bottom in centimetres, 60 x 40 or round 50, or a table of centimetres and litres: 10 38; 20 81.'
		: 'In a table both centimetres and litres rise from line to line.';
