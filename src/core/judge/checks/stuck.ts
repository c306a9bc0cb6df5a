import type { FindingSaid } from '../said';
import type { AtRest } from '../trace';
import type { Check, Subject } from './check';

/** Flat line (QARTOD): a sensor rests on one value, or all that it shows rests, far longer than it ever did in the last days. */
export const stuck: Check = {
	code: 'stuck',
	title: 'A sensor that still moves',
	run(s) {
		if (!s.continuous) return null;
		const [hangs, code] = isOver(s.together)
			? ([s.together, 'node-hangs'] as const)
			: ([s.rests, 'stuck-for'] as const);
		if (!isOver(hangs)) return null;
		const said: FindingSaid = { code, ms: hangs.ms, usualMs: hangs.usualMs };
		return {
			check: 'stuck',
			flag: 3,
			cause: 'stuck',
			suggested: null,
			said,
			evidence: {
				rests_min: Math.round(hangs.ms / 60_000),
				longest_before_min: Math.round(hangs.usualMs / 60_000),
				value: s.reading.value,
			},
			weight: 58,
		};
	},
};

const isOver = (r: AtRest | null): r is AtRest => r !== null && r.ms >= r.limitMs;
const justOver = (r: AtRest | null): boolean => isOver(r) && r.msBefore < r.limitMs;

/**
 * From when on the value has been standing, at the reading that makes it sure; undefined at the others. A coarse display rests
 * honestly for hours, so of its own rest nothing is said backwards.
 */
export function stuckSince(s: Subject): number | undefined {
	if (isOver(s.together)) return justOver(s.together) ? Math.max(s.together.since, s.rests?.since ?? 0) : undefined;
	return justOver(s.rests) && !s.coarse ? s.rests!.since : undefined;
}
