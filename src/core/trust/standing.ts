import type { Judged } from './trust';

/** Doubts about the probe that the next calibration answers, by putting the reading right. */
const SETTLED_BY_CALIBRATION: readonly string[] = ['calibration-overdue'];

/** What is thought of a reading, in the words of the product. */
export type Standing = 'sound' | 'doubtful' | 'bad' | 'restated' | 'discarded';

/**
 * The standing of a reading: what a person decided comes before what the checks say.
 * @example standingOf({ flag: 3, cause: 'span', decision: 'keep' }) // 'sound'
 */
export function standingOf(r: Judged & { restated?: number | null }): Standing {
	if (r.decision === 'discard') return 'discarded';
	if (r.decision === 'keep') return r.restated != null ? 'restated' : 'sound';
	if (r.flag === 4 || r.flag === 9) return 'bad';
	// What a probe was overdue for has been done since: the calibration after it says what the reading was.
	if (r.flag === 3 && !(r.restated != null && SETTLED_BY_CALIBRATION.includes(r.cause ?? ''))) return 'doubtful';
	return r.restated != null ? 'restated' : 'sound';
}
