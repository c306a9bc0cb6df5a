import type { SeriesQuantity } from '../quantity/quantities';
import type { StationInfo, StationKind } from '../reading/model';
import { toWorking } from './working-scale';

/**
 * What a station usually shows before it has a history (common practice, no source): wide on purpose, so that only
 * a slip of a factor stands out. Spreads are in working units: pH, ln(EC), °C.
 */
export interface Prior {
	centre: number;
	spread: number;
}

const PH: Record<StationKind, Prior> = {
	source: { centre: 7.2, spread: 0.9 },
	blend: { centre: 7, spread: 0.9 },
	mix: { centre: 6.1, spread: 0.7 },
	reservoir: { centre: 6, spread: 0.6 },
	root_zone: { centre: 6, spread: 0.6 },
	drain: { centre: 6.2, spread: 0.6 },
	standard: { centre: 7, spread: 3 },
};

const EC_US_CM: Record<StationKind, Prior> = {
	source: { centre: 350, spread: 1.1 },
	blend: { centre: 350, spread: 0.9 },
	mix: { centre: 1700, spread: 0.5 },
	reservoir: { centre: 1600, spread: 0.5 },
	root_zone: { centre: 2000, spread: 0.5 },
	drain: { centre: 2100, spread: 0.5 },
	standard: { centre: 1413, spread: 2 },
};

/** The spread of one step from reading to reading that is assumed until a history shows its own, and its least. */
export const STEP: Partial<Record<SeriesQuantity, { usual: number; least: number }>> = {
	ph: { usual: 0.13, least: 0.05 },
	ec: { usual: 0.06, least: 0.02 },
	temp: { usual: 1.8, least: 0.5 },
};
export const OTHER_STEP = { usual: 0.2, least: 0.05 };

/** What a station is expected to show before anything was read there: by its range, else by its kind; null where nothing is. */
export function prior(quantity: SeriesQuantity, station: StationInfo): Prior | null {
	const range = station.ranges[quantity];
	if (range) {
		const low = toWorking(quantity, range.low);
		const high = toWorking(quantity, range.high);
		const least = quantity === 'ec' ? 0.35 : quantity === 'ph' ? 0.5 : 4;
		return { centre: (low + high) / 2, spread: Math.max((high - low) / 2, least) };
	}
	if (quantity === 'ph') return PH[station.kind];
	if (quantity === 'ec') {
		const p = EC_US_CM[station.kind];
		return { centre: toWorking('ec', p.centre), spread: p.spread };
	}
	return quantity === 'temp' ? { centre: 20, spread: 6 } : null;
}
