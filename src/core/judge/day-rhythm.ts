/**
 * How a station swings with the hour, learned from readings taken at different times of day: the usual deviation from
 * its level in eight spans of three hours (UTC: a shift of the clock moves it by one span at most). Shrunk towards
 * nothing while a span has few readings.
 */
export interface DayRhythm {
	sum: number[];
	count: number[];
}

const SPANS = 8;
const SPAN_MS = 86_400_000 / SPANS;
/** Weight of "no rhythm" against what was seen, in readings. */
const SHRINK = 3;
/** A span forgets beyond this many readings. */
const MEMORY = 30;

/** No rhythm is known yet. */
export const noRhythm = (): DayRhythm => ({ sum: new Array(SPANS).fill(0), count: new Array(SPANS).fill(0) });

/** The spans since 1970 by their last three bits: eight are a day. */
const spanOf = (at: number): number => Math.floor(at / SPAN_MS) & (SPANS - 1);

/** The usual deviation at a time of day, working units. */
export function swing(r: DayRhythm, at: number): number {
	const i = spanOf(at);
	return r.sum[i]! / (r.count[i]! + SHRINK);
}

/** Takes one deviation from the level in, in place. */
export function countSwing(r: DayRhythm, at: number, deviation: number): void {
	const i = spanOf(at);
	r.sum[i]! += deviation;
	r.count[i]!++;
	if (r.count[i]! > MEMORY) {
		r.sum[i]! *= MEMORY / r.count[i]!;
		r.count[i] = MEMORY;
	}
}
