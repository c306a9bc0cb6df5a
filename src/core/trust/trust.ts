/**
 * What a reading may be used for, by the verdict of the checks and what a person decided. The one place that knows: nobody else
 * asks for a flag or a cause. Flags are those of the IOOS QARTOD manuals: 1 pass, 2 not evaluated, 3 suspect, 4 fail, 9 missing.
 */
export const PURPOSES = ['history', 'dose', 'water', 'review'] as const;
/**
 * - `history`: teaches what the station usually shows;
 * - `dose`: a dose is advised on it, and what a dose did is learned from it;
 * - `water`: counts in the chart of a source, and as what a water holds;
 * - `review`: waits for a person's decision.
 */
export type Purpose = (typeof PURPOSES)[number];

export interface Judged {
	flag: number | null;
	cause?: string | null | undefined;
	decision?: string | null | undefined;
}

/**
 * What a doubtful reading is still good for, by its cause: a doubt about the probe or about the kind of water is no doubt about
 * this number. A cause that is not named here is good for nothing but a decision.
 */
export const DOUBTFUL: Readonly<Record<string, readonly Purpose[]>> = {
	'low-ionic-strength': ['history'],
	'not-settled': ['history', 'review'],
	stuck: ['history', 'review'],
	gap: ['history', 'review'],
	'calibration-overdue': ['history', 'dose', 'water'],
	'calibration-failed': ['history', 'review'],
	'temperature-far': ['history', 'water'],
	'source-shift': ['water', 'review'],
};
const SOUND: readonly Purpose[] = ['history', 'dose', 'water'];
const DOUBTFUL_OTHERWISE: readonly Purpose[] = ['review'];
/** A person gave it up, or it was taken back. */
const GIVEN_UP: readonly string[] = ['discard', 'undo'];
/** A person looked, and wants it looked at again. */
export const OPEN_AGAIN: readonly string[] = ['restore', 'retest'];

/** Flags of a doubtful and of a bad reading: what may wait in Review. */
export const DOUBTED_FLAGS: readonly number[] = [3, 4];
const LEAST_DOUBTED = 3;

function purposesOf(r: Judged): readonly Purpose[] {
	const decision = r.decision ?? '';
	if (GIVEN_UP.includes(decision)) return [];
	if (decision === 'keep' || (r.flag ?? 2) < LEAST_DOUBTED) return SOUND;
	const cause = r.cause ?? '';
	return Object.hasOwn(DOUBTFUL, cause) ? DOUBTFUL[cause]! : DOUBTFUL_OTHERWISE;
}

/** @example permits({ flag: 3, cause: 'calibration-overdue' }, 'dose') // true */
export const permits = (r: Judged, purpose: Purpose): boolean => purposesOf(r).includes(purpose);

/** The same as lists, for queries: below this flag, or with one of these causes, or kept by a person, and not given up. */
export interface TrustLists {
	belowFlag: number;
	causes: string[];
	givenUp: string[];
}
export const trustLists = (purpose: Purpose): TrustLists => ({
	belowFlag: SOUND.includes(purpose) ? LEAST_DOUBTED : 0,
	causes: Object.keys(DOUBTFUL).filter((c) => DOUBTFUL[c]!.includes(purpose)),
	givenUp: [...GIVEN_UP],
});

/** Causes that never wait in Review: true, but nothing that a decision about one reading would settle. */
export const NOT_FOR_REVIEW: readonly string[] = Object.keys(DOUBTFUL).filter((c) => !DOUBTFUL[c]!.includes('review'));

/** Whether a person may still decide about it: doubted, and neither kept nor given up. */
export const mayBeDecided = (r: Judged): boolean =>
	(r.flag ?? 2) >= LEAST_DOUBTED && (r.decision == null || OPEN_AGAIN.includes(r.decision));

/** Whether it waits in Review: of those, the ones that a decision would settle. */
export const waits = (r: Judged): boolean => mayBeDecided(r) && permits({ ...r, decision: null }, 'review');
