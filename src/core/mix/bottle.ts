import type { Remark } from '../remark';
import { isPart } from './feedings';

/** What is left in a bottle and how long it still keeps. Dates are days of the site, as 2026-07-14. */
export interface Bottle {
	unit: 'mL' | 'g';
	parts: number;
	/** Of each part, when it was counted; null where nobody counts. */
	stock: number | null;
	opened: string | null;
	keepsDays: number | null;
	expires: string | null;
}
export interface Poured {
	amount: number;
	unit: string;
	note: string;
}

const DAY = 86_400_000;
const dayNumber = (day: string): number => Date.parse(`${day}T00:00Z`) / DAY;
/** Below this share of what was counted a new bottle wants ordering. */
const LOW_SHARE = 0.15;
const SOON_DAYS = 14;

const IN_ML: Record<string, number> = { mL: 1, L: 1000, '': 1 };
const IN_G: Record<string, number> = { g: 1, kg: 1000, '': 1 };

/** What is left of each part; null where no stock was counted. A part poured alone counts as its share of a feeding. */
export function leftOf(b: Bottle, poured: readonly Poured[]): number | null {
	if (b.stock === null) return null;
	let used = 0;
	for (const p of poured) {
		const factor = (b.unit === 'g' ? IN_G : IN_ML)[p.unit];
		if (factor === undefined) continue;
		used += (p.amount * factor) / (isPart(p.note) ? b.parts : 1);
	}
	return b.stock - used;
}

/** What is to be said of the bottle before it is poured from. */
export function bottleRemarks(b: Bottle, left: number | null, today: string): Remark[] {
	const list: Remark[] = [];
	const now = dayNumber(today);
	if (b.expires !== null) {
		const days = dayNumber(b.expires) - now;
		if (days < 0) list.push({ code: 'bottle-expired', on: b.expires });
		else if (days <= SOON_DAYS) list.push({ code: 'bottle-expires', on: b.expires });
	}
	if (b.opened !== null && b.keepsDays !== null) {
		const days = now - dayNumber(b.opened);
		if (days > b.keepsDays) list.push({ code: 'bottle-open-long', days, keepsDays: b.keepsDays });
	}
	if (left !== null && b.stock !== null) {
		if (left <= 0) list.push({ code: 'bottle-empty' });
		else if (left < LOW_SHARE * b.stock) list.push({ code: 'bottle-low', left, unit: b.unit });
	}
	return list;
}
