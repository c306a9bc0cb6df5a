import {
	AIR_UATM,
	alkalinityClosed,
	alkalinityOpen,
	carbonateConstants,
	solvePh,
	totalCarbonate,
} from '../water/carbonate';

/**
 * The pH of a tank after a top-up, by charge balance: the tank holds phosphate and what carbonate air leaves it at its pH,
 * the water brings its alkalinity and its carbonate, and both are shared by the volume (Stumm and Morgan, Aquatic
 * Chemistry). Phosphate is not measured but taken from the feed, so the answer is a range.
 */
export interface TopUpPhInput {
	volumeL: number;
	ph: number;
	/** Of the feed in the tank; 1 mmol/L is 31 mg/L of phosphorus. */
	phosphateMmolL: number;
	addL: number;
	water: { ph: number; alkalinityMeqL: number };
	tempC?: number | undefined;
}
export interface TopUpPh {
	/** Right after mixing. */
	ph: number;
	/** With half and with twice the phosphate. */
	low: number;
	high: number;
	/** Once carbon dioxide of the new water has left. */
	aerated: number;
}

const PK2_PHOSPHORIC = 7.198;
const phosphateHolds = (mmolL: number, ph: number): number => mmolL / (1 + 10 ** (PK2_PHOSPHORIC - ph));

/** Null where no water has this pH with this alkalinity. */
export function phAfterTopUp(t: TopUpPhInput): TopUpPh | null {
	const c = carbonateConstants(t.tempC ?? 20);
	const brought = totalCarbonate(t.water.alkalinityMeqL, t.water.ph, c);
	if (brought === null) return null;
	const volume = t.volumeL + t.addL;
	const share = (tank: number, water: number) => (t.volumeL * tank + t.addL * water) / volume;
	const h = 10 ** -t.ph;
	const carbonate = 1000 * c.kh * AIR_UATM * 1e-6 * (1 + c.k1 / h + (c.k1 * c.k2) / (h * h));
	const total = share(carbonate, brought);
	const after = (phosphate: number, open: boolean): number => {
		const charge = share(alkalinityOpen(t.ph, AIR_UATM, c) + phosphateHolds(phosphate, t.ph), t.water.alkalinityMeqL);
		const mixed = share(phosphate, 0);
		return solvePh(
			(p) => (open ? alkalinityOpen(p, AIR_UATM, c) : alkalinityClosed(p, total, c)) + phosphateHolds(mixed, p),
			charge,
		);
	};
	const ends = [after(t.phosphateMmolL / 2, false), after(2 * t.phosphateMmolL, false)];
	return {
		ph: after(t.phosphateMmolL, false),
		low: Math.min(...ends),
		high: Math.max(...ends),
		aerated: after(t.phosphateMmolL, true),
	};
}

/** EC that a feed brings with one mmol/L of phosphate (common practice, no source). */
const FEED_EC_US_CM = 1500;
export const usualPhosphate = (ecUsCm: number, waterEcUsCm: number): number =>
	Math.max((ecUsCm - waterEcUsCm) / FEED_EC_US_CM, 0.03);
