/** Standard normal distribution function, by erfc's rational approximation (Abramowitz and Stegun 7.1.26, |ε| < 1.5e-7). */
export function normalCdf(z: number): number {
	const x = Math.abs(z) / Math.SQRT2;
	const t = 1 / (1 + 0.3275911 * x);
	const poly = t * (0.254829592 + t * (-0.284496736 + t * (1.421413741 + t * (-1.453152027 + t * 1.061405429))));
	const tail = 0.5 * poly * Math.exp(-x * x);
	return z > 0 ? 1 - tail : tail;
}

/** Chance that the true value lies in a range, for a value with a standard uncertainty. */
export function chanceInRange(value: number, u: number, range: { low: number; high: number }): number {
	if (!(u > 0)) return value >= range.low && value <= range.high ? 1 : 0;
	return Math.max(0, normalCdf((range.high - value) / u) - normalCdf((range.low - value) / u));
}

/** Zeta score of two results for one sample (ISO 13528): above 2 questionable, above 3 unacceptable. */
export const zetaScore = (x1: number, u1: number, x2: number, u2: number): number => {
	const u = Math.hypot(u1, u2);
	return u > 0 ? Math.abs(x1 - x2) / u : x1 === x2 ? 0 : Number.POSITIVE_INFINITY;
};
