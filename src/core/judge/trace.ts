import type { Reading } from '../reading/model';
import type { Subject } from './checks/check';
import { seriesInstrument, type Trace } from './memory';
import { countRest, countStep, isCoarse, longestOf, noRests, noSteps, type Resting, restLimit } from './rests';

/** Readings this close together come from a sensor and not from a hand. */
const CONTINUOUS_GAP = 20 * 60_000;
/** A gap this many times the usual step, and at least this long, breaks a sensor's record. */
const GAP_TIMES = 6;
const GAP_LEAST_MS = 3_600_000;
/** Longer than this, and than a few usual whiles, is a holiday or a wrong date. */
const WHILE_MS = 10 * 86_400_000;
const WHILES = 4;
/** So much of what a hand wrote is remembered. */
const WRITTEN = 16;

/** Whether a reading lies so far ahead of the one before that its date may be wrong. */
export const aheadOf = (usualGapMs: number | null, gapMs: number): boolean =>
	gapMs > Math.max(WHILE_MS, WHILES * (usualGapMs ?? 0));

/** Whether what an instrument showed comes as a sensor's does: many an hour. */
export const isContinuous = (trace: Trace | undefined): boolean =>
	trace?.gapMs != null && trace.gapMs <= CONTINUOUS_GAP;

/** The hole in a sensor's record before this time; null where there is none, or no record. */
export function gapBefore(trace: Trace | undefined, at: number): Subject['gap'] {
	if (trace?.gapMs == null || trace.gapMs > CONTINUOUS_GAP) return null;
	const ms = at - trace.at;
	return ms >= GAP_LEAST_MS && ms >= GAP_TIMES * trace.gapMs ? { ms, usualMs: trace.gapMs } : null;
}

/** What rests, since when, and from how long on that is no chance. */
export interface AtRest {
	since: number;
	ms: number;
	/** Without this reading. */
	msBefore: number;
	limitMs: number;
	/** The longest rest of the last days. */
	usualMs: number;
}
/** How long a value has been resting with a reading; null where it does not. */
export function atRest(trace: Trace | undefined, at: number, rests: boolean, together: boolean): AtRest | null {
	if (!trace || !rests || gapBefore(trace, at)) return null;
	const of = together ? trace.together : trace.rests;
	const since = of.since ?? at;
	return {
		since,
		ms: at - since,
		msBefore: trace.at - since,
		limitMs: restLimit(of, kindOf(trace, together), trace.gapMs, at),
		usualMs: longestOf(of),
	};
}
/** How long all that an instrument shows has been resting; one value alone is no whole. */
export function restsTogether(
	traces: ReadonlyMap<string, Trace>,
	{ reading, mates, rests }: Pick<Subject, 'reading' | 'mates' | 'rests'>,
): AtRest | null {
	if (rests === null) return null;
	const own = mates.filter((m) => m.reading.instrument === reading.instrument);
	if (own.length === 0 || own.some((m) => m.rests === null)) return null;
	return atRest(traces.get(seriesInstrument(reading.quantity, reading.instrument)), reading.at, true, true);
}
const kindOf = (trace: Trace, together: boolean): Resting =>
	together ? 'together' : isCoarse(trace.steps) ? 'coarse' : 'fine';

/**
 * Keeps when an instrument was read last, what it showed, how often it is read and how its display moves.
 * @param jumped out of the water or back: it says nothing of how the display steps
 * @param allRest nothing that the instrument shows has changed
 */
export function followTrace(
	traces: Map<string, Trace>,
	key: string,
	reading: Reading,
	{ jumped, allRest, byHand }: { jumped: boolean; allRest: boolean; byHand: boolean },
): void {
	const trace = traces.get(key);
	const { at, value } = reading;
	if (!trace) {
		traces.set(key, {
			at,
			value,
			ahead: null,
			behind: null,
			gapMs: null,
			steps: noSteps(),
			rests: noRests(at),
			together: noRests(at),
			jumped,
			written: byHand ? [{ at, value }] : [],
		});
		return;
	}
	if (at < trace.at) {
		if (trace.behind === null || at <= trace.behind) trace.behind = at;
		// Not these two have a wrong date, but the one ahead of them.
		else Object.assign(trace, { at, value, ahead: null, behind: null });
		return;
	}
	const gap = at - trace.at;
	if (aheadOf(trace.gapMs, gap) && (trace.ahead === null || at < trace.ahead)) {
		trace.ahead = at;
		return;
	}
	const hole = gapBefore(trace, at) !== null;
	if (!jumped && !trace.jumped) countStep(trace.steps, trace.value, value);
	// How long is no chance is asked of what rests alone.
	const limit = (together: boolean) => {
		const of = together ? trace.together : trace.rests;
		return of.since === null ? Number.POSITIVE_INFINITY : restLimit(of, kindOf(trace, together), trace.gapMs, at);
	};
	const { since } = trace.together;
	// A node that hung begins afresh with all that it shows.
	const hung = !allRest && since !== null && trace.at - since >= limit(true);
	countRest(trace.rests, trace.at, at, value === trace.value && !hole && !hung, limit(false));
	countRest(trace.together, trace.at, at, allRest && !hole, limit(true));
	trace.jumped = jumped;
	// A holiday says nothing of how often this is read.
	if (!aheadOf(trace.gapMs, gap)) trace.gapMs = trace.gapMs === null ? gap : trace.gapMs + (gap - trace.gapMs) / 8;
	trace.at = at;
	trace.value = value;
	trace.ahead = null;
	trace.behind = null;
	if (!byHand) return;
	trace.written.push({ at, value });
	if (trace.written.length > WRITTEN) trace.written.shift();
}
