import type { FieldProblem, ProblemCode } from '@/contract/problems';

/** A request that cannot be met, with what to do about it. The server turns it into problem details (RFC 9457). */
export class Refusal extends Error {
	constructor(
		readonly code: ProblemCode,
		readonly errors: readonly FieldProblem[],
		/** Words for the whole, and members of its own, as RFC 9457 allows. */
		readonly more: { detail?: string; [member: string]: unknown } = {},
	) {
		super(errors.map((e) => e.message).join(' ') || code);
	}
}
