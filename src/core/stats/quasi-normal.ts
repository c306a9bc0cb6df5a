/** Halton’s sequence: numbers in (0, 1) that fill it evenly, the nth in a base (Halton 1960). n from 1. */
export function halton(n: number, base: number): number {
	let [f, r, i] = [1, 0, n];
	while (i > 0) {
		f /= base;
		r += f * (i % base);
		i = Math.floor(i / base);
	}
	return r;
}

/**
 * The normal deviate below which a share lies, for 0 < p < 1: rational approximation of Abramowitz and Stegun 26.2.23,
 * |error| < 4.5e-4.
 * @example inverseNormal(0.975) // 1.96
 */
export function inverseNormal(p: number): number {
	const tail = Math.min(p, 1 - p);
	const t = Math.sqrt(-2 * Math.log(tail));
	const x =
		t - (2.515517 + 0.802853 * t + 0.010328 * t * t) / (1 + 1.432788 * t + 0.189269 * t * t + 0.001308 * t * t * t);
	return p < 0.5 ? -x : x;
}

/** So many of each base are remembered: they are the same whoever asks. */
const REMEMBERED = 4096;
const byBase = new Map<number, Float64Array>();

/**
 * The nth quasi-random normal deviate of a base: `inverseNormal(halton(n, base))`, n a whole number from 1.
 * @example normalAt(3, 2) // 0.67
 */
export function normalAt(n: number, base: number): number {
	if (n > REMEMBERED) return inverseNormal(halton(n, base));
	let known = byBase.get(base);
	if (!known) {
		known = Float64Array.from({ length: REMEMBERED }, (_, i) => inverseNormal(halton(i + 1, base)));
		byBase.set(base, known);
	}
	return known[n - 1]!;
}
