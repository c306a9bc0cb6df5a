import { LOW_IONIC_STRENGTH_US_CM } from './checks/low-ionic-strength';

/** Seconds that a reading wants, by the water it is in; the grower may change them. */
export interface Waits {
	/** pH in rain, RO or distilled water. */
	phLowMineral: number;
	/** pH in tap water or nutrient. */
	ph: number;
	/** A conductivity cell. */
	ec: number;
}

/** Common practice, no source: three minutes in pure water, half a minute elsewhere, seconds for an EC pen. */
export const USUAL_WAITS: Waits = { phLowMineral: 180, ph: 30, ec: 8 };

/**
 * Seconds that a reading wants before it is written down; null where nothing is asked. pH in water of few minerals wants longest.
 * @example wantedWait('ph', 40) // 180; water below 100 µS/cm
 */
export function wantedWait(quantity: string, ecHereUsCm: number | null, waits: Waits = USUAL_WAITS): number | null {
	if (quantity === 'ph')
		return ecHereUsCm !== null && ecHereUsCm < LOW_IONIC_STRENGTH_US_CM ? waits.phLowMineral : waits.ph;
	return quantity === 'ec' ? waits.ec : null;
}
