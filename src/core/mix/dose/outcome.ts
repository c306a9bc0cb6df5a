import { carbonAfter, heldAt, phOfHeld } from '../../chem/solution';
import { quantile, quantiles } from './belief';
import type { Believed } from './believed';
import { givenOf } from './fillings';
import { noiseSeen, U_DOSE } from './follow';
import { otherOf, type WeakAcids } from './passage';
import type { DoseProduct } from './record';

/** What is poured is a little off: three points of a normal with this relative spread (Gauss–Hermite). */
const POINTS: readonly (readonly [factor: number, weight: number])[] = [
	[1 - Math.sqrt(3) * U_DOSE, 1 / 6],
	[1, 2 / 3],
	[1 + Math.sqrt(3) * U_DOSE, 1 / 6],
];
const NOTHING = 3e-6;
/** Two readings, before and after, each with its noise: 95 %. */
const shownNoise = (b: Believed): number => 2 * Math.SQRT2 * noiseSeen(b.followed);

const livingOf = (b: Believed): number[] =>
	Array.from(b.nodes.weight.keys()).filter((i) => b.nodes.weight[i]! > NOTHING);

/** The acids that buffer by themselves, after a dose. */
export function weakAfter(weak: WeakAcids, meqL: number, product: DoseProduct): WeakAcids {
	const given = givenOf(product, meqL, product.kind === 'acid' ? -1 : 1);
	return given.weak === 'citric' || given.weak === 'acetic'
		? { ...weak, [given.weak]: (weak[given.weak] ?? 0) + given.meqL }
		: weak;
}

/** How far every possible tank is from a pH, in equivalents of a product, nothing having left: meq/L by the label, with weights. */
export interface Ways {
	meqL: Float64Array;
	weight: Float64Array;
}

/**
 * What it takes of a product to come from one pH to another, in closed form: with x equivalents given, base held falls by x (acid)
 * or grows by it (base) while the product’s own carbonate, phosphate or weak acid comes along in proportion.
 */
export function waysTo(b: Believed, ph: number, toPh: number, product: DoseProduct): Ways {
	const sign = product.kind === 'acid' ? -1 : 1;
	const { nodes, medium: m, followed } = b;
	const one = givenOf(product, 1, sign);
	const before = otherOf(followed.weak);
	const alone = one.weak === null ? null : otherOf(weakAfter({}, 1, product));
	// What one equivalent has changed at the end of the way.
	const brings = heldAt(toPh, one.carbonMmolL, one.phosphateMmolL, m) - heldAt(toPh, 0, 0, m);
	const each = alone ? alone(toPh) : one.meqL + brings;
	const living = livingOf(b);
	const meqL = new Float64Array(living.length * POINTS.length);
	const weight = new Float64Array(meqL.length);
	let at = 0;
	for (const i of living) {
		const [c, p] = [nodes.carbon[i]!, nodes.phosphate[i]!];
		const change = heldAt(ph, c, p, m) - heldAt(toPh, c, p, m) + (before ? before(ph) - before(toPh) : 0);
		// A product that brings as much as it takes never gets there.
		const way = each * -sign > 0.02 ? Math.max(change / each, 0) : 1e3;
		for (const [factor, share] of POINTS) {
			meqL[at] = way / factor;
			weight[at] = nodes.weight[i]! * share;
			at++;
		}
	}
	return { meqL, weight };
}

/** The dose that passes a pH with this chance, right after it has mixed, meq/L by the label. */
export function meqThatPasses(b: Believed, ph: number, limitPh: number, product: DoseProduct, chance: number): number {
	const w = waysTo(b, ph, limitPh, product);
	return quantile(w.meqL, w.weight, chance);
}

/** Where a dose leads when it is measured after the wait (or so many hours): pH in every possible tank. */
export function measuredAfter(b: Believed, ph: number, meqL: number, product: DoseProduct, hours = b.mixMinutes / 60) {
	const sign = product.kind === 'acid' ? -1 : 1;
	const { nodes, medium: m, followed } = b;
	const living = livingOf(b);
	const values = new Float64Array(living.length * POINTS.length);
	const weight = new Float64Array(values.length);
	const before = otherOf(followed.weak);
	let at = 0;
	for (const [factor, share] of POINTS) {
		const given = givenOf(product, meqL * factor, sign);
		const other = otherOf(weakAfter(followed.weak, meqL * factor, product));
		for (const i of living) {
			const [c, p] = [nodes.carbon[i]!, nodes.phosphate[i]!];
			const held = heldAt(ph, c, p, m) + (before ? before(ph) : 0) - (given.weak === null ? given.meqL : 0);
			const [c2, p2] = [c + given.carbonMmolL, p + given.phosphateMmolL];
			const first = phOfHeld(held, c2, p2, m, ph, other);
			values[at] = carbonAfter(hours, nodes.lossPerHour[i]!, held, c2, p2, m, first, other).ph;
			weight[at] = nodes.weight[i]! * share;
			at++;
		}
	}
	return (...chances: number[]) => quantiles(values, weight, chances);
}

/** With the noise of two readings around it: what a pen will show. */
export function shownAfter(b: Believed, ph: number, meqL: number, product: DoseProduct) {
	const [low, middle, high] = measuredAfter(b, ph, meqL, product)(0.025, 0.5, 0.975) as [number, number, number];
	const noise = shownNoise(b);
	return {
		ph: middle,
		low: middle - Math.hypot(middle - low, noise),
		high: middle + Math.hypot(high - middle, noise),
	};
}
