import { heldAt, phOfHeld } from '../../chem/solution';
import { quantiles } from './belief';
import type { Believed } from './believed';
import { givenOf } from './fillings';
import { meqThatPasses, weakAfter } from './outcome';
import { otherOf } from './passage';
import type { DoseProduct } from './record';

export interface CurvePoint {
	meqL: number;
	ph: number;
	low: number;
	high: number;
}

const POINTS = 24;
const MOST_MEQ_L = 20;

/** What a product does to a tank, drawn from a pH: equivalents for each litre against pH, just mixed, with its 95 % band. */
export function responseCurve(b: Believed, ph: number, endPh: number, product: DoseProduct): CurvePoint[] {
	const { nodes, medium: m, followed } = b;
	const most = Math.min(meqThatPasses(b, ph, endPh, product, 0.5), MOST_MEQ_L);
	const before = otherOf(followed.weak);
	const values = new Float64Array(nodes.size);
	return Array.from({ length: POINTS + 1 }, (_, n) => {
		const meqL = (most * n) / POINTS;
		const given = givenOf(product, meqL, product.kind === 'acid' ? -1 : 1);
		const other = otherOf(weakAfter(followed.weak, meqL, product));
		for (let i = 0; i < nodes.size; i++) {
			const [c, p] = [nodes.carbon[i]!, nodes.phosphate[i]!];
			const held = heldAt(ph, c, p, m) + (before ? before(ph) : 0) - (given.weak === null ? given.meqL : 0);
			values[i] = phOfHeld(held, c + given.carbonMmolL, p + given.phosphateMmolL, m, ph, other);
		}
		const [low, middle, high] = quantiles(values, nodes.weight, [0.025, 0.5, 0.975]) as [number, number, number];
		return { meqL, ph: middle, low, high };
	});
}
