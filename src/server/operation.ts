import type { ZodType, z } from 'zod';
import { Refusal } from '@/service/refusal';
import type { Pool } from '@/store/pool';
import { database } from './database';
import { keepJudged } from './keep-judged';
import { problem, problemOf } from './problem';

/**
 * One operation of the HTTP API: address, schemas, words and handler in one place. The router validates with the
 * schemas and the OpenAPI document is generated from the same ones.
 */
export interface Operation {
	method: 'GET' | 'POST' | 'PUT' | 'DELETE';
	/** Below /api/v1, with `:name` for parameters. */
	path: string;
	summary: string;
	tag: string;
	query?: ZodType | undefined;
	body?: ZodType | undefined;
	/** Content types of a body that the handler reads itself. */
	rawBody?: readonly string[] | undefined;
	response?: ZodType | undefined;
	/** Further content types it can answer with. */
	alsoAnswers?: readonly string[] | undefined;
	status?: number | undefined;
	run: (input: Input) => Promise<unknown> | unknown;
}

export interface Input {
	params: Record<string, string>;
	query: unknown;
	body: unknown;
	request: Request;
	pool: () => Pool;
	now: number;
	who: string;
}

type Typed<Q extends ZodType | undefined, B extends ZodType | undefined> = Omit<Input, 'query' | 'body'> & {
	query: Q extends ZodType ? z.output<Q> : undefined;
	body: B extends ZodType ? z.output<B> : undefined;
};

export function operation<Q extends ZodType | undefined = undefined, B extends ZodType | undefined = undefined>(
	o: Omit<Operation, 'run' | 'query' | 'body'> & {
		query?: Q;
		body?: B;
		run: (input: Typed<Q, B>) => Promise<unknown> | unknown;
	},
): Operation {
	return o as Operation;
}

const MAX_JSON = 4 * 1024 * 1024;

async function readJson(request: Request): Promise<unknown> {
	// Any content type is read as JSON: who may write is told by Host and Origin, not by a header a script forgot.
	if (Number(request.headers.get('content-length') ?? 0) > MAX_JSON)
		throw new Refusal(413, 'too-large', [{ path: '', message: 'At most 4 MB of JSON; send large files to /import.' }]);
	const text = await request.text();
	if (text.length > MAX_JSON)
		throw new Refusal(413, 'too-large', [{ path: '', message: 'At most 4 MB of JSON; send large files to /import.' }]);
	try {
		return JSON.parse(text);
	} catch {
		throw new Refusal(400, 'broken-json', [{ path: '', message: 'The body is not JSON.' }]);
	}
}

/** A number that JSON cannot carry must never leave as null. */
function assertFinite(value: unknown, path: string): void {
	if (typeof value === 'number' && !Number.isFinite(value))
		throw new Refusal(422, 'not-finite', [
			{ path, message: 'The result is too large or too small to be a number; check the values given.' },
		]);
	if (Array.isArray(value)) for (const [i, v] of value.entries()) assertFinite(v, `${path}.${i}`);
	else if (value !== null && typeof value === 'object' && !(value instanceof Date))
		for (const [k, v] of Object.entries(value)) assertFinite(v, path ? `${path}.${k}` : k);
}

function match(pattern: string, path: string): Record<string, string> | null {
	const want = pattern.split('/');
	const have = path.split('/');
	if (want.length !== have.length) return null;
	const params: Record<string, string> = {};
	for (const [i, part] of want.entries()) {
		if (part.startsWith(':')) {
			try {
				params[part.slice(1)] = decodeURIComponent(have[i]!);
			} catch {
				return null;
			}
		} else if (part !== have[i]) return null;
	}
	return params;
}

export async function dispatch(
	operations: readonly Operation[],
	path: string,
	request: Request,
	who: string,
): Promise<Response> {
	try {
		const here = operations.flatMap((o) => {
			const params = match(o.path, path);
			return params ? [{ o, params }] : [];
		});
		if (here.length === 0)
			return problem(404, 'no-such-address', [{ path: '', message: `There is nothing at /api/v1${path}.` }]);
		const method = request.method === 'HEAD' ? 'GET' : request.method;
		const found = here.find(({ o }) => o.method === method);
		if (!found)
			return problem(405, 'method', [{ path: '', message: `Use ${here.map(({ o }) => o.method).join(' or ')} here.` }]);
		const { o, params } = found;
		const query = o.query ? o.query.parse(Object.fromEntries(new URL(request.url).searchParams)) : undefined;
		const body = o.body ? o.body.parse(await readJson(request)) : undefined;
		const result = await o.run({ params, query, body, request, pool: database, now: Date.now(), who });
		if (method !== 'GET') void keepJudged();
		if (result instanceof Response) return result;
		assertFinite(result, '');
		return Response.json(result, { status: o.status ?? 200, headers: { 'cache-control': 'no-store' } });
	} catch (error) {
		return problemOf(error);
	}
}
