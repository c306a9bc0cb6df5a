import { type ZodType, z } from 'zod';
import type { Address, Answered, Asked, Operation, Operations, Resource } from '@/contract/operation';
import { fieldProblems } from '@/contract/problems';
import { wantedBy } from '@/contract/roles';
import { type Asker, requireRole } from '@/service/people/sign-ins';
import { Refusal } from '@/service/refusal';
import { requireSite, type SiteContext } from '@/service/site';
import type { Client, Db } from '@/store/pool';
import { type Announced, announce } from './changes';
import type { Connection } from './connection';
import { asksForSpreadsheet, harmless } from './csv-response';
import { database, databaseOf } from './database';
import { isUuid } from './guard';
import { beginJob, jobBegunBy, type Progress } from './jobs';
import { keepJudged } from './keep-judged';
import { type Answer, type Changing, fingerprintOf, once } from './once';
import { problem, problemOf } from './problem';
import { readsOf } from './reads';
import { signInCookies } from './who-asks';

/** What a handler is given: the request as its contract declares it, and what every handler needs. */
export interface Surroundings<R> {
	request: Request;
	/** The database; in an operation that stores, the one transaction of the request, in which nobody else writes. */
	readonly db: Db;
	/** The site, loaded once. */
	site: () => Promise<SiteContext>;
	now: number;
	who: string;
	asker: Asker;
	connection: Connection;
	/** Has the browser keep a sign-in by its token, or forget it (null). */
	signsIn: (token: string | null) => void;
	/** Tells other pages of a change, once it is stored. */
	announce: (change: Announced) => void;
	/** Answers 202 with a job whose result will be the answer of this operation, stored in a transaction of its own. */
	begin: (kind: string, work: (db: Db, progress: Progress) => Promise<R>, of?: Partial<OwnBody>) => Response;
	/** Does it at once, in a transaction of its own: for operations whose body is read by their handler. */
	store: (work: (db: Db) => Promise<R>, of: OwnBody) => Promise<Response>;
}
/** A body that the handler read itself. */
interface OwnBody {
	/** Tells it from another. */
	body: string;
	/** Puts it away, whether it was used or not. */
	end: () => Promise<void>;
	storesNothing?: boolean;
}
type Handler<A, O extends Operation> = (
	input: Asked<A, O> & Surroundings<Answered<O>>,
) => Promise<Answered<O> | Response> | Answered<O> | Response;
type Handlers<O extends Operations> = { [A in keyof O]: O[A] extends Operation ? Handler<A, O[A]> : never };

export interface Route {
	method: string;
	path: string;
	operation: Operation;
	ofInstallation: boolean;
	run: (input: never) => unknown;
}

/** What does the operations of a resource: one handler for each, no more and no fewer. */
export const handle = <O extends Operations>(
	{ operations, ofInstallation }: Resource<O>,
	handlers: Handlers<O>,
): Route[] =>
	Object.entries(operations).map(([address, operation]) => {
		const [method, path] = address.split(' ') as [string, string];
		return { method, path, operation, ofInstallation, run: handlers[address as Address & keyof O] as Route['run'] };
	});

const MAX_JSON = 4 * 1024 * 1024;
const tooLarge = () =>
	new Refusal('too-large', [{ path: '', message: 'At most 4 MB of JSON; send large files to /import.' }]);

async function readJson(request: Request): Promise<unknown> {
	// Any content type is read as JSON: who may write is told by Host and Origin, not by a header a script forgot.
	if (Number(request.headers.get('content-length') ?? 0) > MAX_JSON) throw tooLarge();
	// However it comes, in one piece or in many: no more is kept than may be read.
	const decoder = new TextDecoder();
	let [text, size] = ['', 0];
	for await (const chunk of (request.body ?? []) as AsyncIterable<Uint8Array>) {
		size += chunk.length;
		if (size > MAX_JSON) throw tooLarge();
		text += decoder.decode(chunk, { stream: true });
	}
	text += decoder.decode();
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
			if (have[i] === '') return null;
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
	throw new Refusal('no-such-id', fieldProblems(result.error));
}

function keyOf(request: Request): string | null {
	const key = request.headers.get('idempotency-key')?.trim();
	if (!key) return null;
	if (isUuid(key)) return key.toLowerCase();
	throw new Refusal('bad-key', [
		{ path: 'Idempotency-Key', message: 'The Idempotency-Key is a UUID, a new one for every entry.' },
	]);
}

