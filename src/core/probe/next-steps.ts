import type { Calibrated } from './calibration';

/** What to do with a probe after a dip in standards, in the order in which it is done. */
export const NEXT_STEPS = ['second-bottle', 'clean', 'rehydrate', 'adjust', 'recheck', 'replace'] as const;
export type NextStep = (typeof NEXT_STEPS)[number];

const CELL_OFF: readonly string[] = ['cell-factor'];
const READS_WRONG: readonly string[] = ['reading-off'];
const SLUGGISH: readonly string[] = ['slope-below', 'slope-outside', 'offset-mv', 'slow'];
const TOO_STRONG: readonly string[] = ['slope-above', 'wrong-way'];

/**
 * What a calibration asks for: nothing where it is good. A bulb that answers weakly or slowly is cleaned and soaked before it is
 * adjusted, since an adjustment hides it; one that answers too strongly stood in the wrong bottle. Common practice, no source.
 * @param again it was cleaned and soaked already, and is as it was
 * @example nextSteps({ quantity: 'ph', verdict: 'good', reasons: [] }, 'check', false) // []
 */
export function nextSteps(
	c: Pick<Calibrated, 'quantity' | 'verdict' | 'reasons'>,
	kind: 'check' | 'adjust',
	again: boolean,
): NextStep[] {
	if (c.verdict === 'good') return [];
	const has = (codes: readonly string[]) => c.reasons.some((r) => codes.includes(r.code));
	const steps = new Set<NextStep>();
	if (has(TOO_STRONG)) steps.add('second-bottle');
	if (has(SLUGGISH) || has(CELL_OFF)) {
		if (again && c.verdict === 'fail') steps.add('replace');
		else {
			steps.add('clean');
			if (c.quantity === 'ph') steps.add('rehydrate');
			steps.add('recheck');
		}
	}
	if (kind === 'check' && (has(READS_WRONG) || has(CELL_OFF)) && !steps.has('replace')) steps.add('adjust');
	if (c.verdict === 'fail' && !again && !has(SLUGGISH) && !has(CELL_OFF)) steps.add('second-bottle');
	return NEXT_STEPS.filter((s) => steps.has(s));
}
