import { done } from '../../outcome';
import { type Answer, refuse } from '../../problem';
import type { DoseUnit } from '../label-rate';

/** A gain that batches have shown is gone by; one from a label or typed is not yet trusted with the whole way. */
const UNPROVEN = 0.75;
/** No step raises EC by more: roots that stood in 1.0 do not bear 3.0 at once (common practice: rise in steps, no source). */
const MOST_STEP_US_CM = 600;
/** Where no label names a rate, mL or g for each litre in one step (common practice: what most labels give at full strength, no source). */
const MOST_UNLABELLED: Record<DoseUnit, number> = { mL: 3, g: 1 };

/**
 * mL or g of each bottle to bring a running tank towards an EC: all the way where the gain was learned, three quarters where it was
 * not, and never more than 0.6 mS/cm in one step, nor more than the label’s whole rate (without a label 3 mL or 1 g for each litre): a gain that a wrong pen taught too small would
 * ask for many times as much. EC in µS/cm at 25 °C.
 * @example topFeed({ litres: 20, ecUsCm: 1200, targetEcUsCm: 1600, gainUsCm: 400, rateMlL: 2, unit: 'mL', learned: true }).value.amount // 20
 */
export function topFeed(t: {
	litres: number;
	ecUsCm: number;
	targetEcUsCm: number;
	/** EC that one mL or g for each litre of each bottle brings. */
	gainUsCm: number | null;
	/** The label’s full rate, mL or g of each bottle for each litre; null where it names none. */
	rateMlL: number | null;
	unit: DoseUnit;
	learned: boolean;
}): Answer<{ amount: number; expectedEcUsCm: number }> {
	if (!(t.litres > 0)) return refuse({ code: 'litres-now', field: 'volume_l' });
	if (t.gainUsCm === null || !(t.gainUsCm > 0)) return refuse({ code: 'gain-needed', field: 'gain_us_cm_per_ml_l' });
	const way = t.targetEcUsCm - t.ecUsCm;
	if (!(way > 0)) return refuse({ code: 'ec-high-enough', field: 'target_ec_us_cm' });
	const rise = Math.min(
		t.learned ? way : UNPROVEN * way,
		MOST_STEP_US_CM,
		(t.rateMlL ?? MOST_UNLABELLED[t.unit]) * t.gainUsCm,
	);
	return done({ amount: (rise / t.gainUsCm) * t.litres, expectedEcUsCm: t.ecUsCm + rise });
}
