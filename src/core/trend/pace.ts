import { median } from '../series/robust';
import { type Point, spansOf } from './trend';

/** A pace that is another from some day on. */
export interface PaceChange {
	at: number;
	/** Per day, medians before and after. */
	before: number;
	after: number;
	p: number;
	/** How many paces stand before and after. */
	n: [number, number];
}

const DAY = 86_400_000;
/** Fewer paces say nothing of a change. */
const LEAST = 14;
/** On each side. */
const LEAST_SIDE = 4;
const RARE = 0.01;

/**
 * Where a list of values changes its level, and how likely chance alone does as much: the test of Pettitt (1979), by the ranks alone,
 * p ≈ 2·exp(−6K²/(n³ + n²)).
 * @returns null for fewer than two values; `after` is the place of the first value after the change
 * @example pettitt([1, 1.2, 0.9, 1.1, 5, 5.2, 4.9, 5.1]).k // 16
 */
export function pettitt(values: readonly number[]): { k: number; p: number; after: number } | null {
	const n = values.length;
	if (n < 2) return null;
	let [u, k, after] = [0, 0, 1];
	for (let t = 0; t < n - 1; t++) {
		for (const v of values) u += Math.sign(values[t]! - v);
		if (Math.abs(u) > k) [k, after] = [Math.abs(u), t + 1];
	}
	return { k, p: Math.min(1, 2 * Math.exp((-6 * k * k) / (n ** 3 + n ** 2))), after };
}

/**
 * Whether a series goes at another pace since some day: the paces from day to day within each stretch between cuts, put to the test of
 * Pettitt. What is done to the water at once is no pace.
 * @param points believed values, oldest first
 * @returns null where chance alone could do it, or too little is known
 */
export function paceChange(points: readonly Point[], cuts: readonly number[]): PaceChange | null {
	const paces = spansOf(points, cuts).flatMap(pacesOf);
	const n = paces.length;
	if (n < LEAST) return null;
	const found = pettitt(paces.map((p) => p.perDay))!;
	if (found.p > RARE || Math.min(found.after, n - found.after) < LEAST_SIDE) return null;
	const middle = (list: typeof paces) => median(list.map((p) => p.perDay));
	return {
		at: paces[found.after]!.from,
		before: middle(paces.slice(0, found.after)),
		after: middle(paces.slice(found.after)),
		p: found.p,
		n: [found.after, n - found.after],
	};
}

/** Paces from one value to the next that is a day later or more, none of them overlapping. */
function pacesOf(span: readonly Point[]): { from: number; perDay: number }[] {
	const paces: { from: number; perDay: number }[] = [];
	let first = span[0]!;
	for (const p of span) {
		// Nearly a day: people are not on time.
		if (p.at - first.at < 0.8 * DAY) continue;
		paces.push({ from: first.at, perDay: ((p.value - first.value) * DAY) / (p.at - first.at) });
		first = p;
	}
	return paces;
}
