import { noRests, noSteps, type Rests, type Steps } from '../judge/rests';
import type { Drifting } from '../judge/second-instrument';
import type { SeriesQuantity } from '../quantity/quantities';

/**
 * What the checks remember of one series: a fixed number of values as plain data, so that it can be kept at any sample and gone on
 * from later, with the same verdicts as if nothing had come between. Times in milliseconds; values canonical.
 */
export interface StreamMemory {
	/** The newest sample; null before the first. */
	at: number | null;
	value: number;
	/** Usual time between two; 0 while unknown. */
	usualMs: number;
	/** Samples believed. */
	seen: number;
	level: number;
	/** Standard deviation of a step, in the units of the manner. */
	spread: number;
	/** A level that may be new: since when, where, and how many said so. */
	pending: { since: number; level: number; agreed: number } | null;
	rests: Rests;
	steps: Steps;
	/** What the newest sample was found to be, by number. */
	cause: number;
	/** How it stands to what hands read beside it; null where nobody did. */
	drift: Drifting | null;
}

/** What is remembered of all that one probe tells. */
export interface ProbeMemory {
	series: Partial<Record<SeriesQuantity, StreamMemory>>;
	/** How long everything it tells has been resting. */
	together: Rests;
	/** The newest time at which all of it was told; null while it never was. */
	at: number | null;
	usualMs: number;
}
/** A probe of which nothing is known, from a time on. */
export const newProbe = (at: number): ProbeMemory => ({ series: {}, together: noRests(at), at: null, usualMs: 0 });

/**
 * A series of which nothing is known, from a time on.
 * @example newStream(0).seen // 0
 */
export const newStream = (at: number): StreamMemory => ({
	at: null,
	value: 0,
	usualMs: 0,
	seen: 0,
	level: 0,
	spread: 0,
	pending: null,
	rests: noRests(at),
	steps: noSteps(),
	cause: 0,
	drift: null,
});

/**
 * Writes down what changes with every sample, in place; the rest of a memory changes where it is learned. Values canonical.
 * @param at of the newest sample, ms; null before the first
 * @param spread in the units of the manner
 * @param cause what the newest sample was found to be, by number
 * @example ((m) => (noteNewest(m, 1000, 5.9, 60_000, 1, 5.9, 0.05, 0), m.value))(newStream(0)) // 5.9
 */
export function noteNewest(
	m: StreamMemory,
	at: number | null,
	value: number,
	usualMs: number,
	seen: number,
	level: number,
	spread: number,
	cause: number,
): void {
	m.at = at;
	m.value = value;
	m.usualMs = usualMs;
	m.seen = seen;
	m.level = level;
	m.spread = spread;
	m.cause = cause;
}
