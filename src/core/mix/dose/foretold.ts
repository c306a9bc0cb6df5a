/**
 * How well the readings of a tank have been foretold: the misses of its forecasts, each over its own standard deviation. A pen
 * whose junction is dirty, or a tank that does what nobody knows of, shows itself in them, and what is stated of the next
 * reading is widened by as much. Median of absolute misses over 0.6745, the robust standard deviation (Rousseeuw and Croux
 * 1993, J. Am. Stat. Assoc. 88), or their 0.8 quantile over 1.2816 where that is more (heavy tails), with some usual ones counted in so that a few readings decide nothing.
 */
export type Misses = number[];

const PER_SD = 0.6745;
const FAR = 0.8;
const FAR_SD = 1.2816;
/** Quantiles of an absolute standard normal miss at 0.1, 0.3, 0.5, 0.7 and 0.9. */
const USUAL = [0.126, 0.385, 0.674, 1.036, 1.645];
const LAST = 15;
const MOST = 5;

/** 1 where readings come as foretold or nearer, up to 5 where they do not. */
export function wideningOf(misses: Misses): number {
	const all = [...USUAL, ...misses.slice(-LAST).map(Math.abs)].sort((a, b) => a - b);
	const half = all.length / 2;
	const median = (all[Math.floor(half - 0.5)]! + all[Math.floor(half)]!) / 2;
	// Heavy tails show in the outer misses, not in the middle one.
	const at = FAR * (all.length - 1);
	const far = all[Math.floor(at)]! + (at - Math.floor(at)) * (all[Math.ceil(at)]! - all[Math.floor(at)]!);
	return Math.min(Math.max(median / PER_SD, far / FAR_SD, 1), MOST);
}
