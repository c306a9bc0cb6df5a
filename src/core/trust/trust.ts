/**
 * What a reading may be used for, by the verdict of the checks and what a person decided. The one place that knows: nobody else
 * asks for a flag or a cause. Flags are those of the IOOS QARTOD manuals: 1 pass, 2 not evaluated, 3 suspect, 4 fail, 9 missing.
 */
export const PURPOSES = [
	'history',
	'dose',
	'water',
	'review',
	'sequence',
	'steps',
	'compare',
	'level',
	'restate',
	'station',
	'wander',
] as const;
/**
 * - `history`: teaches what the station usually shows;
 * - `dose`: a dose is advised on it, and what a dose did is learned from it;
 * - `water`: counts in the chart of a source, and as what a water holds;
 * - `review`: waits for a person's decision;
 * - `sequence`: stands in the row of what its instrument showed: when it was read, and what it repeats;
 * - `steps`: how far it lies from the one before it tells how this display moves;
 * - `compare`: is held against other instruments;
 * - `level`: may be a new level, if others agree with it;
 * - `restate`: a later calibration may put it right;
 * - `station`: the standing of its station is its own;
 * - `wander`: counts in what its water did, also where nobody expected that.
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
const SEEN: readonly Purpose[] = ['sequence', 'steps', 'compare', 'level', 'station'];
const SOUND: readonly Purpose[] = ['history', 'dose', 'water', 'restate', 'wander', ...SEEN];
export const DOUBTFUL_OTHERWISE: readonly Purpose[] = ['review', ...SEEN];
export const DOUBTFUL: Readonly<Record<string, readonly Purpose[]>> = {
	'low-ionic-strength': ['history', 'wander', 'sequence', 'steps', 'compare', 'level', 'restate'],
	'not-settled': ['history', 'review', ...SEEN],
	stuck: ['history', 'review', ...SEEN],
	gap: ['history', 'review', ...SEEN],
	'calibration-overdue': ['history', 'dose', 'water', 'wander', ...SEEN],
	'calibration-failed': ['history', 'review', 'wander', ...SEEN],
	'source-shift': ['water', 'review', 'wander', ...SEEN],
	'unexpected-change': ['review', ...SEEN, 'restate', 'wander'],
	'unlogged-addition': ['review', ...SEEN, 'wander'],
	'calibration-step': ['review', ...SEEN, 'wander'],
	// Out of the water and back says nothing of the water, nor of how the display moves in it.
	spike: ['review', 'sequence', 'compare', 'level', 'station'],
	'probe-in-air': ['review', 'sequence', 'compare', 'station'],
	'probe-in-storage': ['review', 'sequence', 'compare', 'station'],
	duplicate: ['review', 'station'],
	pasted: ['review', 'sequence', 'station'],
	clock: ['review', 'sequence', 'steps', 'station'],
};
/** Failed altogether: a time that is wrong in itself says nothing of when anything was. */
const BAD: Readonly<Record<string, readonly Purpose[]>> = { clock: ['review', 'station'] };
/** A person gave it up, or it was taken back. */
const GIVEN_UP: readonly string[] = ['discard', 'undo'];
/** Whether a person gave it up, or took it back. */
export const isGivenUp = (r: Pick<Judged, 'decision'>): boolean => GIVEN_UP.includes(r.decision ?? '');
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
	if (r.flag === 4 && Object.hasOwn(BAD, cause)) return BAD[cause]!;
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
/** What queries ask for: nothing that a cause without an entry of its own is good for. */
export const QUERIED = ['history', 'dose', 'water'] as const satisfies readonly Purpose[];
/**
 * The same table as lists that a query takes for a purpose.
 * @example trustLists('dose').belowFlag // 3
 */
export const trustLists = (purpose: (typeof QUERIED)[number]): TrustLists => ({
	belowFlag: LEAST_DOUBTED,
	causes: Object.keys(DOUBTFUL).filter((c) => DOUBTFUL[c]!.includes(purpose)),
	givenUp: [...GIVEN_UP],
});

/** Causes that never wait in Review: true, but nothing that a decision about one reading would settle. */
export const NOT_FOR_REVIEW: readonly string[] = Object.keys(DOUBTFUL).filter((c) => !DOUBTFUL[c]!.includes('review'));

/** What waits in Review, as a query asks for it. */
export const OPEN_DOUBTS = { flags: DOUBTED_FLAGS, undecided: true, withoutCauses: NOT_FOR_REVIEW } as const;

/** Whether a person may still decide about it: doubted, and neither kept nor given up. */
export const mayBeDecided = (r: Judged): boolean =>
	(r.flag ?? 2) >= LEAST_DOUBTED && (r.decision == null || OPEN_AGAIN.includes(r.decision));

/** Whether it waits in Review: of those, the ones that a decision would settle. */
export const waits = (r: Judged): boolean => mayBeDecided(r) && permits({ ...r, decision: null }, 'review');
