/**
 * Estimates of a state that wanders and is seen now and then, forward (Kalman 1960, Journal of Basic Engineering 82, 35) and back
 * (Rauch, Tung and Striebel 1965, AIAA Journal 3, 1445). For small states: a probe's error, or those of a few probes together.
 *
 * Matrices are rows after one another. Observations are single numbers, taken one after the other, which is the same as all at once
 * where their noises are independent, and needs no inverse (Durbin and Koopman 2012, section 6.4).
 */
export interface StateEstimate {
	/** Of each component. */
	mean: Float64Array;
	/** Covariance, n × n. */
	cov: Float64Array;
}

/** What happens to the state before it is next seen. Where nothing is said it stays as it is. */
export interface Transition {
	/** n × n; the identity where absent. */
	f?: Float64Array | undefined;
	/** Covariance of what is added by chance, n × n; none where absent. */
	q?: Float64Array | undefined;
}

/** value = h · state + noise. */
export interface Sight {
	h: Float64Array;
	value: number;
	variance: number;
}

/** What is known before anything was seen: these means, and independent variances. */
export function startState(mean: readonly number[], variances: readonly number[]): StateEstimate {
	const n = mean.length;
	const cov = new Float64Array(n * n);
	for (let i = 0; i < n; i++) cov[i * n + i] = variances[i]!;
	return { mean: Float64Array.from(mean), cov };
}

function product(a: Float64Array, b: Float64Array, n: number, transposeB = false): Float64Array {
	const out = new Float64Array(n * n);
	for (let i = 0; i < n; i++)
		for (let j = 0; j < n; j++) {
			let sum = 0;
			for (let k = 0; k < n; k++) sum += a[i * n + k]! * (transposeB ? b[j * n + k]! : b[k * n + j]!);
			out[i * n + j] = sum;
		}
	return out;
}

/** The state a step later. */
export function predictState({ mean, cov }: StateEstimate, { f, q }: Transition): StateEstimate {
	const n = mean.length;
	let next: StateEstimate = { mean: mean.slice(), cov: cov.slice() };
	if (f) {
		const moved = new Float64Array(n);
		for (let i = 0; i < n; i++) for (let j = 0; j < n; j++) moved[i]! += f[i * n + j]! * mean[j]!;
		next = { mean: moved, cov: product(product(f, cov, n), f, n, true) };
	}
	if (q) for (let i = 0; i < n * n; i++) next.cov[i]! += q[i]!;
	return next;
}

/** What a sight is expected to be: value − h · mean, and the variance of that. */
export function innovation(
	{ mean, cov }: StateEstimate,
	{ h, value, variance }: Sight,
): { miss: number; variance: number } {
	const n = mean.length;
	let miss = value;
	let spread = variance;
	for (let i = 0; i < n; i++) {
		const hi = h[i]!;
		if (hi === 0) continue;
		miss -= hi * mean[i]!;
		for (let j = 0; j < n; j++) spread += hi * cov[i * n + j]! * h[j]!;
	}
	return { miss, variance: spread };
}

/** The state once something of it was seen. A sight without noise of a state without doubt changes nothing. */
export function updateState(state: StateEstimate, sight: Sight): StateEstimate {
	const { mean, cov } = state;
	const n = mean.length;
	const { miss, variance } = innovation(state, sight);
	if (!(variance > 0)) return state;
	const seen = new Float64Array(n);
	for (let i = 0; i < n; i++) for (let j = 0; j < n; j++) seen[i]! += cov[i * n + j]! * sight.h[j]!;
	const next: StateEstimate = { mean: mean.slice(), cov: cov.slice() };
	for (let i = 0; i < n; i++) {
		next.mean[i]! += (seen[i]! * miss) / variance;
		for (let j = 0; j <= i; j++) {
			const c = cov[i * n + j]! - (seen[i]! * seen[j]!) / variance;
			next.cov[i * n + j] = c;
			next.cov[j * n + i] = c;
		}
	}
	return next;
}

