import { type Held, moved, slopeAt } from './buffer-curve';

/**
 * What is believed of how a solution answers a product: mL per litre for one unit of carbonate and of phosphate buffer, as
 * weights on a grid. A dose of y mL per litre that moves pH from a to b satisfies y = θ₁·ΔC(a, b) + θ₂·ΔP(a, b). The prior
 * is log-normal, each dose multiplies it by its likelihood (grid posterior: Gelman and others, Bayesian Data Analysis,
 * section 3.7), so that the chance of going too far is read off and not guessed.
 */
export interface Belief {
	/** mL per litre for one meq/L of carbonate alkalinity, and for one mmol/L of phosphate. */
	carbonate: Float64Array;
	phosphate: Float64Array;
	/** Sums to 1. */
	weight: Float64Array;
	tempC: number;
}

/** A factor known within `sdLn` standard deviations of its logarithm. */
export interface LogNormal {
	median: number;
	sdLn: number;
}

const STEPS_CARBONATE = 49;
const STEPS_PHOSPHATE = 33;
const REACH_SD = 2.8;

export function priorBelief(carbonate: LogNormal, phosphate: LogNormal, tempC: number): Belief {
	const n = STEPS_CARBONATE * STEPS_PHOSPHATE;
	const b: Belief = {
		carbonate: new Float64Array(n),
		phosphate: new Float64Array(n),
		weight: new Float64Array(n),
		tempC,
	};
	const z = (i: number, steps: number) => REACH_SD * ((2 * i) / (steps - 1) - 1);
	for (let i = 0, k = 0; i < STEPS_CARBONATE; i++)
		for (let j = 0; j < STEPS_PHOSPHATE; j++, k++) {
			const [zc, zp] = [z(i, STEPS_CARBONATE), z(j, STEPS_PHOSPHATE)];
			b.carbonate[k] = carbonate.median * Math.exp(carbonate.sdLn * zc);
			b.phosphate[k] = phosphate.median * Math.exp(phosphate.sdLn * zp);
			b.weight[k] = Math.exp(-(zc * zc + zp * zp) / 2);
		}
	return normalised(b);
}

function normalised(b: Belief): Belief {
	let sum = 0;
	for (const w of b.weight) sum += w;
	for (let k = 0; k < b.weight.length; k++) b.weight[k]! /= sum;
	return b;
}

/** mL per litre that a way takes, at one point of the grid. */
const taken = (b: Belief, k: number, way: Held): number => way[0] * b.carbonate[k]! + way[1] * b.phosphate[k]!;

/** One dose with what it did. */
export interface Seen {
	mlPerL: number;
	phBefore: number;
	phAfter: number;
	/** Relative uncertainty of the amount and of the curve together. */
	u: number;
	/** Standard uncertainty of each pH. */
	uPh: number;
	/** Phosphate then, as a share of what is in the solution now. */
	phosphateShare: number;
}

/** One miss beyond this many standard deviations says no more than at it: a wrong note must not rule out everything. */
const MOST_Z = 4;

/** Multiplies a belief by the likelihood of one dose. */
export function learnDose(b: Belief, d: Seen): Belief {
	const way = moved(d.phBefore, d.phAfter, b.tempC);
	const [before, after] = [slopeAt(d.phBefore, b.tempC), slopeAt(d.phAfter, b.tempC)];
	const share = (h: Held): Held => [h[0], h[1] * d.phosphateShare];
	const next: Belief = { ...b, weight: new Float64Array(b.weight.length) };
	for (let k = 0; k < b.weight.length; k++) {
		const predicted = taken(b, k, share(way));
		const noise = Math.hypot(d.u * predicted, d.uPh * taken(b, k, share(before)), d.uPh * taken(b, k, share(after)));
		const z = Math.min(Math.abs(d.mlPerL - predicted) / noise, MOST_Z);
		next.weight[k] = (b.weight[k]! * Math.exp((-z * z) / 2)) / noise;
	}
	return normalised(next);
}

/** The amount that a way takes with this chance at most: 0.5 is the middle estimate. */
export function takesQuantile(b: Belief, way: Held, chance: number): number {
	const order = Array.from(b.weight.keys(), (k) => ({ ml: taken(b, k, way), w: b.weight[k]! })).sort(
		(x, y) => x.ml - y.ml,
	);
	let sum = 0;
	for (const [i, o] of order.entries()) {
		sum += o.w;
		if (sum < chance) continue;
		const before = order[i - 1];
		if (!before) return o.ml;
		return o.ml - ((sum - chance) / o.w) * (o.ml - before.ml);
	}
	return order.at(-1)!.ml;
}

/** Chance that a way takes less than this amount. */
function chanceLess(b: Belief, way: Held, mlPerL: number): number {
	let sum = 0;
	for (let k = 0; k < b.weight.length; k++) if (taken(b, k, way) < mlPerL) sum += b.weight[k]!;
	return sum;
}

/**
 * pH after so many mL per litre of acid (direction −1) or base (1): the value that is passed with this chance.
 * 0.5 is the middle estimate, 0.025 the far end of the 95 % interval.
 */
export function phAfter(b: Belief, ph: number, mlPerL: number, direction: number, chance: number): number {
	let [near, far] = [ph, direction < 0 ? 2 : 12];
	for (let i = 0; i < 30; i++) {
		const middle = (near + far) / 2;
		if (chanceLess(b, moved(ph, middle, b.tempC), mlPerL) > chance) near = middle;
		else far = middle;
	}
	return (near + far) / 2;
}
