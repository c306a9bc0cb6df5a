import { QUANTITY } from '@/core/quantity';
import { unitLabel } from '../ui/format';
import { api } from './client';
import { takeBack, waitingEntries } from './queue';

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
