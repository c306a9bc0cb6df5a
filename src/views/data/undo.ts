import { useEffect } from 'react';
import { QUANTITY } from '@/core/quantity';
import { unitLabel } from '../ui/format';
import { api } from './client';
import { enter, takeBack, waitingEntries } from './queue';
import { siteHere } from './site-here';

/** What was just entered and can be taken back: these readings, this event, or a sample that still waits on this device. */
export type Undo = { readings: number[] } | { event: number } | 'waiting';

/** What was entered last on this page: the key takes back just what its notice speaks of. */
let latest: Undo | null = null;
/** @param what the newest notice offers to take back; null for nothing */
export function useNotedEntry(what: Undo | null): void {
	useEffect(() => {
		latest = what;
	}, [what]);
}

/** Takes back just that. @returns what to say of it @throws ApiProblem */
export async function undo(what: Undo): Promise<string> {
	latest = null;
	if (what === 'waiting') return takeBackLast();
	if ('event' in what) {
		const result = await enter(
			'POST /events/:id/withdrawal',
			{ params: { id: what.event }, body: { withdrawn: true } },
			'taking back what was logged',
		);
		return result.kind === 'stored' ? 'Taken back; what hung on it is judged anew.' : result.message;
	}
	await api('POST /readings/decisions', {
		body: { readings: what.readings.map((id) => ({ id })), kind: 'undo' },
	});
	window.dispatchEvent(new Event('cordwain:changed'));
	return 'Taken back. It stays in the Ledger’s history.';
}

/** Takes back what was entered last on this page, else by this device, sent or not. @returns what to say of it @throws ApiProblem */
export async function takeBackLast(): Promise<string> {
	if (latest !== null && latest !== 'waiting') return undo(latest);
	// What has not been stored yet was entered last.
	const unsent = (await waitingEntries()).findLast(
		(x) =>
			(x.address === 'POST /readings' || x.address === 'POST /events') && x.refused === null && x.site === siteHere(),
	);
	if (unsent && (await takeBack(unsent.key))) return `Taken back: ${unsent.words}.`;
	const { undone } = await api('POST /readings/undo');
	window.dispatchEvent(new Event('cordwain:changed'));
	return undone.length === 0
		? 'There is nothing to undo.'
		: `Taken back: ${undone[0]!.station} ${undone
				.map((r) => `${QUANTITY[r.quantity].name} ${r.value} ${unitLabel(r.unit)}`.trim())
				.join(', ')}. It stays in the Ledger’s history.`;
}
