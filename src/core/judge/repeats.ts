/**
 * How a sensor usually repeats itself, learned as it goes, so that a flat line can be told from a coarse display.
 *
 * With a chance p that a reading equals the one before, a run of n is a chance of p^n. A display whose steps are larger
 * than its noise changes by single steps only and rests on one for hours; from such a one a flat line is told only
 * after a day.
 */
export interface Repeats {
	run: number;
	/** Share of readings equal to the one before, as it was when the run began, and as it is now. */
	shareAtStart: number;
	share: number;
	/** Smallest change seen, and the share of changes larger than one such step. */
	step: number | null;
	manySteps: number;
	seen: number;
}

/** A display of which nothing is known yet: it may well repeat itself. */
export const noRepeats = (): Repeats => ({
	run: 1,
	shareAtStart: 0.9,
	share: 0.9,
	step: null,
	manySteps: 0,
	seen: 0,
});

/** Readings over which the shares are averaged. */
const MEMORY = 120;
const WARM_UP = 100;
const IMPROBABLE = 1e-6;
const LEAST = 8;
const COARSE = 0.12;
/** Of five-minute readings, a day. */
export const COARSE_RUN = 288;

/** Takes one more reading in, in place. */
export function countRepeat(r: Repeats, before: number, value: number): void {
	const same = value === before;
	r.share += ((same ? 1 : 0) - r.share) / MEMORY;
	r.seen++;
	if (same) {
		r.run++;
		return;
	}
	r.run = 1;
	r.shareAtStart = r.share;
	const change = Math.abs(value - before);
	// Rounding of the typed digits aside.
	if (r.step === null || change < r.step * 0.99) r.step = change;
	r.manySteps += ((change > 1.5 * r.step ? 1 : 0) - r.manySteps) / (MEMORY / 3);
}

/** The length from which a run is no chance; infinite while too little is known. */
export function improbableFrom(r: Repeats): number {
	if (r.seen < WARM_UP) return Number.MAX_SAFE_INTEGER;
	if (r.manySteps < COARSE) return COARSE_RUN;
	return Math.max(LEAST, Math.ceil(Math.log(IMPROBABLE) / Math.log(Math.min(Math.max(r.shareAtStart, 0.05), 0.99))));
}
