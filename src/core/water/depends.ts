import type { DoseUnit } from '../mix/label-rate';

/** What a shift of a source's EC means for something that hangs on it. EC in µS/cm at 25 °C. */
export type Consequence =
	| { code: 'over-target'; targetEcUsCm: number }
	| { code: 'feed-changes'; beforePerL: number; afterPerL: number; unit: DoseUnit; targetEcUsCm: number }
	| { code: 'ec-moves'; strength: number; byUsCm: number }
	| { code: 'planned-anew' }
	| { code: 'holds-old-water' }
	| { code: 'learned-before'; doses: number }
	| { code: 'runs-on' };

/**
 * What a shift means for a recipe: feed for each litre is (target − water) / gain, with EC taken to add up, as in planning.
 * @param gainUsCm µS/cm for 1 mL or g of feed in a litre; null where it is not known
 * @example recipeMeans({ targetEcUsCm: 1900, strength: null }, { from: 780, to: 870 }, 420, 'mL').beforePerL // 2.667
 */
export function recipeMeans(
	recipe: { targetEcUsCm: number | null; strength: number | null },
	shift: { from: number; to: number },
	gainUsCm: number | null,
	unit: DoseUnit,
): Consequence {
	const { targetEcUsCm, strength } = recipe;
	if (targetEcUsCm !== null && targetEcUsCm <= shift.to) return { code: 'over-target', targetEcUsCm };
	if (targetEcUsCm !== null && gainUsCm !== null) {
		const perL = (water: number) => Math.max(targetEcUsCm - water, 0) / gainUsCm;
		return { code: 'feed-changes', beforePerL: perL(shift.from), afterPerL: perL(shift.to), unit, targetEcUsCm };
	}
	return strength === null ? { code: 'planned-anew' } : { code: 'ec-moves', strength, byUsCm: shift.to - shift.from };
}
