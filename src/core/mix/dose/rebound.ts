import { carbonAfter, freeShare, heldAt, phOfHeld } from '../../chem/solution';
import { quantiles } from './belief';
import type { Believed } from './believed';
import { givenOf } from './fillings';
import { weakAfter } from './outcome';
import { otherOf } from './passage';
import type { DoseProduct } from './record';

/** Where the pH goes by itself after a dose, and what buffer is left. */
export interface Rebound {
	/** In the order of the hours asked for, with 95 % intervals. Roots are not counted in: they may add some tenths a day. */
	later: { hours: number; ph: number; low: number; high: number }[];
	/** Carbonate alkalinity left after the dose, meq/L. */
	alkalinityLeft: { meqL: number; low: number; high: number };
}

const NOTHING = 1e-6;

/** Where the pH goes by itself after a dose, as carbon dioxide leaves, with 95 % intervals, and what alkalinity is left. */
export function reboundAfter(
	b: Believed,
	ph: number,
	meqL: number,
	product: DoseProduct,
	hours: readonly number[],
): Rebound {
	const { nodes, medium: m, followed } = b;
	const given = givenOf(product, meqL, product.kind === 'acid' ? -1 : 1);
	const before = otherOf(followed.weak);
	const other = otherOf(weakAfter(followed.weak, meqL, product));
	const left = new Float64Array(nodes.size);
	const later = hours.map(() => new Float64Array(nodes.size));
	for (let i = 0; i < nodes.size; i++) {
		if (nodes.weight[i]! < NOTHING) continue;
		const [c, p] = [nodes.carbon[i]! + given.carbonMmolL, nodes.phosphate[i]! + given.phosphateMmolL];
		const held =
			heldAt(ph, nodes.carbon[i]!, nodes.phosphate[i]!, m) +
			(before ? before(ph) : 0) -
			(given.weak === null ? given.meqL : 0);
		let at = { carbonMmolL: c, ph: phOfHeld(held, c, p, m, ph, other) };
		left[i] = c * (1 - freeShare(at.ph, m));
		let since = 0;
		for (const [n, h] of hours.entries()) {
			at = carbonAfter(h - since, nodes.lossPerHour[i]!, held, at.carbonMmolL, p, m, at.ph, other);
			since = h;
			later[n]![i] = at.ph;
		}
	}
	const of = (list: Float64Array) => quantiles(list, nodes.weight, [0.025, 0.5, 0.975]) as [number, number, number];
	const [leftLow, leftMiddle, leftHigh] = of(left);
	return {
		later: hours.map((h, n) => {
			const [low, middle, high] = of(later[n]!);
			return { hours: h, ph: middle, low, high };
		}),
		alkalinityLeft: { meqL: leftMiddle, low: leftLow, high: leftHigh },
	};
}
