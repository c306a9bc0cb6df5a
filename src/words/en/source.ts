import type { RunRule } from '@/core/water/source-chart';

/** What a point of a control chart broke. */
export const RUN_RULE_WORDS: Record<RunRule, string> = {
	'beyond-limits': 'beyond the limits',
	'two-of-three': 'two of three beyond two thirds of the limits',
	'four-of-five': 'four of five beyond one third of the limits',
	'nine-one-side': 'nine in a row on one side of the mean',
	'six-trending': 'six in a row rising or falling',
};
