import { type ZodError, z } from 'zod';

/** Everything the API refuses with, and the status of each (RFC 9457 problem details; RFC 9110 for the statuses). */
export const PROBLEMS = {
	// The request itself.
	'broken-json': 400,
	'no-file': 400,
	'foreign-host': 403,
	'foreign-origin': 403,
	'no-such-address': 404,
	method: 405,
	'too-large': 413,
	invalid: 422,
	'not-finite': 422,
	'refused-by-database': 422,
	'not-text': 422,
	'no-site': 409,
	'not-advised': 409,
	'not-empty': 409,
	'no-sample': 409,
	internal: 500,
	'database-down': 503,
	// What it names.
	'no-such-id': 404,
	'no-such-reading': 404,
	'no-such-event': 404,
	'no-such-irrigation': 404,
	'no-such-step': 404,
	'no-such-plan': 404,
	'no-such-stage': 404,
	'no-such-attachment': 404,
	'no-such-station': 404,
	'no-such-round': 404,
	'no-such-probe': 404,
	'no-such-calibration': 404,
	'no-such-job': 404,
	'no-live-meter': 404,
	'no-such-node': 404,
	'no-such-episode': 404,
	'unknown-recipe': 404,
	'unknown-station': 422,
	'unknown-system': 422,
	'more-drained-than-given': 422,
	'unknown-instrument': 422,
	'unknown-product': 422,
	'unknown-standard': 422,
	'unknown-unit': 422,
	'no-range': 422,
	// Sensor nodes.
	'unknown-token': 401,
	'too-often': 429,
	'too-many-samples': 413,
	'bad-samples': 422,
	'probe-of-another': 409,
	// What it says.
	'bad-key': 422,
	'key-reused': 409,
	'decided-meanwhile': 409,
	'changed-meanwhile': 409,
	'already-corrected': 409,
	withdrawn: 409,
	'no-open-batch': 409,
	'step-done': 409,
	'out-of-order': 409,
	'real-meter': 409,
	'same-minute': 409,
	'same-standard-twice': 422,
	'no-answer': 422,
	'nothing-shown': 422,
	'no-points': 422,
	'bad-lines': 422,
	'bad-reading': 422,
	'bad-time': 422,
	'bad-label': 422,
	'bad-shape': 422,
	'bad-attachment': 422,
	'bad-calibration': 422,
	'cannot-be-computed': 422,
	'half-a-pair': 422,
	'no-reading': 422,
	'no-volume': 422,
	'not-a-feed': 422,
	'not-a-ph-product': 422,
	'nothing-entered': 422,
	'one-sample': 422,
	overflow: 422,
	'reason-needed': 422,
	'wrong-header': 422,
	'wrong-standard': 422,
	'wrong-way': 422,
} as const satisfies Record<string, number>;
export type ProblemCode = keyof typeof PROBLEMS;

/** What every operation may refuse with. */
export const GENERAL_PROBLEMS: readonly ProblemCode[] = [
	'broken-json',
	'foreign-host',
	'foreign-origin',
	'no-such-address',
	'method',
	'too-large',
	'invalid',
	'not-finite',
	'refused-by-database',
	'bad-key',
	'key-reused',
	'no-site',
	'internal',
	'database-down',
];

/** The body of a refusal. */
export const problem = z.looseObject({
	type: z.string().regex(/^about:blank#[a-z-]+$/),
	title: z.string(),
	status: z.number().int(),
	detail: z.string(),
	errors: z.array(z.object({ path: z.string(), message: z.string() })),
});

/** What is wrong with what was sent: where it stands in it, by names with dots between, and what to write instead. */
export interface FieldProblem {
	path: string;
	message: string;
}
export const fieldProblems = (error: ZodError): FieldProblem[] =>
	error.issues.map((i) => ({ path: i.path.join('.'), message: i.message }));
