/**
 * A sensor held against the hand readings beside it: slow drift, found by a two-sided cumulative sum (CUSUM) of their
 * differences. With k = 0.5 and h = 5 standard deviations it runs about 465 comparisons before a false alarm, and finds
 * a shift of one standard deviation in about ten (Montgomery, Introduction to Statistical Quality Control; Page 1954).
 */
export interface Drifting {
	/** Time of the newest comparison. */
	at: number;
	up: number;
	down: number;
	/** Exponentially weighted mean of the differences, pH or share of EC. */
	mean: number;
	comparisons: number;
	against: string;
	wild: number;
	alarmed: boolean;
	/** Comparisons in a row that agree again. */
	calm: number;
}

const K = 0.5;
const H = 5;
/** Standard deviation of one difference: a hand-held pen and the water between the two (common practice, no source). */
const SIGMA = { ph: 0.1, ec: 0.03 } as const;
/** What a sensor and a pen may differ by, each within its accuracy: pH, share of EC (common practice: ±0.1 pH and ±2 % each). */
export const SOUND = { ph: 0.15, ec: 0.04 } as const;
const WEIGHT = 0.3;
/** Beyond this many standard deviations a single difference is a slip of the hand and not drift. */
const OUTLIER = 6;
/** This many comparisons in a row within this many standard deviations withdraw the alarm. */
const CALM_TIMES = 2;
const CALM = 1.2;

/** Two instruments that have not been held against one another since this time. */
export const noDrift = (at: number): Drifting => ({
	at,
	up: 0,
	down: 0,
	mean: 0,
	comparisons: 0,
	against: '',
	wild: 0,
	alarmed: false,
	calm: 0,
});

/** Takes one comparison in, in place. */
export function compareWith(
	d: Drifting,
	quantity: 'ph' | 'ec',
	at: number,
	sensor: number,
	hand: number,
	by: string,
): void {
	if (quantity === 'ec' && !(hand > 0)) return;
	const difference = quantity === 'ph' ? sensor - hand : (sensor - hand) / hand;
	const z = difference / SIGMA[quantity];
	const expected = d.comparisons === 0 ? 0 : d.mean / SIGMA[quantity];
	d.at = at;
	// One wild difference is a slip of the hand; a second like it is the sensor.
	d.wild = Math.abs(z - expected) > OUTLIER ? d.wild + 1 : 0;
	if (d.wild === 1) return;
	d.mean = d.comparisons === 0 ? difference : d.mean + WEIGHT * (difference - d.mean);
	d.comparisons++;
	d.against = by;
	d.up = Math.max(0, d.up + z - K);
	d.down = Math.max(0, d.down - z - K);
	// Two sound instruments may be that far apart for good: which of them moved, nobody knows.
	if ((d.up > H || d.down > H) && Math.abs(d.mean) > SOUND[quantity]) d.alarmed = true;
	d.calm = Math.abs(z) < CALM ? d.calm + 1 : 0;
	if (d.alarmed && d.calm >= CALM_TIMES) Object.assign(d, { up: 0, down: 0, mean: difference, alarmed: false });
}

/** The offset where the sum has crossed its limit, else null. */
export const driftOf = (d: Drifting): { offset: number; against: string; comparisons: number } | null =>
	d.alarmed ? { offset: d.mean, against: d.against, comparisons: d.comparisons } : null;

/** What the sensor would show without its offset. */
export const withoutDrift = (quantity: string, value: number, offset: number): number =>
	quantity === 'ph' ? value - offset : value / (1 + offset);
