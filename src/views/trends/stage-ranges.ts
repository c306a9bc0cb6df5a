import type { PlanShown } from '@/contract/plans';
import { startOfDay } from '@/core/quantity/time';

/** The range of a stage of the season, in its time. */
export interface StageRange {
	from: number;
	to: number;
	low: number;
	high: number;
}

/** The ranges of pH or EC by the stages of a plan, as far as they lie in a time. */
export function stageRanges(
	plan: PlanShown | undefined,
	quantity: string,
	span: { from: number; to: number },
	zone: string,
): StageRange[] {
	if (!plan || (quantity !== 'ph' && quantity !== 'ec')) return [];
	return plan.spans.flatMap((s) => {
		const { ph, ec_us_cm } = plan.stages[s.index]!;
		const [low, high] = quantity === 'ph' ? ph : ec_us_cm;
		const from = Math.max(startOfDay(s.from, zone) ?? span.to, span.from);
		const to = Math.min(s.until === null ? span.to : (startOfDay(s.until, zone) ?? span.to), span.to);
		return from < to ? [{ from, to, low, high }] : [];
	});
}
