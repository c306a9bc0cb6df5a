import { median, theilSenSlope } from '../series/robust';

/**
 * End of life: the robust trend of the slope in percent and the day it crosses 85 %.
 *
 * The window comes from the middle half of all pairwise slopes, widened: a date is never given as a point. A pen that
 * shows no mV hides its electrode, since each adjustment resets its gain; then the running product of the gains since
 * the probe was new is followed.
 */
export const END_OF_LIFE_SLOPE_PCT = 85;

export interface SlopePoint {
	at: number;
	slopePct: number;
}

export type LifeEstimate =
	| { known: false; reason: 'too-few' | 'not-falling' }
	| { known: true; now: number; perYearPct: number; earliest: number; latest: number | null };

const YEAR = 365.25 * 86_400_000;

/** Slopes of a pen without mV: the product of its gains since the first. */
export function runningSlopes(gains: readonly { at: number; gain: number }[]): SlopePoint[] {
	let product = 1;
	return gains.map(({ at, gain }) => {
		product *= gain;
		return { at, slopePct: 100 * product };
	});
}

/**
 * How a pH probe ages and when its slope reaches the end, by Theil–Sen over at least four slopes; unknown where it does not fall.
 * @example estimateLife([]).known // false
 */
export function estimateLife(points: readonly SlopePoint[]): LifeEstimate {
	if (points.length < 4) return { known: false, reason: 'too-few' };
	const x = points.map((p) => p.at / YEAR);
	const y = points.map((p) => p.slopePct);
	const pairs: number[] = [];
	for (let i = 0; i < x.length; i++)
		for (let j = i + 1; j < x.length; j++) if (x[j]! > x[i]!) pairs.push((y[j]! - y[i]!) / (x[j]! - x[i]!));
	pairs.sort((a, b) => a - b);
	const slope = theilSenSlope(x, y) ?? 0;
	const quantile = (q: number) => pairs[Math.min(Math.max(Math.round(q * (pairs.length - 1)), 0), pairs.length - 1)]!;
	const intercept = median(y.map((v, i) => v - slope * x[i]!));
	const last = x[x.length - 1]!;
	const now = intercept + slope * last;
	const steep = quantile(0.15);
	const flat = quantile(0.85);
	if (slope >= 0 || steep >= 0) return { known: false, reason: 'not-falling' };
	const when = (s: number) => (last + Math.max((END_OF_LIFE_SLOPE_PCT - now) / s, 0)) * YEAR;
	return { known: true, now, perYearPct: slope, earliest: when(steep), latest: flat < 0 ? when(flat) : null };
}
