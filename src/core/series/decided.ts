import { DECISIONS } from './findings';

/** What a person decided about a stretch of a series; both ends are in it. */
export interface StretchDecision {
	since: number;
	until: number;
	kind: 'keep' | 'discard' | 'undo';
}

/**
 * What was decided about a time, by number (findings): the newest decision about it counts, and one that was undone is none.
 * @param decisions oldest first
 * @example decidedAt([{ since: 0, until: 10, kind: 'discard' }], 10) // 2
 */
export function decidedAt(decisions: readonly StretchDecision[], at: number): number {
	for (let i = decisions.length - 1; i >= 0; i--) {
		const d = decisions[i]!;
		if (at < d.since || at > d.until) continue;
		return d.kind === 'undo' ? 0 : DECISIONS.indexOf(d.kind);
	}
	return 0;
}

/**
 * The stretches that stand as kept, ascending and apart, as [from, to).
 * @param decisions oldest first
 * @example keptStretches([{ since: 0, until: 10, kind: 'keep' }]) // [[0, 11]]
 */
export function keptStretches(decisions: readonly StretchDecision[]): [number, number][] {
	const ends = [...new Set(decisions.flatMap((d) => [d.since, d.until + 1]))].sort((a, b) => a - b);
	const kept: [number, number][] = [];
	for (let i = 0; i + 1 < ends.length; i++) {
		if (DECISIONS[decidedAt(decisions, ends[i]!)] !== 'keep') continue;
		const last = kept.at(-1);
		if (last && last[1] === ends[i]) last[1] = ends[i + 1]!;
		else kept.push([ends[i]!, ends[i + 1]!]);
	}
	return kept;
}
