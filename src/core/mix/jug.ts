import { done } from '../outcome';
import { type Answer, refuse } from '../problem';
import { strengthFrom } from './dose/strength-of-doses';

/**
 * A jug titration: one litre of the solution, the product drop by drop, the pH after each step. It gives the strength of a
 * product whose label says nothing, and shows how this solution buffers. A drop is nominally 0.05 mL: an estimate.
 */
export interface JugStep {
	/** mL given in all so far. */
	ml: number;
	ph: number;
}

export const ML_PER_DROP = 0.05;

export interface JugResult {
	strengthMeqMl: number;
	/** meq per litre and pH, over the whole way. */
	bufferMeqLPh: number;
	mlPerLitreTo: (ph: number) => number | null;
}

const LEAST_CHANGE = 0.15;

/**
 * The strength of a product (meq/mL) and how the solution buffers, from a jug of so many litres (up to 20). Refused while the pH has hardly moved, or where it went back.
 * @example readJug([{ ml: 0, ph: 6.5 }, { ml: 0.5, ph: 6.5 }], 1).ok // false
 */
export function readJug(steps: readonly JugStep[], litres: number): Answer<JugResult> {
	if (!(litres > 0 && litres <= 20)) return refuse({ code: 'jug-litres', field: 'litres' });
	const ordered = [...steps].sort((a, b) => a.ml - b.ml);
	if (ordered.length < 2 || ordered[0]!.ml !== 0) return refuse({ code: 'jug-first-step', field: 'steps' });
	if (ordered.some((x) => !(x.ph >= 0 && x.ph <= 14) || !(x.ml >= 0)))
		return refuse({ code: 'jug-impossible', field: 'steps' });
	const first = ordered[0]!;
	const last = ordered.at(-1)!;
	const direction = Math.sign(last.ph - first.ph);
	if (Math.abs(last.ph - first.ph) < LEAST_CHANGE) return refuse({ code: 'jug-hardly-moved', field: 'steps' });
	for (let i = 1; i < ordered.length; i++)
		if ((ordered[i]!.ph - ordered[i - 1]!.ph) * direction < -0.1)
			return refuse({ code: 'jug-went-back', field: 'steps', ml: ordered[i]!.ml });
	const mlPerL = (last.ml - first.ml) / litres;
	const strengthMeqMl = strengthFrom(first.ph, last.ph, mlPerL);
	return done({
		strengthMeqMl,
		bufferMeqLPh: (strengthMeqMl * mlPerL) / Math.abs(last.ph - first.ph),
		mlPerLitreTo: (ph) => {
			// Straight between the steps that were taken: nothing is said beyond them.
			for (let i = 1; i < ordered.length; i++) {
				const [a, b] = [ordered[i - 1]!, ordered[i]!];
				if ((ph - a.ph) * (ph - b.ph) <= 0 && a.ph !== b.ph)
					return (a.ml + ((ph - a.ph) / (b.ph - a.ph)) * (b.ml - a.ml)) / litres;
			}
			return null;
		},
	});
}
