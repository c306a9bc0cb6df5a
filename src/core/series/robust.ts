/** Robust statistics for short windows. Inputs are finite; callers filter. */

/** Sorted copies of short windows live here: the checks take medians by the million, and allocating each would cost more than sorting. */
const SHORT = 64;
const scratch = new Float64Array(SHORT);

function insertSorted(length: number, value: number): void {
	let i = length;
	while (i > 0 && scratch[i - 1]! > value) {
		scratch[i] = scratch[i - 1]!;
		i--;
	}
	scratch[i] = value;
}

const middle = (sorted: ArrayLike<number>, n: number): number => {
	const half = n >> 1;
	return n % 2 ? sorted[half]! : (sorted[half - 1]! + sorted[half]!) / 2;
};

/** Median, the mean of the middle two for an even count (type 7). NaN for none. */
export function median(values: readonly number[]): number {
	const n = values.length;
	if (n === 0) return Number.NaN;
	if (n > SHORT) return middle(Float64Array.from(values).sort(), n);
	for (let i = 0; i < n; i++) insertSorted(i, values[i]!);
	return middle(scratch, n);
}

/** 1/Φ⁻¹(3/4): makes the median absolute deviation estimate σ of normal data (Rousseeuw and Croux 1993). */
export const MAD_TO_SIGMA = 1.482602218505602;

/** Median absolute deviation from the median, scaled to σ. */
export function madSigma(values: readonly number[]): number {
	const centre = median(values);
	return MAD_TO_SIGMA * median(values.map((v) => Math.abs(v - centre)));
}

/**
 * Theil–Sen slope: the median of the slopes of all pairs with different x (Sen 1968). O(n²): for windows only.
 * Null when fewer than two different x exist.
 */
export function theilSenSlope(x: readonly number[], y: readonly number[]): number | null {
	const slopes: number[] = [];
	for (let i = 0; i < x.length; i++)
		for (let j = i + 1; j < x.length; j++) if (x[j] !== x[i]) slopes.push((y[j]! - y[i]!) / (x[j]! - x[i]!));
	return slopes.length === 0 ? null : median(slopes);
}
