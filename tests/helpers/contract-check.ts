import { isDeepStrictEqual } from 'node:util';
import { z } from 'zod';
import { RESOURCES } from '@/contract';
import type { Operation } from '@/contract/operation';
import { GENERAL_PROBLEMS, PROBLEMS, type ProblemCode, problem } from '@/contract/problems';

const known = RESOURCES.flatMap(({ operations }) => Object.entries<Operation>(operations)).map(
	([address, operation]) => {
		const [method, path] = address.split(' ') as [string, string];
		return {
			address,
			method,
			operation,
			shape: new RegExp(`^${path.replace(/:\w+/g, '[^/]+')}$`),
			names: path.split(':'),
		};
	},
);

/** The operation that an address of the API belongs to. */
export const operationAt = (method: string, path: string) =>
	known
		.filter((k) => k.method === (method === 'HEAD' ? 'GET' : method) && k.shape.test(path))
		.sort((a, b) => a.names.length - b.names.length)[0];

const unless = (right: boolean, words: string): string | null => (right ? null : words);

/** What is wrong with a refusal, or null. */
function refusalAgainst(operation: Operation | undefined, status: number, body: unknown): string | null {
	const told = problem.safeParse(body);
	if (!told.success) return `is no problem details: ${z.prettifyError(told.error)}`;
	const code = told.data.type.slice('about:blank#'.length) as ProblemCode;
	const allowed = [...GENERAL_PROBLEMS, ...(operation?.problems ?? [])];
	return (
		unless(allowed.includes(code), `refuses with “${code}”, which the contract does not name`) ??
		unless(PROBLEMS[code] === status && told.data.status === status, `answers ${status} for “${code}”`)
	);
}

/** What is wrong with an answer by the contract: its status, its shape, and whether it comes back the same; null where nothing is. */
export function againstContract(
	method: string,
	path: string,
	status: number,
	type: string,
	body: unknown,
): string | null {
	const found = operationAt(method, path);
	if (type.includes('problem+json')) return refusalAgainst(found?.operation, status, body);
	if (!found) return 'is answered, but not in the contract';
	const { operation } = found;
	if (!type.includes('json'))
		return unless(
			operation.alsoAnswers?.some((t) => type.startsWith(t)) ?? false,
			`answers ${type}, which the contract does not name`,
		);
	if (status === 202 && operation.background)
		return unless(z.strictObject({ job: z.string() }).safeParse(body).success, 'names no job');
	if (status !== (operation.status ?? 200)) return `answers ${status}`;
	if (!operation.answer) return 'answers JSON, which the contract does not name';
	const decoded = z.safeDecode(operation.answer, body);
	if (!decoded.success) return `is not what the contract says: ${z.prettifyError(decoded.error)}`;
	const again = JSON.parse(JSON.stringify(z.encode(operation.answer, decoded.data)));
	return unless(isDeepStrictEqual(again, body), 'does not come back the same when it is written again');
}
