import { done } from '../outcome';
import { type Answer, refuse } from '../problem';
import { median } from '../series/robust';
import { planFeed } from './feed/plan';

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

/**
 * mL (or g) of each part for a tank: by the label’s rate, or towards a target EC by the feed’s gain. Refused where neither is given, or both.
 * @example nutrientDose({ volumeL: 100, targetEcUsCm: 1800, baseEcUsCm: 300, gainUsCmPerMlL: 300 }) // { ok: true, value: { mlEach: 500, expectedEcUsCm: 1800 } }
 */
export function nutrientDose(d: NutrientDoseInput): Answer<NutrientDose> {
	const gain = d.gainUsCmPerMlL;
	const byTarget = d.targetEcUsCm !== undefined;
	if (byTarget && !(gain !== undefined && gain > 0))
		return refuse({ code: 'gain-needed', field: 'gain_us_cm_per_ml_l' });
	if (byTarget && d.rateMlPerL !== undefined) return refuse({ code: 'rate-or-target', field: 'rate_ml_per_l' });
	if (!byTarget && d.rateMlPerL === undefined) return refuse({ code: 'rate-or-gain-needed', field: 'rate_ml_per_l' });
	const plan = planFeed(
		[
			{
				product: '',
				unit: 'mL',
				bottles: 1,
				perL: d.rateMlPerL ?? null,
				gainUsCm: gain ?? null,
				scales: true,
				waitMin: 0,
			},
		],
		{ waterEcUsCm: d.baseEcUsCm ?? 0, targetEcUsCm: d.targetEcUsCm, strength: d.strength },
	);
	if (!plan.ok) return plan;
	return done({ mlEach: plan.value.pours[0]!.perL * d.volumeL, expectedEcUsCm: plan.value.expectedEcUsCm });
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
