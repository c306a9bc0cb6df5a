import type { Sight, StateEstimate, Transition } from '../../stats/kalman';
import type { Dipped, Happening } from './gate';

/**
 * What the joint state of n probes holds: of each the deviation of its error at the usual value, then of each its slope (see slope.ts).
 */
export interface JointModel {
	/** Variances at the beginning of the record, of each probe. */
	start: readonly { level: number; slope: number }[];
	/** Variance gained per millisecond by the level of each probe, as it was thought of it then; each visit teaches another. */
	wander: readonly number[];
	/** The same of its slope; nothing teaches another. */
	slopeWander: readonly number[];
	/** Standard deviations of a jump that nobody wrote down: pH, or share for EC; and of its slope. */
	jump: { level: number; slope: number };
}

/** Where a probe's deviation is believed to be: pH, or share for EC. */
export interface Deviation {
	mean: number;
	variance: number;
}

/** Variance that each component gains in a time. */
export function gained(model: JointModel, wander: readonly number[], elapsed: number): Float64Array {
	const n = wander.length;
	const size = 2 * n;
	const q = new Float64Array(size * size);
	for (let i = 0; i < n; i++) {
		q[i * size + i] = wander[i]! * elapsed;
		q[(n + i) * size + n + i] = model.slopeWander[i]! * elapsed;
	}
	return q;
}

/** What leads to a happening: time that went by, who was let loose, and what is known anew. */
export function transitionTo(
	h: Happening,
	model: JointModel,
	wander: readonly number[],
	elapsed: number,
	loosened: readonly number[],
): Transition {
	const n = wander.length;
	const size = 2 * n;
	const q = gained(model, wander, elapsed);
	for (const i of loosened) {
		q[i * size + i]! += model.jump.level ** 2;
		q[(n + i) * size + n + i]! += model.jump.slope ** 2;
	}
	if (h.kind !== 'set') return { q };
	const f = new Float64Array(size * size);
	for (let i = 0; i < size; i++) f[i * size + i] = 1;
	const [level, slope] = [h.probe, n + h.probe];
	f[level * size + level] = 0;
	q[level * size + level] = h.variance;
	if (h.told.slope === null) {
		// Nothing deviates at the standard: away from it, what its slope makes of it; of that nothing is known anew.
		f[level * size + slope] = -h.told.lever;
		const grown = q[slope * size + slope]!;
		q[level * size + level]! += h.told.lever ** 2 * grown;
		q[level * size + slope] = -h.told.lever * grown;
		q[slope * size + level] = -h.told.lever * grown;
	} else {
		f[slope * size + slope] = 0;
		q[slope * size + slope] = h.told.slope;
	}
	return { f, q };
}

const along = (n: number, dipped: readonly (Dipped & { sign: 1 | -1 })[]): Float64Array => {
	const h = new Float64Array(2 * n);
	for (const { probe, lever, sign } of dipped) {
		h[probe] = sign;
		h[n + probe] = sign * lever;
	}
	return h;
};

/** What a happening shows of the state. */
export function sightsOf(h: Happening, n: number): Sight[] {
	if (h.kind === 'set') return [];
	if (h.kind === 'pair') {
		const both = along(n, [
			{ ...h.a, sign: 1 },
			{ ...h.b, sign: -1 },
		]);
		return [{ h: both, value: h.value, variance: h.noise ** 2 }];
	}
	const level = {
		h: along(n, [{ probe: h.probe, lever: h.lever, sign: 1 }]),
		value: h.value,
		variance: h.variance,
	};
	if (!h.slope) return [level];
	const slope = new Float64Array(2 * n);
	slope[n + h.probe] = 1;
	return [level, { h: slope, ...h.slope }];
}

/** What a covariance of the state makes of two probes at a lever: theirs there; of a probe and itself its variance. */
export function across(m: Float64Array, n: number, a: number, b: number, lever: number): number {
	const at = (i: number, j: number) => m[i * 2 * n + j]!;
	return at(a, b) + lever * (at(a, n + b) + at(n + a, b)) + lever ** 2 * at(n + a, n + b);
}

/** The deviation of one probe at a lever. */
export function deviationOf({ mean, cov }: StateEstimate, probe: number, lever: number): Deviation {
	const n = mean.length / 2;
	return {
		mean: mean[probe]! + lever * mean[n + probe]!,
		variance: Math.max(across(cov, n, probe, probe, lever), 0),
	};
}
