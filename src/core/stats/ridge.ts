/** One row of a regression: what was seen, how uncertain, and what it is put down to. */
export interface Row {
	y: number;
	/** Standard deviation of y alone. */
	sigma: number;
	x: readonly number[];
}
/** What is held of a coefficient before anything is seen. */
export interface Belief {
	mean: number;
	sd: number;
}
export interface RidgeFit {
	coefficients: number[];
	/** Covariance of the coefficients, as rows. */
	covariance: number[][];
	/** How far rows lie from the fit, in their sigmas: 1 where sigmas are right, at least 0.3. */
	scale: number;
}

/** Rows further off than so many sigmas count less (Huber 1964). */
const HUBER = 1.5;
const ROUNDS = 12;
/** However close rows lie to the fit. */
const LEAST_SCALE = 0.3;

/**
 * Linear regression with normal beliefs on the coefficients and Huber’s weights, by reweighted least squares (Huber 1964; Hoerl and
 * Kennard 1970 for the beliefs). Sigmas are scaled by the median distance of the rows from the fit.
 * @param beliefs one for each column; sd above 0
 * @example ridge([{ y: 2, sigma: 0.1, x: [1] }, { y: 4, sigma: 0.1, x: [2] }], [{ mean: 0, sd: 1000 }]).coefficients[0] // 2
 */
export function ridge(rows: readonly Row[], beliefs: readonly Belief[]): RidgeFit {
	const p = beliefs.length;
	let coefficients = beliefs.map((b) => b.mean);
	let covariance = beliefs.map((b, i) => beliefs.map((_, j) => (i === j ? b.sd ** 2 : 0)));
	let scale = 1;
	const missOf = (r: Row) => (r.y - r.x.reduce((sum, v, j) => sum + v * coefficients[j]!, 0)) / r.sigma;
	for (let round = 0; round < ROUNDS; round++) {
		const a = beliefs.map((b, i) => beliefs.map((_, j) => (i === j ? 1 / b.sd ** 2 : 0)));
		const v = beliefs.map((b) => b.mean / b.sd ** 2);
		for (const r of rows) {
			const miss = round === 0 ? 0 : Math.abs(missOf(r)) / scale;
			const w = (miss > HUBER ? HUBER / miss : 1) / (r.sigma * scale) ** 2;
			for (let i = 0; i < p; i++) {
				v[i]! += w * r.x[i]! * r.y;
				for (let j = 0; j < p; j++) a[i]![j]! += w * r.x[i]! * r.x[j]!;
			}
		}
		covariance = inverse(a);
		coefficients = covariance.map((row) => row.reduce((sum, c, j) => sum + c * v[j]!, 0));
		const misses = rows.map((r) => Math.abs(missOf(r))).sort((x, y) => x - y);
		scale = Math.max(LEAST_SCALE, misses.length === 0 ? 1 : 1.4826 * misses[Math.floor(misses.length / 2)]!);
	}
	return { coefficients, covariance, scale };
}

/** Of a symmetric matrix with a positive diagonal, by Gauss and Jordan with the diagonal as pivots. */
function inverse(of: readonly (readonly number[])[]): number[][] {
	const n = of.length;
	const m = of.map((row, i) => [...row, ...row.map((_, j) => (i === j ? 1 : 0))]);
	for (let i = 0; i < n; i++) {
		const pivot = m[i]![i]!;
		for (let j = 0; j < 2 * n; j++) m[i]![j]! /= pivot;
		for (let k = 0; k < n; k++) {
			if (k === i) continue;
			const f = m[k]![i]!;
			for (let j = 0; j < 2 * n; j++) m[k]![j]! -= f * m[i]![j]!;
		}
	}
	return m.map((row) => row.slice(n));
}
