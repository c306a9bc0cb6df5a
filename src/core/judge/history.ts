import type { SeriesQuantity } from '../quantity/quantities';
import type { StationInfo } from '../reading/model';
import { MAD_TO_SIGMA, median, medianStep, slopeMayExceed, theilSenSlope } from '../series/robust';
import { countSwing, type DayRhythm, noRhythm, swing } from './day-rhythm';
import { type EventEffect, NO_EFFECT, type Responses } from './event-effect';
import { OTHER_STEP, type Prior, prior, STEP } from './prior';

/**
 * What one station's own history says the next value should be.
 *
 * Level: the median of the last few believed readings, carried along their Theil–Sen slope where that slope is larger
 * than the noise. Spread: the median size of the last one-step misses, shrunk towards a usual step while there are
 * few, and growing with the square root of the time since the last reading, as a random walk does. Everything is in
 * working units (see working-scale), so that EC moves in percent.
 *
 * The state is a fixed number of readings, whatever the length of the series.
 */

const WINDOW = 9;
const LEVEL_OF = 5;
const MISSES = 15;
/** Weight of the assumed step against observed misses, in readings. */
const PRIOR_WEIGHT = 5;
const DAY = 86_400_000;
/** So many usual whiles without a reading leave a trend as it was. */
const UNSEEN = 3;

export interface History {
	quantity: SeriesQuantity;
	/** Believed readings, oldest first. */
	times: number[];
	levels: number[];
	/** Sizes of the last one-step misses. */
	misses: number[];
	/** Readings ever believed. */
	count: number;
	/** A value that was not believed but may be a new level: the next one that agrees confirms it. */
	pending: { at: number; level: number; agreed: number; needed: number } | null;
	lastAt: number;
	/** How it swings with the hour. */
	day: DayRhythm;
	/** What doses did here before. */
	responses: Responses;
}

export interface Prediction {
	level: number;
	/** Standard deviation of prediction, without the instrument's own uncertainty. */
	spread: number;
	/** How many readings stand behind its level; 0 when it is the prior alone. */
	from: number;
	/** How many readings this station has ever had believed: behind its spread. */
	seen: number;
	/** An event since the last reading explains a change. */
	event: EventEffect;
}

/** A history of which nothing is known yet. */
export function emptyHistory(quantity: SeriesQuantity): History {
	return {
		quantity,
		times: [],
		levels: [],
		misses: [],
		count: 0,
		pending: null,
		lastAt: Number.NEGATIVE_INFINITY,
		day: noRhythm(),
		responses: {},
	};
}

/** Readings this close together come from a sensor, whose steps are small from the first. */
const SENSOR_GAP = 20 * 60_000;
/** And these from a logger, that is confirmed by its next lines as well. */
const LOGGER_GAP = 65 * 60_000;

function stepSpread(history: History, usualGap: number): number {
	const known = STEP[history.quantity] ?? OTHER_STEP;
	const step = usualGap <= SENSOR_GAP ? { usual: known.least, least: known.least } : known;
	const n = history.misses.length;
	const seen = n === 0 ? 0 : MAD_TO_SIGMA * median(history.misses);
	return Math.max(Math.sqrt((PRIOR_WEIGHT * step.usual ** 2 + n * seen ** 2) / (PRIOR_WEIGHT + n)), step.least);
}

function fromPrior(p: Prior, event: EventEffect): Prediction {
	return { level: p.centre, spread: p.spread, from: 0, seen: 0, event };
}

const meanSwing = (history: History, first: number): number => {
	let sum = 0;
	for (let i = first; i < history.times.length; i++) sum += swing(history.day, history.times[i]!);
	return sum / (history.times.length - first);
};

