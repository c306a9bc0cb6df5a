import type { Contract } from '@/contract';
import type { Call } from '@/contract/operation';
import type { StoredReading } from '@/contract/readings';
import { enter } from '../data/queue';

type Kind = Call<'POST /readings/:id/decision', Contract['POST /readings/:id/decision']>['body']['kind'];

/** What a person decides of a reading as they see it: exactly once, and kept on this device while the server is away. */
export const enterDecision = (
	reading: Pick<StoredReading, 'id' | 'decision'>,
	kind: Kind,
	named: string,
	reason = '',
) =>
	enter(
		'POST /readings/:id/decision',
		{ params: { id: reading.id }, body: { kind, reason, after: reading.decision } },
		`${kind}: ${named}`,
	);
