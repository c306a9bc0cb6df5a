import { done, type Outcome, refused } from '../outcome';
import { type Curve, type CurveProblem, errorCurve, type FoundPoint } from './error-curve/in-standards';

/**
 * Puts one past reading right between two calibrations.
 *
 * The error is taken to grow linearly in time from what it was at t1 (after an adjustment: as left, or none where not
 * measured; after a mere check: as found, since nothing was changed) to the as-found error at t2:
 * e(x, t) = e1(x) + (e2(x) − e1(x))·(t − t1)/(t2 − t1), corrected = x − e. Not outside the interval.
 * Source: USGS Techniques and Methods 1–D3 (Wagner and others, 2006).
 */
export interface RestateInput {
	quantity: 'ph' | 'ec';
	value: number;
	takenAt: number;
	from: { at: number; kind: 'adjust' | 'check'; points: readonly FoundPoint[] };
	to: { at: number; points: readonly FoundPoint[] };
	/** pH, or percent of an EC reading. */
	thresholds?: { leaveAlone?: number | undefined; reject?: number | undefined } | undefined;
}

export type RestateWhy = 'restated' | 'outside-interval' | 'leave-alone' | 'rejected';
/** A reading put right, or as it was, and why; the error is that of its moment. */
export interface Restated {
	value: number;
	error: number;
	applied: boolean;
	why: RestateWhy;
}
/** Which of the two calibrations is of no use, and why. */
export interface RestateProblem {
	code: CurveProblem | 'empty-interval';
	side: 'from' | 'to';
}

/**
 * A reading between two calibrations put right: the error runs in a straight line from as left to as found (USGS TM 1–D3).
 * Nothing is changed outside the interval, or within the thresholds where they are given.
 * @example restate({ quantity: 'ph', value: 6.2, takenAt: 10, from: { at: 0, kind: 'adjust', points: [] }, to: { at: 20, points: [{ nominal: 7, found: 7.4 }] } }).value // { value: 6, error: 0.2 }
 */
export function restate(input: RestateInput): Outcome<Restated, RestateProblem> {
	const { quantity, from, to, ...rest } = input;
	return restateBy({
		...rest,
		quantity,
		from: { at: from.at, curve: startOf(quantity, from.kind, from.points) },
		to: { at: to.at, curve: errorCurve(quantity, to.points) },
	});
}

/**
 * The error with which an interval begins; null where it is taken to have been none.
 * @example startOf('ph', 'adjust', []) // null
 */
export const startOf = (
	quantity: 'ph' | 'ec',
	kind: 'adjust' | 'check',
	points: readonly FoundPoint[],
): Curve | null =>
	// After an adjustment with nothing read afterwards the meter is taken to have been right.
	kind === 'adjust' && points.length === 0 ? null : errorCurve(quantity, points);

/** The same with the curves of both calibrations at hand: many readings lie between the same two. */
export function restateBy(
	input: Pick<RestateInput, 'quantity' | 'value' | 'takenAt' | 'thresholds'> & {
		from: { at: number; curve: Curve | null };
		to: { at: number; curve: Curve };
	},
): Outcome<Restated, RestateProblem> {
	const { quantity, value, takenAt, from, to, thresholds } = input;
	if (!(to.at > from.at)) return refused({ code: 'empty-interval', side: 'to' });
	if (takenAt < from.at || takenAt > to.at) return done({ value, error: 0, applied: false, why: 'outside-interval' });
	const start = from.curve;
	if (start && !start.ok) return refused({ code: start.problem, side: 'from' });
	const end = to.curve;
	if (!end.ok) return refused({ code: end.problem, side: 'to' });
	const share = (takenAt - from.at) / (to.at - from.at);
	const e1 = start ? start.value.errorAt(value) : 0;
	const error = e1 + (end.value.errorAt(value) - e1) * share;
	const size = quantity === 'ph' ? Math.abs(error) : value === 0 ? 0 : Math.abs((100 * error) / value);
	if (thresholds?.reject !== undefined && size > thresholds.reject + 1e-9)
		return done({ value, error, applied: false, why: 'rejected' });
	if (thresholds?.leaveAlone !== undefined && size < thresholds.leaveAlone - 1e-9)
		return done({ value, error, applied: false, why: 'leave-alone' });
	return done({ value: value - error, error, applied: true, why: 'restated' });
}
