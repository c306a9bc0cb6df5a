import { decimal } from '@/core/quantity';
import type { DisplayUnits } from '@/core/reading/site-view';
import { litresTyped } from '../mix/typed';

/** What a field of volume holds: litres with their unit, or mL of one cup or of several with blanks between. */
export type Caught = { litres: number } | { cups: number[] } | null;

/**
 * `1.5 L`, `0.4 gal`: litres in all. `100 104 98`: mL in each cup.
 * @returns undefined for what is neither; null for nothing
 */
export function caughtTyped(text: string, units: DisplayUnits): Caught | undefined {
	const said = text.trim();
	if (said === '') return null;
	if (/[a-z]/i.test(said)) {
		const litres = litresTyped(said, units);
		return litres === undefined ? undefined : { litres };
	}
	const cups = said.split(/[\s;+]+|,\s+/).map((x) => decimal(x));
	return cups.every((x): x is number => x !== undefined && x >= 0) ? { cups } : undefined;
}
