import type { z } from 'zod';
import type { ProblemCode } from './problems';

/**
 * One operation of the HTTP API: words and schemas, without what it does. The server's handlers, the OpenAPI document, the
 * views' client and the tests are all made from it.
 */
export interface Operation {
	summary: string;
	/** Names in the address, where they are more than text. */
	params?: z.ZodType;
	query?: z.ZodType;
	body?: z.ZodType;
	/** Content types of a body that the handler reads itself. */
	rawBody?: readonly string[];
	answer?: z.ZodType;
	/** Further content types it can answer with. */
	alsoAnswers?: readonly string[];
	status?: number;
	/** What it refuses beside what every operation may refuse. */
	problems?: readonly ProblemCode[];
	/** With `background=1` it answers 202 with the job that does the work, to be followed at /jobs/{id}. */
	background?: true;
	/** It looks at much, and may be a moment behind: a copy of the database that follows it answers where there is one. */
	mayLag?: true;
	/** Whatever its method: it stores nothing. All others but GET take an Idempotency-Key. */
	storesNothing?: true;
}

export type Address = `${'GET' | 'POST' | 'PUT' | 'DELETE'} /${string}`;
export type Operations = Record<Address, Operation>;

/** The operations of one resource under one heading. */
export interface Resource<O extends Operations = Operations> {
	tag: string;
	operations: O;
	/** They belong to the installation rather than to one of its sites: people, sign-ins, the list of sites. */
	ofInstallation: boolean;
}
export const resource = <const O extends Operations>(
	tag: string,
	operations: O,
	{ ofInstallation = false }: { ofInstallation?: boolean } = {},
): Resource<O> => ({ tag, operations, ofInstallation });

type Names<P extends string> = P extends `${string}:${infer N}/${infer Rest}`
	? N | Names<Rest>
	: P extends `${string}:${infer N}`
		? N
		: never;
type Decoded<T, Otherwise> = T extends z.ZodType ? z.output<T> : Otherwise;
type Sent<T, Otherwise> = T extends z.ZodType ? z.input<T> : Otherwise;

/** What a handler is given of the request. */
export interface Asked<A, O extends Operation> {
	params: Decoded<O['params'], A extends string ? Record<Names<A>, string> : never>;
	query: Decoded<O['query'], undefined>;
	body: Decoded<O['body'], undefined>;
}
/** What a handler answers with, as the core knows it. */
export type Answered<O extends Operation> = Decoded<O['answer'], never>;

/** What a caller gives: names in the address, query and body, each only where there are any. */
export type Call<A extends string, O extends Operation> = (Names<A> extends never
	? { params?: never }
	: { params: Record<Names<A>, string | number> }) &
	(O['query'] extends z.ZodType
		? Record<never, never> extends z.input<O['query']>
			? { query?: z.input<O['query']> }
			: { query: z.input<O['query']> }
		: { query?: never }) &
	(O['body'] extends z.ZodType ? { body: z.input<O['body']> } : { body?: never });
/** What a caller gets. */
export type Got<O extends Operation> = Sent<O['answer'], unknown>;
