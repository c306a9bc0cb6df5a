import { done, type Outcome, refused } from '../../outcome';
/**
 * The error of a meter along its scale, from what it found in standards: linear between the standards on the axis of
 * found values. One standard: a constant offset for pH; for EC a share of the reading, so 1300 found in 1413 makes 100
 * into 108.7. EC errors vanish at zero; pH errors go on in a straight line beyond the standards.
 * Source: USGS Techniques and Methods 1–D3 (Wagner and others, 2006), calibration-drift correction.
 */
export interface FoundPoint {
	nominal: number;
	found: number;
}

/** Found values nearer than this share of their standards' distance give no curve: the gain vanishes. */
const LEAST_GAIN = 0.05;

export type CurveProblem = 'no-points' | 'not-finite' | 'vanishing-gain' | 'wrong-way';
/** The error found − nominal of a probe for what it shows, in its unit, and the span it was seen over. */
export interface ErrorCurve {
	errorAt: (found: number) => number;
	low: number;
	high: number;
}
export type Curve = Outcome<ErrorCurve, CurveProblem>;

/** The error of a probe over its span from what it showed in one or two standards; refused where the two say nothing of a slope. */
export function errorCurve(quantity: 'ph' | 'ec', points: readonly FoundPoint[]): Curve {
	if (points.length === 0) return refused('no-points');
	if (points.some((p) => !Number.isFinite(p.nominal) || !Number.isFinite(p.found))) return refused('not-finite');
	const sorted = [...points].sort((a, b) => a.nominal - b.nominal);
	for (let i = 1; i < sorted.length; i++) {
		const dNominal = sorted[i]!.nominal - sorted[i - 1]!.nominal;
		const dFound = sorted[i]!.found - sorted[i - 1]!.found;
		if (dNominal <= 0 || Math.abs(dFound) < LEAST_GAIN * dNominal) return refused('vanishing-gain');
		if (dFound < 0) return refused('wrong-way');
	}
	if (quantity === 'ec' && sorted.some((p) => !(p.found > 0) || !(p.nominal > 0))) return refused('vanishing-gain');
	const x = sorted.map((p) => p.found);
	const e = sorted.map((p) => p.found - p.nominal);
	const last = x.length - 1;
	const between = (v: number, i: number) => e[i]! + ((e[i + 1]! - e[i]!) * (v - x[i]!)) / (x[i + 1]! - x[i]!);
	const errorAt = (v: number): number => {
		if (quantity === 'ec') {
			if (v <= x[0]!) return (e[0]! * v) / x[0]!;
			if (v >= x[last]!) return (e[last]! * v) / x[last]!;
		} else if (last === 0) return e[0]!;
		let i = 0;
		while (i < last - 1 && v > x[i + 1]!) i++;
		return between(v, i);
	};
	return done({ errorAt, low: x[0]!, high: x[last]! });
}
