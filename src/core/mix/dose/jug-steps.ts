import { bufferAt, heldAt, type Medium } from '../../chem/solution';
import { type Nodes, normalise, redrawWhereFew } from './belief';
import { U_PH } from './follow';

/** A drop is 0.05 mL more or less, and all drops of one bottle alike: together they must not seem surer than one. */
const U_DROP = 0.25;
const U_CURVE = 0.06;
const MOST_Z = 4;
const LEAST_CHANGE = 0.01;

/** The steps of a titration of the tank’s own solution: each teaches what its part of the way takes. The tank stays as it is. */
export function learnJug(
	nodes: Nodes,
	steps: readonly { ml: number; ph: number }[],
	litres: number,
	strengthMeqMl: number,
	m: Medium,
): void {
	const ordered = [...steps].sort((a, b) => a.ml - b.ml);
	const u = Math.hypot(U_DROP * Math.sqrt(Math.max(ordered.length - 1, 1)), U_CURVE);
	for (const [n, to] of ordered.entries()) {
		const from = ordered[n - 1];
		if (!from || Math.abs(to.ph - from.ph) < LEAST_CHANGE) continue;
		const meqL = (((to.ml - from.ml) * strengthMeqMl) / litres) * Math.sign(from.ph - to.ph);
		for (let i = 0; i < nodes.size; i++) {
			const [c, p] = [nodes.carbon[i]!, nodes.phosphate[i]!];
			const way = heldAt(from.ph, c, p, m) - heldAt(to.ph, c, p, m);
			const after = bufferAt(to.ph, c, p, m);
			const noise = Math.hypot(u * way, U_PH * bufferAt(from.ph, c, p, m), U_PH * after);
			const z = Math.min(Math.abs(way - meqL) / noise, MOST_Z);
			nodes.weight[i]! *= (Math.exp((-z * z) / 2) * after) / noise;
		}
		normalise(nodes);
		redrawWhereFew(nodes);
	}
}
