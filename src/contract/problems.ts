import { z } from 'zod';

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
	internal: 500,
	'database-down': 503,
	// What it names.
	'no-such-id': 404,
	'no-such-reading': 404,
	'no-such-station': 404,
	'no-such-round': 404,
	'no-such-probe': 404,
	'no-such-calibration': 404,
	'no-such-job': 404,
	'no-live-meter': 404,
	'unknown-recipe': 404,
	'unknown-station': 422,
	'unknown-system': 422,
	'unknown-instrument': 422,
	'unknown-product': 422,
	'unknown-standard': 422,
	'unknown-unit': 422,
	// What it says.
	'already-corrected': 409,
	'no-open-batch': 409,
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
