import { median } from '../series/robust';

/** A volume with its standard uncertainty, both in litres. */
export interface Volume {
	litres: number;
	u: number;
}

/** A jug or bucket is read to so much of what is in it (common practice, no source). */
const JUG = 0.03;
/** One cup under one dripper: drippers of one line differ by about so much where nobody compared (ASAE EP405: good below 0.1; from memory). */
const DRIPPERS_DIFFER = 0.1;

/**
 * Litres as somebody read them off a jug or bucket.
 * @example typedVolume(2) // { litres: 2, u: 0.06 }
 */
export const typedVolume = (litres: number): Volume => ({ litres, u: JUG * litres });

/**
 * Litres that all drippers gave, or all bags let out, from cups under some of them: their mean times how many there are. Its
 * uncertainty is that of a mean of so few (the spread of the cups, and never less than drippers usually differ by), and of the cups.
 * @param cupsMl mL in each cup, all after the same run
 * @param of how many drippers or bags there are
 * @returns null without cups
 * @example cupsVolume([100, 110, 90], 60).litres // 6
 */
export function cupsVolume(cupsMl: readonly number[], of: number): Volume | null {
	if (cupsMl.length === 0 || !(of > 0)) return null;
	const mean = cupsMl.reduce((s, x) => s + x, 0) / cupsMl.length;
	const spread =
		cupsMl.length < 2 ? 0 : Math.sqrt(cupsMl.reduce((s, x) => s + (x - mean) ** 2, 0) / (cupsMl.length - 1));
	// A finite line: where every dripper has its cup nothing is left to chance.
	const rest = Math.max(0, 1 - cupsMl.length / of);
	const one = Math.max(spread, DRIPPERS_DIFFER * mean);
	const u = Math.hypot(one * Math.sqrt(rest / cupsMl.length), JUG * mean);
	return { litres: (mean * of) / 1000, u: (u * of) / 1000 };
}

/**
 * A dripper that hardly gave anything: less than half of the middle of its neighbours; the place of each such cup.
 * @example blockedCups([100, 110, 20]) // [2]
 */
export function blockedCups(cupsMl: readonly number[]): number[] {
	if (cupsMl.length < 3) return [];
	const middle = median([...cupsMl]);
	return cupsMl.flatMap((x, i) => (x < middle / 2 ? [i] : []));
}
