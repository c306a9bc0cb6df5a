import type { Check } from './check';
import { LOW_IONIC_STRENGTH_US_CM } from './low-ionic-strength';

/** Seconds that a reading wants (common practice): pH in pure water 180, in tap water or nutrient 30; an EC pen 8. */
export const WAIT_S = { phLowMineral: 180, ph: 30, ec: 8 } as const;
/** A little less than the usual wait is no fault. */
const SHARE = 0.7;

export function wantedWait(quantity: string, ecHereUsCm: number | null): number | null {
	if (quantity === 'ph')
		return ecHereUsCm !== null && ecHereUsCm < LOW_IONIC_STRENGTH_US_CM ? WAIT_S.phLowMineral : WAIT_S.ph;
	return quantity === 'ec' ? WAIT_S.ec : null;
}

/** Not settled: written down sooner than this water and this quantity want. Only where the wait was noted. */
export const notSettled: Check = {
	code: 'not-settled',
	title: 'Waited until it settled',
	run({ reading, quantity, ecHereUsCm }) {
		const wanted = wantedWait(quantity, ecHereUsCm);
		if (wanted === null || reading.waitS === null || reading.waitS >= SHARE * wanted) return null;
		return {
			check: 'not-settled',
			flag: 3,
			cause: 'not-settled',
			suggested: null,
			message: `Written down after ${reading.waitS} s; this water wants about ${wanted} s.`,
			nextStep: `Dip again and wait ${wanted} s, until the last digits stand.`,
			evidence: { wait_s: reading.waitS, wanted_s: wanted },
			weight: 45,
		};
	},
};
