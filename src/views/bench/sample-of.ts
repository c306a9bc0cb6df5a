import type { DraftSample } from '../entry/sample';
import type { Entry } from './dips';
import type { Draft } from './draft';
import { countedNote } from './understand';

/** What is typed at Bench, as a sample. */
export const sampleOf = ({
	draft,
	entries,
	at,
	waitS,
	skipped,
	round,
}: {
	draft: Draft;
	entries: readonly Entry[];
	at: number | null;
	waitS: number | null;
	skipped: DraftSample['skipped'];
	round: number | null;
}): DraftSample => ({
	station: draft.station,
	instrument: draft.instrument,
	values: entries.map((e) => ({
		quantity: e.v.quantity,
		digits: e.v.digits,
		unit: e.v.unit,
		instrument: e.instrument,
		note: countedNote(e.v),
	})),
	note: draft.note,
	at,
	waitS,
	skipped,
	round,
	source: 'bench',
});
