import { median, pairSlopes } from '../series/robust';
import { inverseNormal } from '../stats/quasi-normal';

/**
 * Whether values rise or fall with time, and how fast, without a word on their distribution: the test of Mann (1945) and Kendall (1975)
 * with the slope of Theil and Sen (Sen 1968). Series that are cut, by a refill or a new season, are compared only within their parts
 * and then put together (the seasonal Kendall test; Hirsch, Slack and Smith 1982).
 */
export interface Part {
	/** Ascending. */
	x: readonly number[];
	y: readonly number[];
}
export interface Kendall {
	/** Pairs that rise less pairs that fall. */
	s: number;
	variance: number;
	/** Two-sided; exact for one part of up to ten values without ties, else by the normal approximation. */
	p: number;
}
export interface Slope {
	/** Median of the slopes of all pairs of a part, per unit of x. */
	value: number;
	low: number;
	high: number;
}

/** So few values without ties are counted exactly. */
const EXACT = 10;

const sign = (v: number): number => (v > 0 ? 1 : v < 0 ? -1 : 0);

/** Sizes of groups of equal values. */
function ties(values: readonly number[]): number[] {
	const counts = new Map<number, number>();
	for (const v of values) counts.set(v, (counts.get(v) ?? 0) + 1);
	return [...counts.values()].filter((n) => n > 1);
}

/** Pairs that rise less pairs that fall, and the variance of that where nothing trends; with ties in both (Kendall 1970, p. 55). */
function ofPart({ x, y }: Part): { s: number; variance: number } {
	const n = x.length;
	let s = 0;
	for (let i = 0; i < n; i++) for (let j = i + 1; j < n; j++) s += sign(x[j]! - x[i]!) * sign(y[j]! - y[i]!);
	if (n < 2) return { s: 0, variance: 0 };
	const [tx, ty] = [ties(x), ties(y)];
	const sum = (list: readonly number[], f: (t: number) => number) => list.reduce((a, t) => a + f(t), 0);
	const v0 = n * (n - 1) * (2 * n + 5);
	const vt = (list: readonly number[]) => sum(list, (t) => t * (t - 1) * (2 * t + 5));
	const v1 = sum(tx, (t) => t * (t - 1)) * sum(ty, (t) => t * (t - 1));
	const v2 = sum(tx, (t) => t * (t - 1) * (t - 2)) * sum(ty, (t) => t * (t - 1) * (t - 2));
	return {
		s,
		variance: (v0 - vt(tx) - vt(ty)) / 18 + v1 / (2 * n * (n - 1)) + (n > 2 ? v2 / (9 * n * (n - 1) * (n - 2)) : 0),
	};
}

/** How likely it is that as many pairs go one way where all orders of n values are alike; for n without ties. */
function exactP(n: number, s: number): number {
	// Orders of so many values with k pairs that fall (the Mahonian numbers).
	let counts = [1];
	for (let m = 2; m <= n; m++) {
		const next = new Array<number>(counts.length + m - 1).fill(0);
		for (const [k, c] of counts.entries()) for (let i = 0; i < m; i++) next[k + i]! += c;
		counts = next;
	}
	const all = counts.reduce((a, c) => a + c, 0);
	const pairs = (n * (n - 1)) / 2;
	const fall = (pairs - Math.abs(s)) / 2;
	let tail = 0;
	for (let k = 0; k <= fall; k++) tail += counts[k]!;
	return Math.min(1, (2 * tail) / all);
}

/** Two-sided tail of the normal distribution (Abramowitz and Stegun 7.1.26, |error| < 1.5e-7). */
function twoSided(z: number): number {
	const x = Math.abs(z) / Math.SQRT2;
	const t = 1 / (1 + 0.3275911 * x);
	return (
		t * (0.254829592 + t * (-0.284496736 + t * (1.421413741 + t * (-1.453152027 + t * 1.061405429)))) * Math.exp(-x * x)
	);
}

/**
 * Whether the values of all parts together rise or fall.
 * @returns null where no part has two values that could be compared
 * @example mannKendall([{ x: [1, 2, 3, 4, 5], y: [1, 2, 3, 4, 5] }]).s // 10
 */
export function mannKendall(parts: readonly Part[]): Kendall | null {
	const all = parts.map(ofPart);
	const s = all.reduce((a, p) => a + p.s, 0);
	const variance = all.reduce((a, p) => a + p.variance, 0);
	if (!(variance > 0)) return null;
	const [only] = parts.filter((p) => p.x.length > 1);
	const alone = parts.filter((p) => p.x.length > 1).length === 1;
	const exact = alone && only!.x.length <= EXACT && ties(only!.x).length === 0 && ties(only!.y).length === 0;
	// Of several parts with the correction for continuity, as the seasonal test has it.
	const z = (alone ? Math.abs(s) : Math.max(0, Math.abs(s) - 1)) / Math.sqrt(variance);
	return { s, variance, p: exact ? exactP(only!.x.length, s) : Math.min(1, twoSided(z)) };
}

/**
 * The slope of all parts together, with bounds that hold it with the given confidence (Sen 1968; for parts Gilbert 1987).
 * @returns null where no part has two values of different x
 * @example theilSen([{ x: [0, 1, 2, 3], y: [0, 2, 4, 6] }]).value // 2
 */
export function theilSen(parts: readonly Part[], confidence = 0.95): Slope | null {
	const slopes = parts.flatMap(({ x, y }) => pairSlopes(x, y));
	if (slopes.length === 0) return null;
	const sorted = Float64Array.from(slopes).sort();
	const n = sorted.length;
	// As in Sen's paper: ranks around the middle, by the variance without the ties of x.
	const sigma = Math.sqrt(
		parts.reduce((a, { x, y }) => {
			const m = x.length;
			const of = (list: readonly number[]) => ties(list).reduce((b, t) => b + t * (t - 1) * (2 * t + 5), 0);
			return a + Math.max(0, (m * (m - 1) * (2 * m + 5) - of(x) - of(y)) / 18);
		}, 0),
	);
	const z = inverseNormal(0.5 + confidence / 2);
	const low = Math.max(Math.round((n - z * sigma) / 2) - 1, 0);
	const high = Math.min(Math.round((n + z * sigma) / 2), n - 1);
	return { value: median(slopes), low: sorted[low]!, high: sorted[high]! };
}