/** One time at which the state was looked at: what led there, and what was seen. */
export interface Epoch {
	transition: Transition;
	sights: readonly Sight[];
}
/** The state at each epoch by what was seen until then. */
export interface Filtered {
	/** Before anything of the epoch was seen. */
	predicted: StateEstimate[];
	/** After. */
	updated: StateEstimate[];
}

/** Forward through all epochs; linear in them. */
export function filterStates(start: StateEstimate, epochs: readonly Epoch[]): Filtered {
	const predicted: StateEstimate[] = [];
	const updated: StateEstimate[] = [];
	let state = start;
	for (const { transition, sights } of epochs) {
		state = predictState(state, transition);
		predicted.push(state);
		for (const sight of sights) state = updateState(state, sight);
		updated.push(state);
	}
	return { predicted, updated };
}

/** Solves x · a = b for x, a symmetric and positive semidefinite; what a knows nothing of is left out. */
function solveRight(b: Float64Array, a: Float64Array, n: number): Float64Array {
	// LDLᵀ; a pivot that is nothing against the largest belongs to a component without doubt.
	const l = new Float64Array(n * n);
	const d = new Float64Array(n);
	let largest = 0;
	for (let i = 0; i < n; i++) largest = Math.max(largest, a[i * n + i]!);
	for (let j = 0; j < n; j++) {
		let dj = a[j * n + j]!;
		for (let k = 0; k < j; k++) dj -= l[j * n + k]! ** 2 * d[k]!;
		d[j] = dj > largest * 1e-14 ? dj : 0;
		l[j * n + j] = 1;
		for (let i = j + 1; i < n; i++) {
			let s = a[i * n + j]!;
			for (let k = 0; k < j; k++) s -= l[i * n + k]! * l[j * n + k]! * d[k]!;
			l[i * n + j] = d[j] === 0 ? 0 : s / d[j]!;
		}
	}
	const x = new Float64Array(n * n);
	for (let r = 0; r < n; r++) {
		const y = new Float64Array(n);
		for (let i = 0; i < n; i++) {
			let s = b[r * n + i]!;
			for (let k = 0; k < i; k++) s -= l[i * n + k]! * y[k]!;
			y[i] = s;
		}
		for (let i = n - 1; i >= 0; i--) {
			let s = d[i] === 0 ? 0 : y[i]! / d[i]!;
			for (let k = i + 1; k < n; k++) s -= l[k * n + i]! * x[r * n + k]!;
			x[r * n + i] = s;
		}
	}
	return x;
}

/** The state at each epoch by everything that was seen, before it and after. */
export interface Smoothed {
	states: StateEstimate[];
	/** Covariance of each state with the next, n × n; one fewer than states. */
	cross: Float64Array[];
}

/** Back through all epochs; linear in them. */
export function smoothStates(epochs: readonly Epoch[], { predicted, updated }: Filtered): Smoothed {
	const last = updated.length - 1;
	const states: StateEstimate[] = new Array(updated.length);
	const cross: Float64Array[] = new Array(Math.max(last, 0));
	if (last < 0) return { states, cross };
	states[last] = updated[last]!;
	const n = updated[last]!.mean.length;
	for (let t = last - 1; t >= 0; t--) {
		const here = updated[t]!;
		const ahead = predicted[t + 1]!;
		const after = states[t + 1]!;
		const f = epochs[t + 1]!.transition.f;
		const gain = solveRight(f ? product(here.cov, f, n, true) : here.cov, ahead.cov, n);
		const mean = here.mean.slice();
		const change = new Float64Array(n * n);
		for (let i = 0; i < n; i++)
			for (let j = 0; j < n; j++) mean[i]! += gain[i * n + j]! * (after.mean[j]! - ahead.mean[j]!);
		for (let i = 0; i < n * n; i++) change[i] = after.cov[i]! - ahead.cov[i]!;
		const cov = product(product(gain, change, n), gain, n, true);
		for (let i = 0; i < n * n; i++) cov[i]! += here.cov[i]!;
		states[t] = { mean, cov };
		cross[t] = product(gain, after.cov, n);
	}
	return { states, cross };
}
