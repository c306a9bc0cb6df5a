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

export type JugResult =
	| {
			ok: true;
			strengthMeqMl: number /** meq per litre and pH, over the whole way. */;
			bufferMeqLPh: number;
			mlPerLitreTo: (ph: number) => number | null;
	  }
	| { ok: false; message: string };

const LEAST_CHANGE = 0.15;

export function readJug(steps: readonly JugStep[], litres: number): JugResult {
	if (!(litres > 0 && litres <= 20))
		return { ok: false, message: 'A jug holds up to some litres; how many were in it?' };
	const ordered = [...steps].sort((a, b) => a.ml - b.ml);
	if (ordered.length < 2 || ordered[0]!.ml !== 0)
		return { ok: false, message: 'Enter the pH before the first drop, with 0 mL, and at least one step after it.' };
	if (ordered.some((x) => !(x.ph >= 0 && x.ph <= 14) || !(x.ml >= 0)))
		return { ok: false, message: 'A pH lies between 0 and 14, and no step is less than nothing.' };
	const first = ordered[0]!;
	const last = ordered.at(-1)!;
	const direction = Math.sign(last.ph - first.ph);
	if (Math.abs(last.ph - first.ph) < LEAST_CHANGE)
		return { ok: false, message: 'The pH hardly moved yet: go on drop by drop, stir, and wait between.' };
	for (let i = 1; i < ordered.length; i++)
		if ((ordered[i]!.ph - ordered[i - 1]!.ph) * direction < -0.1)
			return { ok: false, message: `At ${ordered[i]!.ml} mL the pH went back: stir and wait before each reading.` };
	const mlPerL = (last.ml - first.ml) / litres;
	const strengthMeqMl = strengthFrom(first.ph, last.ph, mlPerL);
	return {
		ok: true,
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
	};
}