/** What is expected at a time; null when nothing at all is known of this quantity here. */
export function predict(
	history: History,
	at: number,
	station: StationInfo,
	event: EventEffect = NO_EFFECT,
): Prediction | null {
	const p = prior(history.quantity, station);
	const n = history.levels.length;
	if (n === 0) return p && fromPrior(p, event);
	const first = Math.max(0, n - LEVEL_OF);
	let level = median(history.levels, first);
	if (n >= 3) level += swing(history.day, at) - meanSwing(history, first);
	const usualGap = n < 2 ? DAY : Math.max(medianStep(history.times), 1);
	const step = stepSpread(history, usualGap);
	const long = history.times[n - 1]! - history.times[0]!;
	let turned = 0;
	if (n >= 5 && slopeMayExceed(history.times, history.levels, (2 * step) / long)) {
		const slope = theilSenSlope(history.times, history.levels);
		// Carried at most as far again as the window is long: a trend is not a law.
		const ahead = Math.min(at - median(history.times, first), long);
		if (slope !== null && Math.abs(slope * long) > 2 * step) {
			level += slope * ahead;
			// After weeks it may have gone on, stopped or turned.
			const unseen = Math.max(0, at - history.times[n - 1]! - UNSEEN * usualGap);
			turned = Math.abs(slope) * Math.min(unseen, long);
		}
	}
	// While a sensor’s new value waits to be confirmed, the old level must not grow vague enough to let it in.
	const waits = history.pending !== null && usualGap <= LOGGER_GAP && history.pending.at < at;
	const sinceGaps = Math.max(1, Math.abs((waits ? history.pending!.at : at) - history.times[n - 1]!) / usualGap);
	let spread = step * Math.sqrt(0.5 + 0.5 * sinceGaps);
	// With one or two readings the level itself is hardly known; after an event it is, but the step is less usual.
	if (n < 3) spread = history.count < 5 && p ? Math.max(spread, p.spread * (n === 1 ? 0.45 : 0.3)) : spread * 1.3;
	// However long ago, never vaguer than knowing nothing.
	if (p) spread = Math.min(spread, Math.max(p.spread, step));
	return {
		level: level + event.shift,
		spread: Math.hypot(spread, turned, event.widen),
		from: n,
		seen: history.count,
		event,
	};
}

/** How far a value misses a prediction, in standard deviations of prediction and instrument together. */
export function score(prediction: Prediction, level: number, uWorking: number): number {
	const { event } = prediction;
	const miss = level - prediction.level;
	// An addition of unknown size moves one way only, and several either way; a miss on that side is within what they explain.
	if (event.reach > 0 && (event.direction === 0 || Math.sign(miss) === event.direction)) {
		const beyond = Math.max(Math.abs(miss) - event.reach, 0);
		return (Math.sign(miss) * beyond) / Math.hypot(prediction.spread, uWorking);
	}
	return miss / Math.hypot(prediction.spread, uWorking);
}

/** Takes a believed reading into the history, in place. */
export function believe(history: History, at: number, level: number, prediction: Prediction | null): void {
	const cut = prediction?.event.cuts === true;
	if (prediction && prediction.from >= 2 && !cut) {
		history.misses.push(Math.abs(level - prediction.level));
		if (history.misses.length > MISSES) history.misses.shift();
		// Readings minutes apart share their hour: only those that span a day tell of its swing.
		const n = history.times.length;
		if (n >= 4 && at - history.times[0]! > 1.5 * DAY && at - history.times[0]! < 12 * DAY)
			countSwing(history.day, at, level - mean(history.levels.slice(-LEVEL_OF)));
	}
	if (prediction && prediction.from >= 1 && prediction.event.dose) {
		const { key, amount } = prediction.event.dose;
		const ratios = history.responses[key] ?? [];
		history.responses[key] = ratios;
		ratios.push((level - (prediction.level - prediction.event.shift)) / amount);
		if (ratios.length > WINDOW) ratios.shift();
	}
	// An event or a confirmed new level ends the old one: never fit across it.
	if (cut) restart(history);
	const last = history.times.length - 1;
	if (last >= 0 && at < history.times[last]!) {
		let i = last;
		while (i >= 0 && history.times[i]! > at) i--;
		history.times.splice(i + 1, 0, at);
		history.levels.splice(i + 1, 0, level);
	} else {
		history.times.push(at);
		history.levels.push(level);
	}
	if (history.times.length > WINDOW) {
		history.times.shift();
		history.levels.shift();
	}
	history.count++;
	history.pending = null;
	if (at > history.lastAt) history.lastAt = at;
}

const mean = (v: readonly number[]): number => v.reduce((a, b) => a + b, 0) / v.length;

function restart(history: History): void {
	history.times.length = 0;
	history.levels.length = 0;
}

/**
 * Remembers a value that was not believed; when enough later ones agree with it, it was a change after all.
 * @param needed how many further agreeing readings make it a new level: one for an unexplained jump, more for a value
 *   that an ordinary slip explains
 * @returns whether the value is now confirmed as a new level; the history then starts afresh from it
 */
export function doubt(history: History, at: number, level: number, tolerance: number, needed: number): boolean {
	const { pending } = history;
	const agrees =
		pending !== null && Math.abs(level - pending.level) <= tolerance && at - pending.at < 21 * DAY && at > pending.at;
	if (!agrees) {
		history.pending = { at, level, agreed: 0, needed };
		return false;
	}
	pending.agreed++;
	pending.needed = Math.max(pending.needed, needed);
	if (pending.agreed < pending.needed) return false;
	const first = { at: pending.at, level: pending.level };
	restart(history);
	history.times.push(first.at);
	history.levels.push(first.level);
	return true;
}
