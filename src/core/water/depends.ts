import { type FeedPart, planFeed } from '../mix/feed/plan';
import type { DoseUnit } from '../mix/label-rate';

/** What a shift of a source's EC means for something that hangs on it. EC in µS/cm at 25 °C. */
export type Consequence =
	| { code: 'over-target'; targetEcUsCm: number }
	| { code: 'feed-changes'; of: string; beforePerL: number; afterPerL: number; unit: DoseUnit; targetEcUsCm: number }
	| { code: 'ec-moves'; strength: number; byUsCm: number }
	| { code: 'planned-anew' }
	| { code: 'holds-old-water' }
	| { code: 'learned-before'; doses: number }
	| { code: 'runs-on' };

/**
 * What a shift means for a recipe: it is planned with the water before and after, as it would be for a batch. Told by its first
 * pouring; the others change in proportion.
 */
export function recipeMeans(
	recipe: { targetEcUsCm: number | null; strength: number | null },
	shift: { from: number; to: number },
	parts: readonly FeedPart[],
	learnedUsCm: number | null = null,
): Consequence {
	const { targetEcUsCm, strength } = recipe;
	if (targetEcUsCm !== null && targetEcUsCm <= shift.to) return { code: 'over-target', targetEcUsCm };
	if (targetEcUsCm !== null) {
		const first = parts.findIndex((p) => p.scales);
		const pour = (waterEcUsCm: number) => {
			const plan = planFeed(parts, { waterEcUsCm, targetEcUsCm }, learnedUsCm);
			return plan.ok ? plan.value.pours.find((p) => p.product === parts[first]!.product)! : null;
		};
		const [before, after] = [pour(shift.from), pour(shift.to)];
		if (before && after)
			return {
				code: 'feed-changes',
				of: parts.length > 1 ? before.product : '',
				beforePerL: before.perL,
				afterPerL: after.perL,
				unit: before.unit,
				targetEcUsCm,
			};
	}
	return strength === null ? { code: 'planned-anew' } : { code: 'ec-moves', strength, byUsCm: shift.to - shift.from };
}
