import { alkalinityOpen, solvePh, totalCarbonate } from '../chem/carbonate';
import { AIR_UATM } from '../chem/constants';
import { freeShare, heldAt, mediumOf } from '../chem/solution';
import { phosphateOfFeed } from './dose/prior';

/**
 * The pH of a tank after a top-up, by charge balance: the tank holds phosphate and what carbonate air leaves it at its pH,
 * the water brings its alkalinity and its carbonate, and both are shared by the volume (Stumm and Morgan, Aquatic
 * Chemistry), with the effective constants of the feed (chem/activity.ts). Phosphate is not measured but taken from the feed,
 * so the answer is a range.
 */
export interface TopUpPhInput {
	volumeL: number;
	ph: number;
	/** EC of the solution in the tank, and of the water that goes in, µS/cm. */
	ecUsCm: number;
	addL: number;
	water: { ph: number; alkalinityMeqL: number; ecUsCm: number };
	/** Of the feed in the tank, where known; else from what its EC is above the water’s. */
	phosphateMmolL?: number | undefined;
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

/** Null where no water has this pH with this alkalinity. */
export function phAfterTopUp(t: TopUpPhInput): TopUpPh | null {
	const tempC = t.tempC ?? 20;
	const brought = totalCarbonate(t.water.alkalinityMeqL, t.water.ph, mediumOf(tempC, t.water.ecUsCm).c);
	if (brought === null) return null;
	const usual = t.phosphateMmolL ?? phosphateOfFeed(t.ecUsCm, t.water.ecUsCm);
	const volume = t.volumeL + t.addL;
	const share = (tank: number, water: number) => (t.volumeL * tank + t.addL * water) / volume;
	const tank = mediumOf(tempC, t.ecUsCm);
	const mixed = mediumOf(tempC, share(t.ecUsCm, t.water.ecUsCm));
	const carbonate = tank.airMmolL / freeShare(t.ph, tank);
	const total = share(carbonate, brought);
	const after = (phosphate: number, open: boolean): number => {
		const held = share(heldAt(t.ph, carbonate, phosphate, tank), t.water.alkalinityMeqL);
		const left = share(phosphate, 0);
		// Open: the carbonate that air leaves, beside the phosphate alone.
		return solvePh(
			(p) =>
				open
					? alkalinityOpen(p, AIR_UATM, mixed.c) + heldAt(p, 0, left, mixed) - heldAt(p, 0, 0, mixed)
					: heldAt(p, total, left, mixed),
			held,
		);
	};
	const ends = [after(usual / 2, false), after(2 * usual, false)];
	return { ph: after(usual, false), low: Math.min(...ends), high: Math.max(...ends), aerated: after(usual, true) };
}
