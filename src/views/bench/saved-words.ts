import type { InstrumentKind } from '@/core/reading/protocol';
import { standingOf } from '@/core/trust/standing';
import { AFTERWARDS } from '@/words/en/protocol';
import type { SaveResult } from '../entry/sample';
import { dateTime } from '../ui/format';

/**
 * What is said once a sample is saved: that it was, what it belongs to, and what is to be done with the probe.
 * @param late it was of an earlier time: its verdict was not shown while it was typed
 * @param kind of the instrument; null for those who need no reminder
 */
export function savedWords(
	result: SaveResult,
	name: string,
	timezone: string,
	kind: InstrumentKind | null,
	late = false,
): string[] {
	if (result.kind === 'kept') return [result.message];
	const lines = [`${name} saved.`];
	const s = result.stored.samples[0];
	if (s?.round_finished_at)
		lines.push(
			`Its round was finished at ${dateTime(Date.parse(s.round_finished_at), timezone)}; this is kept with it as late.`,
		);
	for (const r of late ? (s?.readings ?? []) : [])
		if (standingOf({ ...r, decision: null }) !== 'sound') lines.push(`${r.message} ${r.next_step}`);
	for (const r of s?.retests ?? [])
		lines.push(
			r.answered_before_at
				? `The retest had been done at ${dateTime(Date.parse(r.answered_before_at), timezone)}; both are kept.`
				: 'That was the retest; decide about the first reading in Review.',
		);
	if (kind && AFTERWARDS[kind]) lines.push(AFTERWARDS[kind]);
	return lines;
}
