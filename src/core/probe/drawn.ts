import type { ProbeErrors } from './error-curve/probe-errors';
import { USUAL } from './error-curve/slope';
import { stretchAt } from './error-curve/stretch';
import { errorBelief } from './timeline';

/** The error curve of one probe as it is drawn: the belief at many times, and what it was held against. */
export interface CurvePoint {
	at: number;
	/** pH, or percent. */
	error: number;
	/** Standard uncertainty of that. */
	u: number;
}
export interface MetMark {
	at: number;
	other: string;
	/** What this one showed less what the other did, without the error known of that: pH, or percent. */
	error: number;
	weight: number;
}

const POINTS = 160;
/**
 * The error of a probe over time, for what it mostly shows. Where a visit changed it there are two points at one time: as found, and
 * as left.
 */
export function drawCurve(quantity: 'ph' | 'ec', errors: ProbeErrors, from: number, to: number): CurvePoint[] {
	if (!(to > from)) return [];
	const points: CurvePoint[] = [];
	const step = (to - from) / POINTS;
	for (const stretch of errors.stretches) {
		const begin = Math.max(stretch.from, from);
		const end = Math.min(stretch.to, to);
		if (begin > end || (begin === end && begin !== to)) continue;
		const value = errors.pairsIn(stretch).at(-1)?.value ?? USUAL[quantity];
		const n = Math.max(Math.ceil((end - begin) / step), 1);
		for (let i = 0; i <= n; i++) {
			// The very end belongs to what comes after it.
			const at = i === n ? (end === to ? end : end - 1) : begin + ((end - begin) * i) / n;
			points.push({ at, ...errorBelief(quantity, errors, at, value, stretch) });
		}
	}
	return points;
}

/** What a probe was held against, the newest marks up to so many, in order of time. */
export function metMarks(
	quantity: 'ph' | 'ec',
	errors: ProbeErrors,
	ofOther: (code: string) => ProbeErrors,
	most: number,
): MetMark[] {
	const marks: MetMark[] = [];
	for (let i = errors.stretches.length - 1; i >= 0 && marks.length < most; i--)
		for (const p of errors.pairsIn(errors.stretches[i]!).reverse()) {
			const other = ofOther(p.other);
			const believed = errorBelief(quantity, other, p.at, p.otherValue, stretchAt(other.stretches, p.at)).error;
			const truth = quantity === 'ph' ? p.otherValue - believed : p.otherValue / (1 + believed / 100);
			const error = quantity === 'ph' ? p.value - truth : (100 * (p.value - truth)) / truth;
			if (Number.isFinite(error)) marks.push({ at: p.at, other: p.other, error, weight: p.weight });
		}
	return marks.slice(0, most).reverse();
}
