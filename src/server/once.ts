import { createHash } from 'node:crypto';
import { Refusal } from '@/service/refusal';
import { type Client, type Pool, transaction } from '@/store/pool';
import { type Caller, findAnswered, keepAnswered, lockSite } from '@/store/writing';

/** A request that changes something, and who makes it. */
export interface Changing extends Caller {
	operation: string;
	/** What it asks for, to tell a repeat from another request under the same key. */
	fingerprint: string;
}
/** An answer as it goes out. */
export interface Answer {
	status: number;
	text: string;
}

export const fingerprintOf = (...parts: readonly string[]): string =>
	createHash('sha256').update(JSON.stringify(parts)).digest('base64');

/**
 * Does the work of a request in one transaction, and keeps its answer in the same under the key that the caller made: a repeat
 * after a lost answer is given the first one and changes nothing.
 */
export function once(
	pool: Pool,
	by: Changing,
	work: (client: Client) => Promise<Answer>,
): Promise<Answer & { replayed: boolean }> {
	return transaction(pool, async (client) => {
		const siteId = await lockSite(client, by);
		if (by.key !== null) {
			const before = await findAnswered(client, siteId, by.key);
			if (before && (before.operation !== by.operation || before.fingerprint !== by.fingerprint))
				throw new Refusal('key-reused', [
					{
						path: 'Idempotency-Key',
						message:
							'This key was used for another request. Make a new one for every entry; repeat it only with the same.',
					},
				]);
			if (before) return { status: before.status, text: before.answer, replayed: true };
		}
		const answer = await work(client);
		if (by.key !== null)
			await keepAnswered(client, by.key, {
				operation: by.operation,
				fingerprint: by.fingerprint,
				status: answer.status,
				answer: answer.text,
			});
		return { ...answer, replayed: false };
	});
}
