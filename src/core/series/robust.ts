/** Robust statistics for short windows. Inputs are finite; callers filter. */

/** Copies of short windows live here: the checks take medians by the million, and allocating each would cost more than finding it. */
const SHORT = 64;
const scratch = new Float64Array(SHORT);

/** Puts the k-th smallest of the first n in its place, the smaller before it (Hoare 1961). */
function select(n: number, k: number): void {
	let left = 0;
	let right = n - 1;
	while (left < right) {
		const pivot = scratch[k]!;
		let i = left;
		let j = right;
		do {
			while (scratch[i]! < pivot) i++;
			while (pivot < scratch[j]!) j--;
			if (i <= j) {
				const held = scratch[i]!;
				scratch[i++] = scratch[j]!;
				scratch[j--] = held;
			}
		} while (i <= j);
		if (j < k) left = i;
		if (k < i) right = j;
	}
}

/** The median of what lies in the scratch. */
function medianOfScratch(n: number): number {
	const half = n >> 1;
	select(n, half);
	if (n % 2) return scratch[half]!;
	let below = scratch[0]!;
	for (let i = 1; i < half; i++) if (scratch[i]! > below) below = scratch[i]!;
	return (below + scratch[half]!) / 2;
}

/** Median, the mean of the middle two for an even count (type 7), from one position on. NaN for none. */
export function median(values: readonly number[], from = 0): number {
	const n = values.length - from;
	if (n <= 0) return Number.NaN;
	if (n > SHORT) {
		const sorted = Float64Array.from(from === 0 ? values : values.slice(from)).sort();
		return n % 2 ? sorted[n >> 1]! : (sorted[(n >> 1) - 1]! + sorted[n >> 1]!) / 2;
	}
	for (let i = 0; i < n; i++) scratch[i] = values[from + i]!;
	return medianOfScratch(n);
}

/** Median of the steps from each value to the next. NaN for fewer than two values. */
export function medianStep(values: readonly number[]): number {
	const n = values.length - 1;
	if (n > SHORT) return median(values.slice(1).map((v, i) => v - values[i]!));
	if (n <= 0) return Number.NaN;
	for (let i = 0; i < n; i++) scratch[i] = values[i + 1]! - values[i]!;
	return medianOfScratch(n);
}

/** 1/Φ⁻¹(3/4): makes the median absolute deviation estimate σ of normal data (Rousseeuw and Croux 1993). */
export const MAD_TO_SIGMA = 1.482602218505602;

/** Median absolute deviation from the median, scaled to σ. */
export function madSigma(values: readonly number[]): number {
	const centre = median(values);
	return MAD_TO_SIGMA * median(values.map((v) => Math.abs(v - centre)));
}

/**
 * Slopes of all pairs with different x.
 * @example pairSlopes([0, 1, 1], [0, 2, 4]) // [2, 4]
 */
export function pairSlopes(x: readonly number[], y: readonly number[]): number[] {
	const slopes: number[] = [];
	for (let i = 0; i < x.length; i++)
		for (let j = i + 1; j < x.length; j++) if (x[j] !== x[i]) slopes.push((y[j]! - y[i]!) / (x[j]! - x[i]!));
	return slopes;
}

/**
 * Theil–Sen slope: the median of the slopes of all pairs with different x (Sen 1968). O(n²): for windows only.
 * Null when fewer than two different x exist.
 */
export function theilSenSlope(x: readonly number[], y: readonly number[]): number | null {
	if ((x.length * (x.length - 1)) / 2 > SHORT) {
		const slopes = pairSlopes(x, y);
		return slopes.length === 0 ? null : median(slopes);
	}
	let n = 0;
	for (let i = 0; i < x.length; i++)
		for (let j = i + 1; j < x.length; j++) if (x[j] !== x[i]) scratch[n++] = (y[j]! - y[i]!) / (x[j]! - x[i]!);
	return n === 0 ? null : medianOfScratch(n);
}

/**
 * Whether the Theil–Sen slope may be steeper than a limit, up or down: half of the pairs must be, which is counted in a fraction of
 * the time that the slope itself takes. x ascending.
 */
export function slopeMayExceed(x: readonly number[], y: readonly number[], limit: number): boolean {
	// What rounding might decide otherwise is left to the slope itself.
	const least = limit * (1 - 1e-9);
	let [pairs, up, down] = [0, 0, 0];
	for (let i = 0; i < x.length; i++)
		for (let j = i + 1; j < x.length; j++) {
			const run = x[j]! - x[i]!;
			if (run === 0) continue;
			pairs++;
			const rise = y[j]! - y[i]!;
			if (rise > least * run) up++;
			else if (-rise > least * run) down++;
		}
	return 2 * Math.max(up, down) >= pairs - 1;
}
