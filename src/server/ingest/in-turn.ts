import { Refusal } from '@/service/refusal';

/**
 * One at a time for each node, before a connection to the database is taken: a node that sends many at once keeps nobody else waiting.
 */
const MOST_WAITING = 20;
const turns = new Map<number, { waiting: number; last: Promise<unknown> }>();

/** @throws Refusal where too many of this node wait already */
export async function inTurn<T>(node: number, work: () => Promise<T>): Promise<T> {
	const turn = turns.get(node) ?? { waiting: 0, last: Promise.resolve() };
	turns.set(node, turn);
	if (turn.waiting >= MOST_WAITING)
		throw new Refusal(
			'too-often',
			[
				{
					path: '',
					message: 'This node sends faster than it is answered. Wait for each answer before the next request.',
				},
			],
			{ retry_after_s: 1 },
		);
	turn.waiting++;
	const mine = turn.last.then(work, work);
	turn.last = mine;
	try {
		return await mine;
	} finally {
		turn.waiting--;
		if (turn.waiting === 0) turns.delete(node);
	}
}
