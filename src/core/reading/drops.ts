import { QUANTITY, type Quantity, toCanonical, UNITS, type Unit } from '../quantity';

/**
 * Drop counts: a kit that is titrated drop by drop until its colour turns, each drop standing for so much of what is sought.
 *
 * The turn came somewhere within the last drop, so the value is the count times what one stands for, known to the width of a drop
 * (the leaflets of such kits; Standard Methods 2320 B and 2340 C are the same titrations with a burette).
 */
export interface PerDrop {
	value: number;
	unit: Unit;
}

/** What kits usually count drops for. */
export const COUNTED: readonly Quantity[] = ['alkalinity', 'hardness', 'ca', 'do', 'no3', 'k'];

/**
 * How many drops were typed: `5 drops`, `5dr`; null where it is no count.
 * @example countedDrops('12 drops') // 12
 */
export function countedDrops(text: string): number | null {
	const m = /^(\d{1,3})\s*(?:drops?|dr)$/i.exec(text.trim());
	return m && Number(m[1]) > 0 ? Number(m[1]) : null;
}

/**
 * What a count of drops says, in the unit of the kit.
 * @example valueOfDrops(5, { value: 17.9, unit: 'mg/L_CaCO3' }) // '89.5'
 */
export const valueOfDrops = (drops: number, per: PerDrop): string => String(Number((drops * per.value).toPrecision(6)));

/** The width of a drop in the canonical unit of a quantity: what a kit cannot tell apart; null where the unit is none of its. */
export function dropResolution(quantity: Quantity, per: PerDrop): number | null {
	if (!QUANTITY[quantity].dimensions.includes(UNITS[per.unit].dimension)) return null;
	const width = toCanonical(per.value, per.unit);
	return Number.isFinite(width) && width > 0 ? width : null;
}

/**
 * Units in which a quantity may be typed and what a drop stands for may be said, its own first.
 * @example unitsFor('alkalinity').includes('dKH') // true
 */
export const unitsFor = (quantity: Quantity): Unit[] => {
	const { canonical, dimensions } = QUANTITY[quantity];
	const fits = (Object.keys(UNITS) as Unit[]).filter((u) => dimensions.includes(UNITS[u].dimension) && u !== 'ppm');
	return [canonical, ...fits.filter((u) => u !== canonical)];
};
