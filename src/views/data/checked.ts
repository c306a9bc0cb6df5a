import type { Contract } from '@/contract';
import type { FieldProblem } from '@/contract/problems';

/**
 * What the contract says against a body before it is sent. Its schemas are fetched when a field is first left, so that no page
 * waits for them; where they cannot be fetched nothing is said here, and the server says it.
 */
export const refusedBefore = (address: keyof Contract & string, body: unknown): Promise<FieldProblem[]> =>
	import('@/contract/refused').then(
		(contract) => contract.refusedBody(address, body),
		() => [],
	);
