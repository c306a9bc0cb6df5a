/** A request that cannot be met, with what to do about it. The server turns it into problem details (RFC 9457). */
export interface FieldProblem {
	path: string;
	message: string;
}

export class Refusal extends Error {
	constructor(
		readonly status: 400 | 403 | 404 | 409 | 413 | 415 | 422,
		readonly code: string,
		readonly errors: readonly FieldProblem[],
	) {
		super(errors.map((e) => e.message).join(' ') || code);
	}
}
