import { type Contract, RESOURCES } from './index';
import type { Operation } from './operation';
import { type FieldProblem, fieldProblems } from './problems';

/** What the schemas say against the body of an operation; nothing against what they take. The server may know more. */
export function refusedBody(address: keyof Contract & string, body: unknown): FieldProblem[] {
	const operations = RESOURCES.flatMap((r) => Object.entries<Operation>(r.operations));
	const read = operations.find(([a]) => a === address)?.[1].body?.safeParse(body);
	return read && !read.success ? fieldProblems(read.error) : [];
}
