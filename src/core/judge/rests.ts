/**
 * How long a display usually rests on one value, learned as it goes, so that a flat line can be told from a coarse display: by time
 * and not by readings, so that a sensor of every minute and one of every hour are judged alike. What rests twice as long as it ever
 * did in the last days hangs; a display whose steps are larger than its noise rests for hours by chance, and is given longer.
 */
export interface Rests {
	/** When the value that stands was first repeated; null where it has just changed. */
	since: number | null;
	/** The longest that is over of each of the last days, ms; oldest first. */
	longest: number[];
	/** The day of the last of them. */
	day: number | null;
	/** When it was first watched. */
	from: number;
	/** Share of readings that were as the one before. */
	share: number;
}

const DAY = 86_400_000;
const HOUR = 3_600_000;
const REMEMBERED_DAYS = 6;
/** A rest this many times the longest before is no chance: of a fine display, of a coarse one, of all values of a node together. */
const TIMES = { fine: 2, coarse: 3, together: 2.5 } as const;
/** And as many readings as chance does not repeat, by the share that usually is as the one before: within bounds, since waters stand still too. */
const WHILES = { least: 8, most: 24, chance: 1e-6 } as const;
const SHARE_OF = 120;
const LEAST_MS = { fine: 20 * 60_000, coarse: 24 * HOUR, together: 30 * 60_000 } as const;
/** A night must have been seen; of a coarse display two. */
const KNOWN_AFTER_MS = { fine: 0.9 * DAY, coarse: 1.9 * DAY, together: 0.9 * DAY } as const;

export type Resting = keyof typeof TIMES;

/** A display that is watched from a time on. */
export const noRests = (from: number): Rests => ({ since: null, longest: [], day: null, from, share: 0.9 });

/**
 * Takes one more reading in, in place.
 * @param before when the reading before was taken
 * @param rests whether nothing has changed since
 * @param limit from how long on it was no chance, ms: that must not hide the next, so of such a rest only half as much counts
 */
export function countRest(r: Rests, before: number, at: number, rests: boolean, limit: number): void {
	r.share += ((rests ? 1 : 0) - r.share) / SHARE_OF;
	if (rests) {
		r.since ??= at;
		return;
	}
	const day = Math.floor(at / DAY);
	// Most readings end no rest.
	if (r.since === null && r.day !== null && r.day === day) return;
	const lasted = r.since === null ? 0 : before - r.since;
	const length = lasted < limit ? lasted : limit / 2;
	r.since = null;
	if (r.day !== day) {
		r.day = day;
		r.longest.push(0);
		if (r.longest.length > REMEMBERED_DAYS) r.longest.shift();
	}
	const last = r.longest.length - 1;
	r.longest[last] = Math.max(r.longest[last]!, length);
}

/** From how long on a rest is no chance, ms; infinite while too little is known. */
export function restLimit(r: Rests, kind: Resting, usualGapMs: number | null, at: number): number {
	if (usualGapMs === null || at - r.from < KNOWN_AFTER_MS[kind]) return Number.POSITIVE_INFINITY;
	return Math.max(TIMES[kind] * longestOf(r), whilesFor(r.share) * usualGapMs, LEAST_MS[kind]);
}
/** How many readings in a row chance does not repeat, by the share that usually is as the one before. */
function whilesFor(share: number): number {
	if (share <= FEW) return WHILES.least;
	return share >= MANY ? WHILES.most : Math.ceil(Math.log(WHILES.chance) / Math.log(share));
}
/** Shares at which as many as the bounds are wanted. */
const FEW = WHILES.chance ** (1 / WHILES.least);
const MANY = WHILES.chance ** (1 / WHILES.most);

/** The longest rest of the last days that is over, ms. */
export const longestOf = (r: Rests): number => r.longest.reduce((a, b) => Math.max(a, b), 0);

/** How a display steps: the smallest change seen, and the share of changes larger than one such step. */
export interface Steps {
	step: number | null;
	manySteps: number;
}
/** A display of which nothing is known yet. */
export const noSteps = (): Steps => ({ step: null, manySteps: 0 });
/** Changes over which the share is averaged. */
const MEMORY = 40;
/** With fewer changes of more than one step than this, the steps are larger than the noise. */
const COARSE = 0.12;

/** Takes a change of the value in, in place. */
export function countStep(s: Steps, before: number, value: number): void {
	const change = Math.abs(value - before);
	if (change === 0) return;
	// Rounding of the typed digits aside.
	if (s.step === null || change < s.step * 0.99) s.step = change;
	s.manySteps += ((change > 1.5 * s.step ? 1 : 0) - s.manySteps) / MEMORY;
}
/** Whether the steps of a display are larger than the noise of what it shows. */
export const isCoarse = (s: Steps): boolean => s.manySteps < COARSE;
