import { fromCanonical, type Quantity } from '@/core/quantity';
import type { SiteView } from '@/core/reading/site-view';
import { displayUnit } from '../ui/format';

/** A point of a chart: one reading, or a bucket of many with its extremes. */
export interface Point {
	at: number;
	value: number;
	low: number;
	high: number;
	u: number;
	count: number;
	flag: number;
	decision: string | null;
	id: number | null;
	message: string;
	instrument: string | null;
	was: number | null;
}

export const inDisplay = (q: Quantity, v: number, site: SiteView): number => {
	const unit = displayUnit(q, site.units);
	return unit ? fromCanonical(v, unit) : v;
};
