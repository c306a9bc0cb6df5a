import type { Reading } from '../reading/model';
import type { Subject } from './checks/check';
import type { Trace } from './memory';
import { countRepeat, noRepeats } from './repeats';

/** Readings this close together come from a sensor and not from a hand. */
const CONTINUOUS_GAP = 20 * 60_000;
/** A gap this many times the usual step, and at least this long, breaks a sensor's record. */
const GAP_TIMES = 6;
const GAP_LEAST_MS = 3_600_000;
const HALF_YEAR = 180 * 86_400_000;

/** Whether what an instrument showed comes as a sensor's does: many an hour. */
export const isContinuous = (trace: Trace | undefined): boolean =>
	trace?.gapMs != null && trace.gapMs <= CONTINUOUS_GAP;

/** The hole in a sensor's record before this time; null where there is none, or no record. */
export function gapBefore(trace: Trace | undefined, at: number): Subject['gap'] {
	if (trace?.gapMs == null || trace.gapMs > CONTINUOUS_GAP) return null;
	const ms = at - trace.at;
	return ms >= GAP_LEAST_MS && ms >= GAP_TIMES * trace.gapMs ? { ms, usualMs: trace.gapMs } : null;
}

/**
 * Keeps when an instrument was read last, what it showed, how often it is read and how its display moves.
 * @param jumped out of the water or back: it says nothing of how the display steps
 */
export function followTrace(traces: Map<string, Trace>, key: string, reading: Reading, jumped: boolean): void {
	const trace = traces.get(key);
	if (!trace) {
		traces.set(key, {
			at: reading.at,
			value: reading.value,
			ahead: null,
			gapMs: null,
			repeats: noRepeats(),
			jumped,
			repeatedSince: null,
		});
		return;
	}
	if (reading.at < trace.at) return;
	const gap = reading.at - trace.at;
	if (gap > HALF_YEAR && (trace.ahead === null || reading.at < trace.ahead)) {
		trace.ahead = reading.at;
		return;
	}
	if (jumped || trace.jumped) trace.repeats.run = 1;
	else countRepeat(trace.repeats, trace.value, reading.value);
	trace.repeatedSince = reading.value === trace.value ? (trace.repeatedSince ?? reading.at) : null;
	trace.jumped = jumped;
	trace.gapMs = trace.gapMs === null ? gap : trace.gapMs + (gap - trace.gapMs) / 8;
	trace.at = reading.at;
	trace.value = reading.value;
	trace.ahead = null;
}
