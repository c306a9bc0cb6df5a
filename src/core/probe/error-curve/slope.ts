import { type ProbeCalibration, standardU } from './visit';

/**
 * How the error of a probe differs along its scale, beside what its calibrations say of it.
 *
 * An electrode that loses slope is right at pH 7 and wrong the further away, so what a pair in source water at 8 tells of it is not
 * what one in the tank at 6 does. The deviation of an error is followed as one number at what pens are mostly dipped into, and one for
 * each pH, or each e-fold of conductivity, away from there.
 */
/** What pens are mostly dipped into (common practice, no source): pH, µS/cm. */
export const USUAL = { ph: 6, ec: 1500 } as const;

/** How far a value lies from the usual one: pH, or e-folds of conductivity. None for what no cell shows. */
export const leverOf = (quantity: 'ph' | 'ec', value: number): number =>
	quantity === 'ph' ? value - USUAL.ph : value > 0 ? Math.log(value / USUAL.ec) : 0;

/**
 * Standard deviation that a slope gains in a root day: about a percent in a month for glass, and a sixth of that for a cell, whose
 * factor is nearly one number (common practice, no source).
 */
const SLOPE_PER_ROOT_DAY = { ph: 0.0018, ec: 0.0003 } as const;
/** Of a slope that nobody knows, of new glass and old, and after a drop or a dry spell (common practice, no source). */
const UNKNOWN_SLOPE = { ph: 0.03, ec: 0.01 } as const;

/** Variance of a slope that nobody knows. */
export const unknownSlope = (quantity: 'ph' | 'ec'): number => UNKNOWN_SLOPE[quantity] ** 2;
/** Variance that a slope gains in a millisecond. */
export const slopeWander = (quantity: 'ph' | 'ec'): number => SLOPE_PER_ROOT_DAY[quantity] ** 2 / 86_400_000;

/** Where on the scale standards tell of the deviation, and how well they tell of its slope. */
export interface Told {
	/** Lever at which they show the deviation: the standard's own where there is one; of two, they show it in between. */
	lever: number;
	/** Variance with which they show its slope; null for a single standard, which says nothing of it. */
	slope: number | null;
}

/** What standards of these values tell. */
function toldBy(quantity: 'ph' | 'ec', points: readonly { nominal: number; u: number }[]): Told {
	const sorted = [...points].sort((a, b) => a.nominal - b.nominal);
	const [low, high] = [sorted[0], sorted.at(-1)];
	if (!low || !high) return { lever: 0, slope: null };
	const [from, to] = [leverOf(quantity, low.nominal), leverOf(quantity, high.nominal)];
	if (!(to > from)) return { lever: from, slope: null };
	return { lever: 0, slope: (low.u ** 2 + high.u ** 2) / (to - from) ** 2 };
}

/** What a visit tells of the time before it: by what was found. */
export const toldAtEnd = (quantity: 'ph' | 'ec', c: ProbeCalibration): Told =>
	toldBy(
		quantity,
		c.points.filter((p) => p.asFound !== null).map((p) => ({ nominal: p.nominal, u: standardU(quantity, p) })),
	);

/** And of the time after it: of an adjustment by all it was adjusted with, of a check by what was found. */
export const toldAtStart = (quantity: 'ph' | 'ec', c: ProbeCalibration): Told =>
	c.kind === 'check'
		? toldAtEnd(quantity, c)
		: toldBy(
				quantity,
				c.points.map((p) => ({ nominal: p.nominal, u: standardU(quantity, p) })),
			);
