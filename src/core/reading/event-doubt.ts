import { toCanonical, UNITS, type Unit, unitNamed } from '../quantity';
import type { EventKind } from './model';

/**
 * Amounts that are asked about before they are kept, because a slip of the unit or of a digit is likelier than what was typed: more
 * than a tank holds, a dose that no label gives, a watering of days. Limits are generous (common practice, no source); what is
 * confirmed is kept as it was typed.
 */
export type EventDoubt =
	/** More water than the station holds, litres. */
	| { code: 'more-than-it-holds'; holdsL: number; meant: Meant | null }
	/** So much of a product in each litre of water, mL or g. */
	| { code: 'strong-dose'; perL: number; per: 'mL' | 'g'; usualMost: number; meant: Meant | null }
	| { code: 'too-long'; hours: number };
/** What was probably meant, where one slip of the unit explains it. */
export interface Meant {
	amount: number;
	unit: string;
}

/** Room for a tank that is filled to the brim. */
const BRIM = 1.2;
/** The most of a product that is usual in a litre: strong acids and bases take tenths of a mL, concentrates a few. */
const USUAL_MOST = { acid_added: 2, base_added: 2, nutrient_added: 20 } as const;
const LONGEST_MIN = 12 * 60;

const litresOf = (amount: number, unit: string): number | null => {
	const known = unitNamed(unit);
	return known && UNITS[known].dimension === 'volume' ? toCanonical(amount, known) : null;
};
const OTHER: Record<string, string> = { L: 'mL', kg: 'g' };

/**
 * @param volumeL what the station holds; null where nobody said
 * @returns null where nothing is to be asked
 * @example doubtOfEvent('water_added', 24000, 'L', 2400).code // 'more-than-it-holds'
 * @example doubtOfEvent('acid_added', 3, 'L', 40).meant // { amount: 3, unit: 'mL' }
 * @example doubtOfEvent('acid_added', 12, 'mL', 40) // null
 */
export function doubtOfEvent(
	kind: EventKind,
	amount: number | null,
	unit: Unit | string,
	volumeL: number | null,
): EventDoubt | null {
	if (amount === null) return null;
	if (kind === 'irrigated')
		return unit === 'min' && amount > LONGEST_MIN ? { code: 'too-long', hours: amount / 60 } : null;
	const litres = litresOf(amount, unit);
	if (volumeL === null || !(volumeL > 0)) return null;
	if (kind === 'water_added' || kind === 'solution_changed' || kind === 'drained') {
		if (litres === null || litres <= BRIM * volumeL) return null;
		const tenth = litres / 10 <= BRIM * volumeL ? { amount: amount / 10, unit } : null;
		return {
			code: 'more-than-it-holds',
			holdsL: volumeL,
			meant: unit === 'L' && tenth === null ? { amount, unit: 'mL' } : tenth,
		};
	}
	if (kind !== 'acid_added' && kind !== 'base_added' && kind !== 'nutrient_added') return null;
	const grams = unit === 'g' ? amount : unit === 'kg' ? 1000 * amount : null;
	const poured = grams ?? (litres === null ? null : 1000 * litres);
	const most = USUAL_MOST[kind];
	if (poured === null || poured / volumeL <= most) return null;
	const other = OTHER[unit];
	return {
		code: 'strong-dose',
		perL: poured / volumeL,
		per: grams === null ? 'mL' : 'g',
		usualMost: most,
		meant: other && poured / 1000 / volumeL <= most ? { amount, unit: other } : null,
	};
}
