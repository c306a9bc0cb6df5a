import type { Judged } from './trust';

/** What is thought of a reading, in the words of the product. */
export type Standing = 'sound' | 'doubtful' | 'bad' | 'restated' | 'discarded';

export function standingOf(r: Judged & { restated?: number | null }): Standing {
	if (r.decision === 'discard') return 'discarded';
	if (r.decision === 'keep') return r.restated != null ? 'restated' : 'sound';
	if (r.flag === 4 || r.flag === 9) return 'bad';
	if (r.flag === 3) return 'doubtful';
	return r.restated != null ? 'restated' : 'sound';
}
