import { fromCanonical, type Quantity } from '@/core/quantity';
import type { SiteView } from '@/core/reading/site-view';
import { displayUnit } from '../ui/format';

export const inDisplay = (q: Quantity, v: number, site: SiteView): number => {
	const unit = displayUnit(q, site.units);
	return unit ? fromCanonical(v, unit) : v;
};
