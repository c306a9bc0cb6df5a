import { type ZodType, z } from 'zod';
import type { Address, Answered, Asked, Operation, Operations, Resource } from '@/contract/operation';
import { Refusal } from '@/service/refusal';
import type { Pool } from '@/store/pool';
import { database } from './database';
import { beginJob, type Progress } from './jobs';
import { keepJudged } from './keep-judged';
import { problem, problemOf } from './problem';

/** What a handler is given: the request as its contract declares it, and what every handler needs. */
export interface Surroundings<R> {
	request: Request;
	pool: () => Pool;
	now: number;
	who: string;
	/** Answers 202 with a job whose result will be the answer of this operation. */
	begin: (kind: string, work: (progress: Progress) => Promise<R>) => Response;
}
type Handler<A, O extends Operation> = (
	input: Asked<A, O> & Surroundings<Answered<O>>,
) => Promise<Answered<O> | Response> | Answered<O> | Response;
type Handlers<O extends Operations> = { [A in keyof O]: O[A] extends Operation ? Handler<A, O[A]> : never };

export interface Route {
	method: string;
	path: string;
	operation: Operation;
	run: (input: never) => unknown;
}

/** What does the operations of a resource: one handler for each, no more and no fewer. */
export const handle = <O extends Operations>({ operations }: Resource<O>, handlers: Handlers<O>): Route[] =>
	Object.entries(operations).map(([address, operation]) => {
		const [method, path] = address.split(' ') as [string, string];
		return { method, path, operation, run: handlers[address as Address & keyof O] as Route['run'] };
	});

const MAX_JSON = 4 * 1024 * 1024;
const tooLarge = () =>
	new Refusal('too-large', [{ path: '', message: 'At most 4 MB of JSON; send large files to /import.' }]);

async function readJson(request: Request): Promise<unknown> {
	// Any content type is read as JSON: who may write is told by Host and Origin, not by a header a script forgot.
	if (Number(request.headers.get('content-length') ?? 0) > MAX_JSON) throw tooLarge();
	const text = await request.text();
	if (text.length > MAX_JSON) throw tooLarge();
	try {
		return JSON.parse(text);
	} catch {
		throw new Refusal('broken-json', [{ path: '', message: 'The body is not JSON.' }]);
	}
}

/** The answer as it goes over the wire. A number that JSON cannot carry must never leave as null. */
function encoded(answer: ZodType | undefined, value: unknown): unknown {
	if (!answer) return value;
	const result = z.safeEncode(answer, value);
	if (result.success) return result.data;
	const endless = result.error.issues.find((i) => i.code === 'invalid_type' && 'received' in i);
	if (endless)
		throw new Refusal('not-finite', [
			{
				path: endless.path.join('.'),
				message: 'The result is too large or too small to be a number; check the values given.',
			},
		]);
	throw new Error('An answer is not what the contract says.', { cause: result.error });
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

/** An address that names nothing: the same refusal whether the name is malformed or unknown. */
function namedIn(schema: ZodType | undefined, params: Record<string, string>): unknown {
	if (!schema) return params;
	const result = schema.safeParse(params);
	if (result.success) return result.data;
	throw new Refusal(
		'no-such-id',
		result.error.issues.map((i) => ({ path: i.path.join('.'), message: i.message })),
	);
}

export async function dispatch(
	routes: readonly Route[],
	path: string,
	request: Request,
	who: string,
): Promise<Response> {
	try {
		const here = routes.flatMap((route) => {
			const params = match(route.path, path);
			return params ? [{ route, params }] : [];
		});
		if (here.length === 0)
			return problem('no-such-address', [{ path: '', message: `There is nothing at /api/v1${path}.` }]);
		const method = request.method === 'HEAD' ? 'GET' : request.method;
		const found = here.find(({ route }) => route.method === method);
		if (!found)
			return problem('method', [
				{ path: '', message: `Use ${here.map(({ route }) => route.method).join(' or ')} here.` },
			]);
		const { operation: o, run } = found.route;
		const input = {
			params: namedIn(o.params, found.params),
			query: o.query?.parse(Object.fromEntries(new URL(request.url).searchParams)),
			body: o.body?.parse(await readJson(request)),
			request,
			pool: database,
			now: Date.now(),
			who,
			begin: (kind: string, work: (progress: Progress) => Promise<unknown>) =>
				Response.json(
					{ job: beginJob(kind, async (progress) => encoded(o.answer, await work(progress))) },
					{ status: 202 },
				),
		};
		const result = await run(input as never);
		if (method !== 'GET') void keepJudged();
		if (result instanceof Response) return result;
		return Response.json(encoded(o.answer, result), {
			status: o.status ?? 200,
			headers: { 'cache-control': 'no-store' },
		});
	} catch (error) {
		return problemOf(error);
	}
}
