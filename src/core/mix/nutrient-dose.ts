import { done } from '../outcome';
import { type Answer, refuse } from '../problem';
import { median } from '../series/robust';

/** Doses by a label's rate or towards a target EC, and the gain of a feed, learned from batches. */
export interface NutrientDoseInput {
	volumeL: number;
	rateMlPerL?: number | undefined;
	/** Fraction of the label's rate: 1, 0.5, 0.25. */
	strength?: number | undefined;
	/** EC of the water before. */
	baseEcUsCm?: number | undefined;
	/** EC that one mL/L of each part adds. */
	gainUsCmPerMlL?: number | undefined;
	targetEcUsCm?: number | undefined;
}
export interface NutrientDose {
	/** Of each part. */
	mlEach: number;
	/** Null where the gain is not known. */
	expectedEcUsCm: number | null;
}

/** A thousandfold slip is litres written for millilitres: no feed is poured by the tenth of a litre to the litre. */
const MOST_ML_PER_L = 100;

/**
 * mL (or g) of each part for a tank: by the label’s rate, or towards a target EC by the feed’s gain. Refused where neither is given, or both.
 * @example nutrientDose({ volumeL: 100, targetEcUsCm: 1800, baseEcUsCm: 300, gainUsCmPerMlL: 300 }) // { ok: true, value: { mlEach: 500, expectedEcUsCm: 1800 } }
 */
export function nutrientDose(d: NutrientDoseInput): Answer<NutrientDose> {
	const strength = d.strength ?? 1;
	const base = d.baseEcUsCm ?? 0;
	const gain = d.gainUsCmPerMlL;
	let mlPerL: number;
	if (d.targetEcUsCm !== undefined) {
		if (gain === undefined || !(gain > 0)) return refuse({ code: 'gain-needed', field: 'gain_us_cm_per_ml_l' });
		if (d.rateMlPerL !== undefined) return refuse({ code: 'rate-or-target', field: 'rate_ml_per_l' });
		if (d.targetEcUsCm < base) return refuse({ code: 'water-over-target', field: 'target_ec_us_cm', ecUsCm: base });
		mlPerL = (d.targetEcUsCm - base) / gain;
	} else if (d.rateMlPerL !== undefined) mlPerL = d.rateMlPerL * strength;
	else return refuse({ code: 'rate-or-gain-needed', field: 'rate_ml_per_l' });
	if (mlPerL > MOST_ML_PER_L)
		return refuse({
			code: 'no-such-feed',
			field: d.targetEcUsCm !== undefined ? 'gain_us_cm_per_ml_l' : 'rate_ml_per_l',
			mlPerL,
		});
	return done({
		mlEach: mlPerL * d.volumeL,
		expectedEcUsCm: gain !== undefined ? base + gain * mlPerL : null,
	});
}

/** One earlier batch: what was given to each litre and what EC did. */
export interface GainSample {
	mlPerL: number;
	ecBeforeUsCm: number;
	ecAfterUsCm: number;
}

/** The gain of a feed: the median over batches of EC raised per mL/L; null before the first. */
export function learnGain(samples: readonly GainSample[]): number | null {
	const gains = samples.flatMap((s) => {
		const g = (s.ecAfterUsCm - s.ecBeforeUsCm) / s.mlPerL;
		return s.mlPerL > 0 && Number.isFinite(g) && g > 0 ? [g] : [];
	});
	return gains.length === 0 ? null : median(gains);
}