const asResponse = ({ status, text, replayed = false }: Answer & { replayed?: boolean }): Response =>
	new Response(text, {
		status,
		headers: {
			'content-type': 'application/json',
			'cache-control': 'no-store',
			...(replayed ? { 'idempotent-replay': 'true' } : {}),
		},
	});

/** Who calls, as far as it is known. */
export interface Caller {
	asker: Asker;
	/** A UUID that the browser keeps. */
	device: string | null;
	connection: Connection;
}

export async function dispatch(
	routes: readonly Route[],
	path: string,
	request: Request,
	caller: Caller,
): Promise<Response> {
	const cookies: string[] = [];
	const answered = await answer(routes, path, request, caller, cookies);
	const response = asksForSpreadsheet(request) ? harmless(answered) : answered;
	for (const c of cookies) response.headers.append('set-cookie', c);
	return response;
}

/** @param cookies hears of what the browser is to keep */
async function answer(
	routes: readonly Route[],
	path: string,
	request: Request,
	{ asker, device, connection }: Caller,
	cookies: string[],
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
		requireRole(asker, wantedBy(`${method} ${found.route.path}`));
		const siteId = asker.site?.id ?? null;
		const pool =
			found.route.ofInstallation || siteId === null
				? database()
				: await (o.mayLag ? readsOf(siteId) : databaseOf(siteId));
		const stores = method !== 'GET' && !o.storesNothing;
		const key = stores ? keyOf(request) : null;
		const query = new URL(request.url).searchParams;
		// What a CSV is for changes how it is written, and nothing of what is asked.
		if (query.get('for') === 'spreadsheet') query.delete('for');
		// Which site is asked has been heard.
		query.delete('site');
		const json = o.body ? await readJson(request) : undefined;
		const asked = {
			params: namedIn(o.params, found.params),
			query: o.query?.parse(Object.fromEntries(query)),
			body: o.body?.parse(json),
		};
		const by: Changing = {
			key,
			device,
			operation: `${method} ${found.route.path}`,
			fingerprint: fingerprintOf(path, query.toString(), JSON.stringify(json ?? null)),
		};
		let told: (() => void)[] = [];
		const answerOf = (value: unknown): Answer => ({
			status: o.status ?? 200,
			text: JSON.stringify(encoded(o.answer, value)),
		});
		const storing = async (
			work: (db: Client) => Promise<unknown>,
			of?: Partial<OwnBody>,
		): Promise<Answer & { replayed: boolean }> => {
			told = [];
			const asked = of?.body ? { ...by, fingerprint: fingerprintOf(by.fingerprint, of.body) } : by;
			try {
				const answer = await once(pool, asked, async (client) => answerOf(await work(client)));
				for (const tell of told) tell();
				return answer;
			} finally {
				if (siteId !== null) void keepJudged(siteId);
				await of?.end?.();
			}
		};
		const inputOn = (db: Db | null) => {
			let site: Promise<SiteContext> | null = null;
			return {
				...asked,
				request,
				now: Date.now(),
				who: asker.name ?? 'grower',
				asker,
				connection,
				signsIn: (token: string | null) => void cookies.push(...signInCookies(token, connection.secure)),
				get db() {
					return db ?? pool;
				},
				site: () => {
					site ??= requireSite(db ?? pool);
					return site;
				},
				announce: (change: Announced) => void told.push(() => announce(siteId, change)),
				begin: (kind: string, work: (db: Db, progress: Progress) => Promise<unknown>, of: Partial<OwnBody> = {}) => {
					const before = jobBegunBy(siteId, key);
					if (before !== undefined) void of.end?.();
					const begin = async (progress: Progress) =>
						of.storesNothing
							? encoded(o.answer, await work(pool, progress).finally(() => of.end?.()))
							: JSON.parse((await storing((client) => work(client, progress), of)).text);
					return Response.json(
						{ job: before ?? beginJob(siteId, kind, begin, { key, stoppable: true }) },
						{ status: 202 },
					);
				},
				store: async (work: (db: Db) => Promise<unknown>, of: OwnBody) => asResponse(await storing(work, of)),
			};
		};
		if (stores && !o.rawBody && !(o.background && query.get('background') === '1'))
			return asResponse(await storing(async (client) => run(inputOn(client) as never)));
		const result = await run(inputOn(null) as never);
		return result instanceof Response ? result : asResponse(answerOf(result));
	} catch (error) {
		return problemOf(error);
	}
}
