import type { IntervalAdvice } from './drift';

/** How often a probe is wanted in a standard: by a school that was chosen, by the maker, by a number, or as it has shown itself. */
export interface IntervalChoice {
	by: 'learned' | 'weekly' | 'before_use' | 'monthly' | 'maker' | 'days';
	/** As the maker says, or as was chosen. */
	days?: number | null | undefined;
}

const SCHOOL_DAYS = { weekly: 7, monthly: 30, before_use: 0.5 } as const;
/** Where a maker is followed who says nothing (common practice, no source). */
const MAKER_DAYS = 30;

/** Days between two calibrations. */
export function intervalDays(choice: IntervalChoice, learned: IntervalAdvice): number {
	if (choice.by === 'learned') return learned.days;
	if (choice.by === 'maker' || choice.by === 'days') return choice.days ?? MAKER_DAYS;
	return SCHOOL_DAYS[choice.by];
}
