import type { ProbeEventKind } from './care';
import type { IntervalAdvice } from './drift';
import type { IntervalChoice } from './interval';

/** Why a probe is calibrated as often as it is. */
export type IntervalReason =
	| { code: 'chosen'; by: Exclude<IntervalChoice['by'], 'learned'> }
	| { code: 'learned'; from: number; days: number; chance: number }
	| { code: 'too-few' };
/** Why it is due when it is. */
export type DueReason =
	| IntervalReason
	| { code: 'upset'; by: ProbeEventKind }
	| { code: 'never-calibrated' }
	/** What it shows is known to be wrong: pH, or percent; found at its last visit, or told by those it met. */
	| {
			code: 'wrong';
			quantity: 'ph' | 'ec';
			error: number;
			u: number;
			by: 'visit' | 'others';
			others: readonly { name: string; alike: number; times: number }[];
	  };

/**
 * By what the interval of a probe is told.
 * @param from intervals of its own that were learned from
 */
export function intervalReason(choice: IntervalChoice, advice: IntervalAdvice, from: number): IntervalReason {
	if (choice.by !== 'learned') return { code: 'chosen', by: choice.by };
	return advice.reason === 'learned'
		? { code: 'learned', from, days: advice.days, chance: advice.chance }
		: { code: 'too-few' };
}
