import { median, theilSenSlope } from '../series/robust';

/**
 * End of life: the robust trend of the slope in percent and the day it crosses 85 %.
 *
 * The window comes from the middle half of all pairwise slopes, widened: a date is never given as a point. A pen that shows no mV
 * hides its electrode: each adjustment resets its gain, so its slope is the product of the gains that adjustments took up with the
 * one found now. A check takes up nothing. Each factor brings an error of its own, so the product is known less and less well,
 * and a fall that is no larger than that is none.
 */
export const END_OF_LIFE_SLOPE_PCT = 85;

export interface SlopePoint {
	at: number;
	slopePct: number;
	/** Standard uncertainty of it, percent; 0 where it is not known. */
	u?: number | undefined;
}

export type LifeEstimate =
	| { known: false; reason: 'too-few' | 'not-falling' }
	| { known: true; now: number; perYearPct: number; earliest: number; latest: number | null };

/** A fall counts beyond so many of its standard uncertainties: 95 % of one side. */
const CERTAIN = 1.645;
const YEAR = 365.25 * 86_400_000;

/** A gain found in two standards: what an adjustment took up, or a check left as it was. */
export interface FoundGain {
	at: number;
	gain: number;
	kind: 'adjust' | 'check';
	/** Distance of the outermost standards, pH. */
	apart: number;
}
/** Standard uncertainty of one reading in a buffer, pH: bottle and display (±0.02 stated as usual, common practice). */
const IN_BUFFER = 0.015;

/**
 * Slopes of a pen without mV, oldest first: each gain times those that adjustments before it took up.
 * @example runningSlopes([{ at: 0, gain: 0.98, kind: 'adjust', apart: 3 }])[0].slopePct // 98
 */
export function runningSlopes(gains: readonly FoundGain[]): SlopePoint[] {
	let product = 1;
	let variance = 0;
	return gains.map(({ at, gain, kind, apart }) => {
		const own = 2 * (IN_BUFFER / apart) ** 2;
		const point = { at, slopePct: 100 * product * gain, u: 100 * product * gain * Math.sqrt(variance + own) };
		if (kind === 'adjust') {
			product *= gain;
			variance += own;
		}
		return point;
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
	const fallen = -slope * (last - x[0]!);
	const unsure = Math.hypot(points[0]!.u ?? 0, points.at(-1)!.u ?? 0);
	if (fallen < CERTAIN * unsure) return { known: false, reason: 'not-falling' };
	const when = (s: number) => (last + Math.max((END_OF_LIFE_SLOPE_PCT - now) / s, 0)) * YEAR;
	return { known: true, now, perYearPct: slope, earliest: when(steep), latest: flat < 0 ? when(flat) : null };
}
