import { QUANTITY } from '@/core/quantity';
import { unitLabel } from '../ui/format';
import { api } from './client';
import { enter, takeBack, waitingEntries } from './queue';

/** Takes back what this device entered last, sent or not. @returns what to say of it @throws ApiProblem */
export async function takeBackLast(): Promise<string> {
	// What has not been stored yet was entered last.
	const unsent = (await waitingEntries()).findLast((x) => x.address === 'POST /readings' && x.refused === null);
	if (unsent && (await takeBack(unsent.key))) return `Taken back: ${unsent.words}.`;
	const { undone } = await api('POST /readings/undo');
	window.dispatchEvent(new Event('cordwain:changed'));
	return undone.length === 0
		? 'There is nothing to undo.'
		: `Taken back: ${undone[0]!.station} ${undone
				.map((r) => `${QUANTITY[r.quantity].name} ${r.value} ${unitLabel(r.unit)}`.trim())
				.join(', ')}. It stays in the Ledger’s history.`;
}

/** Takes back an event that was just logged. @returns what to say of it @throws ApiProblem */
export async function takeBackEvent(id: number): Promise<string> {
	const result = await enter(
		'POST /events/:id/withdrawal',
		{ params: { id }, body: { withdrawn: true } },
		'taking back what was logged',
	);
	return result.kind === 'stored' ? 'Taken back; what hung on it is judged anew.' : result.message;
}
