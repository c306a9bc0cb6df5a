import { heldAt } from '../../../chem/solution';
import type { Believed, EarlierFilling } from '../believed';
import { type DoseSeen, noiseSeen } from '../follow';
import { visitGapMs } from '../mixing-wait';
import { phosphateOfFeed } from '../prior';
import type { DoseProduct, DoseQuestion, PhRead, Said } from '../record';

/** What a guard looks at. */
export interface Guarded {
	q: DoseQuestion;
	b: Believed;
	product: DoseProduct & { strengthMeqMl: number };
	/** The reading that was asked about. */
	ph: number;
	/** When it was read; now where it was said with the question. */
	phAt: number;
	reading: PhRead | null;
	/** EC of the solution, or of its water where nothing was read since; null where nobody knows. */
	ecUsCm: number | null;
	sign: -1 | 1;
	/** Doses of the kind that is asked about since the tank was filled, oldest first. */
	doses: DoseSeen[];
}

/** What a guard says: not now, at most so much, or nothing. */
export type Verdict =
	| { say: 'refuse'; said: Said }
	| { say: 'wait'; minutes: number; said: Said }
	| { say: 'at most'; meqL: number; said: Said }
	| null;

/**
 * One guard, which holds whatever the model believes. It does not look at what the model would advise.
 */
export interface Guard {
	name: string;
	check: (g: Guarded) => Verdict;
}

/** pH at which roots are hurt at once (common practice, no source). */
export const HARMS_PH = { acid: 4.5, base: 7.5 };

/** With nothing known of how a solution answers, a step is at most so many equivalents; less where little buffers. */
export const FIRST_STEP_MEQ_L = 0.1;
export const FIRST_STEP_THIN_MEQ_L = 0.02;
export const THIN_US_CM = 300;
/** The most that a first step may be, meq/L: a fifth of it where little buffers, or nobody knows. */
export const firstStep = (g: Guarded): number =>
	g.ecUsCm === null || g.ecUsCm < THIN_US_CM ? FIRST_STEP_THIN_MEQ_L : FIRST_STEP_MEQ_L;

/** What the feed alone would take, by its EC, to where it harms: all that is left once the carbonate of the water is gone. */
export function bareFeed(g: Guarded): number {
	const p = phosphateOfFeed(g.ecUsCm, g.b.known.waterEcUsCm);
	const end = g.sign < 0 ? HARMS_PH.acid : HARMS_PH.base;
	return Math.abs(heldAt(g.ph, 0, p, g.b.medium) - heldAt(end, 0, p, g.b.medium));
}
/** What is poured from the wrong mark or by a second hand: half as much again. */
export const SLIP_TIMES = 1.5;

/** What the reading that was asked about may be off by: as its probe is known, or as this tank’s readings came. */
export const spreadOf = (g: Guarded): number =>
	g.reading === null ? 0 : Math.max(g.reading.u, noiseSeen(g.b.followed));

/** Another visit too, where the pH has climbed by so much with nothing done. */
const CLIMBED = 0.15;

/** Doses since the tank was last left to itself, and those before. */
export function visitsOf(g: Guarded): { now: DoseSeen[]; before: DoseSeen[] } {
	let first = g.doses.length;
	let next = { at: g.phAt, ph: g.ph };
	while (first > 0) {
		const d = g.doses[first - 1]!;
		if (next.at - d.at > visitGapMs(g.b.mixMinutes) || (next.ph - d.phAfter) * -g.sign > CLIMBED) break;
		next = { at: d.at, ph: d.phBefore };
		first--;
	}
	return { now: g.doses.slice(first), before: g.doses.slice(0, first) };
}

/** The largest of some doses that did what was expected of it, meq/L; null where none did. */
export function largestGood(doses: readonly DoseSeen[]): number | null {
	const good = doses.filter((d) => d.answered === 'as expected' && d.poured === 1).map((d) => Math.abs(d.meqL));
	return good.length === 0 ? null : Math.max(...good);
}

/** So unlike in EC, it is another solution, whatever the water is called. */
const OTHER_EC_LN = 0.3;

/** Earlier fillings of this water that the same kind of product brought to their target, in a solution about as strong. */
export const alikeFillings = (g: Guarded): EarlierFilling[] =>
	g.b.earlier.filter(
		(e) =>
			!e.otherWater &&
			e.meqL * -g.sign > 0 &&
			(e.ecUsCm === null || g.ecUsCm === null || Math.abs(Math.log(e.ecUsCm / g.ecUsCm)) < OTHER_EC_LN),
	);
