import { PPM_SCALES, type PpmScale } from './units';

/**
 * Finds which fixed factor a ppm meter uses, from what it shows in the 1413 µS/cm standard, or from an EC and a ppm
 * reading of the same water by the same meter.
 *
 * The candidates lie 9 % and 28 % apart, so a reading decides only within ±3 % of one of them.
 * An uncompensated meter shows the standard's value at its own temperature; that is what it is held against.
 * Source: definition of the scales; 1413 standard by temperature, ISO 7888 (domain table).
 */
export const TOLERANCE = 0.03;

export type ScaleFinding =
	| { found: true; scale: PpmScale; error: number }
	| { found: false; reason: 'undecided' | 'needs-temperature'; nearest: PpmScale | null };

/**
 * @param ppm what the meter shows
 * @param ecUsCm what the water conducts as this meter would see it: at 25 °C if it compensates, else at its temperature
 * @example nearestScale(706, 1413).scale // 500
 */
export function nearestScale(ppm: number, ecUsCm: number): ScaleFinding {
	if (!(ppm > 0) || !(ecUsCm > 0) || !Number.isFinite(ppm / ecUsCm))
		return { found: false, reason: 'undecided', nearest: null };
	const errors = PPM_SCALES.map((scale) => ({ scale, error: ppm / (ecUsCm * (scale / 1000)) - 1 }));
	const best = errors.reduce((a, b) => (Math.abs(b.error) < Math.abs(a.error) ? b : a));
	return Math.abs(best.error) <= TOLERANCE
		? { found: true, scale: best.scale, error: best.error }
		: { found: false, reason: 'undecided', nearest: best.scale };
}
