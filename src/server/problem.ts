import { ZodError } from 'zod';
import { type FieldProblem, fieldProblems, PROBLEMS, type ProblemCode } from '@/contract/problems';
import { NotText } from '@/files/csv-stream';
import { Refusal } from '@/service/refusal';
import { NoSite } from '@/service/site';
import { isDatabaseDown } from './database-down';
import { log } from './log';

/** Problem details for HTTP APIs, RFC 9457. */
const TITLES: Record<number, string> = {
	400: 'The request could not be read',
	401: 'Not known here',
	403: 'Refused',
	404: 'Not found',
	405: 'This address does not take that method',
	406: 'Nothing to offer in that format',
	409: 'It changed meanwhile',
	413: 'Too large',
	415: 'Unknown kind of content',
	422: 'The request cannot be met as it stands',
	429: 'Too often',
	500: 'Something went wrong in Cordwain',
	503: 'The database does not answer',
};

export function problem(
	code: ProblemCode,
	errors: readonly FieldProblem[],
	{ detail, ...members }: Refusal['more'] = {},
): Response {
	const status = PROBLEMS[code];
	return new Response(
		JSON.stringify({
			type: `about:blank#${code}`,
			title: TITLES[status] ?? 'Error',
			status,
			detail: detail ?? errors.map((e) => e.message).join(' '),
			errors,
			...members,
		}),
		{
			status,
			headers: {
				'content-type': 'application/problem+json; charset=utf-8',
				...(status === 503 ? { 'retry-after': '2' } : {}),
				...(status === 429 ? { 'retry-after': String(members.retry_after_s ?? 1) } : {}),
				...(status === 401 ? { 'www-authenticate': 'Bearer' } : {}),
			},
		},
	);
}

const SQL_REFUSALS: Record<string, string> = {
	'22P02': 'A value has the wrong form.',
	'22003': 'A number is too large.',
	'22021': 'Text holds a character that cannot be stored.',
	'22P05': 'Text holds a character that cannot be stored.',
	'23514': 'A value is outside what is possible for it.',
	'23503': 'Something named here does not exist.',
	'23505': 'It exists already.',
};

export function problemOf(error: unknown): Response {
	if (error instanceof Refusal) return problem(error.code, error.errors, error.more);
	if (error instanceof ZodError) return problem('invalid', fieldProblems(error));
	if (error instanceof NoSite) return problem('no-site', [{ path: '', message: error.message }]);
	if (error instanceof NotText) return problem('not-text', [{ path: 'file', message: error.message }]);
	if (isDatabaseDown(error))
		return problem('database-down', [], {
			detail: 'The database does not answer. What you typed is kept here; try again in a moment.',
		});
	const code = (error as { code?: unknown }).code;
	if (typeof code === 'string' && SQL_REFUSALS[code])
		return problem('refused-by-database', [{ path: '', message: SQL_REFUSALS[code] }]);
	log.error({ error }, 'request');
	return problem('internal', [], { detail: 'Nothing was stored. The server’s log says more.' });
}
