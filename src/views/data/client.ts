import type { Contract } from '@/contract';
import type { Call, Got } from '@/contract/operation';
import { siteHere } from './site-here';

/** Talks to the server; every refusal becomes an ApiProblem with words for the person. */
export class ApiProblem extends Error {
	constructor(
		readonly status: number,
		message: string,
		readonly errors: { path: string; message: string }[],
		readonly body: unknown,
	) {
		super(message);
	}
	/** The server or its database could not be reached: what was typed should wait and be sent again. */
	get unreachable(): boolean {
		return this.status === 0 || this.status === 503;
	}
	/** Somebody else changed the same meanwhile. */
	get overtaken(): boolean {
		return (this.body as { type?: string } | null)?.type === 'about:blank#changed-meanwhile';
	}
	/** Nobody is signed in any more: what was typed should wait until somebody is. */
	get wantsSignIn(): boolean {
		const { type } = (this.body ?? {}) as { type?: string };
		return type === 'about:blank#sign-in-first' || type === 'about:blank#foreign-page';
	}
}

type Addresses = keyof Contract & string;
/** Nothing needs to be given where nothing is asked for. */
type Given<C> = Record<never, never> extends C ? [asked?: C] : [asked: C];
export interface Sent {
	params?: Record<string, string | number> | undefined;
	query?: Record<string, unknown> | undefined;
	body?: unknown;
	/** A body that is not JSON, with its content type. */
	file?: { data: BodyInit; type: string };
}

function urlOf(address: string, { params = {}, query = {} }: Sent): string {
	const path = address
		.slice(address.indexOf(' ') + 1)
		.replace(/:(\w+)/g, (_, name: string) => encodeURIComponent(String(params[name])));
	const given = Object.entries(query).filter(([, v]) => v !== undefined && v !== '');
	const search = new URLSearchParams(given.map(([k, v]) => [k, String(v)])).toString();
	return `${ROOT}${path}${search && `?${search}`}`;
}
const ROOT = '/api/v1';
/** Whether a link leads to an operation rather than to a page. */
export const isOfApi = (address: string): boolean => address.startsWith(`${ROOT}/`);

/** The device knows that it reaches nothing: the server is not to blame. */
export const noNetwork = (): boolean => typeof navigator !== 'undefined' && navigator.onLine === false;

/** Longer than this an answer is taken for lost; a file takes as long as it takes. */
const LOST_MS = 20_000;

/** Names an entry: the server stores what comes under one name once, and answers a repeat with what it answered first. */
export const newKey = (): string => {
	if ('randomUUID' in crypto) return crypto.randomUUID();
	// Away from this machine without TLS there are random bytes, but no function that writes them down.
	const b = (crypto as Crypto).getRandomValues(new Uint8Array(16));
	b[6] = (b[6]! & 0x0f) | 0x40;
	b[8] = (b[8]! & 0x3f) | 0x80;
	const hex = Array.from(b, (x) => x.toString(16).padStart(2, '0')).join('');
	return hex.replace(/^(.{8})(.{4})(.{4})(.{4})(.{12})$/, '$1-$2-$3-$4-$5');
};

/** What goes beside a sign-in with whatever changes something: pages from elsewhere cannot read it. */
function pageToken(): Record<string, string> {
	const token = /(?:^|; )cordwain_page=([^;]+)/.exec(typeof document === 'undefined' ? '' : document.cookie)?.[1];
	return token ? { 'x-cordwain-page': token } : {};
}

/** Sends one request, once. @param site it is for: that of the page it was made on @throws ApiProblem */
export async function send(address: string, asked: Sent, key: string, site = siteHere()): Promise<unknown> {
	const { body, file } = asked;
	const method = address.slice(0, address.indexOf(' '));
	let response: Response;
	try {
		response = await fetch(urlOf(address, asked), {
			method,
			headers: {
				...(site === null ? {} : { 'x-cordwain-site': String(site) }),
				...(method === 'GET' ? {} : { 'idempotency-key': key, ...pageToken() }),
				...(file ? { 'content-type': file.type } : body !== undefined ? { 'content-type': 'application/json' } : {}),
			},
			...(file ? { body: file.data } : body !== undefined ? { body: JSON.stringify(body) } : {}),
			...(file ? {} : { signal: AbortSignal.timeout(LOST_MS) }),
		});
	} catch {
		const away = noNetwork() ? 'This device has no network.' : 'Cordwain does not answer.';
		throw new ApiProblem(0, `${away} What you typed is kept here; try again in a moment.`, [], null);
	}
	const answer: unknown = await response.json().catch(() => null);
	if (response.ok) return answer;
	const p = answer as { detail?: string; title?: string; errors?: { path: string; message: string }[] } | null;
	throw new ApiProblem(
		response.status,
		p?.detail || p?.title || `The server answered ${response.status}.`,
		p?.errors ?? [],
		answer,
	);
}

/** After an answer that was lost it is asked again, under the same key, so often and after so long. */
const AGAIN_MS = [300, 1200];

async function sendUntilAnswered(address: string, asked: Sent, key = newKey()): Promise<unknown> {
	for (const pause of AGAIN_MS) {
		try {
			return await send(address, asked, key);
		} catch (error) {
			if (!(error instanceof ApiProblem && error.unreachable)) throw error;
		}
		await new Promise((resolve) => setTimeout(resolve, pause));
	}
	return send(address, asked, key);
}

/** So long the same request, made by hand again after no answer came at all, is taken for the same one. */
const SAME_MS = 10 * 60_000;
const unanswered = new Map<string, { key: string; at: number }>();

/** Sends what changes something; what was stored though nobody heard of it is not stored again by whoever presses once more. */
async function sendOnce(address: string, asked: Sent): Promise<unknown> {
	const same = JSON.stringify([siteHere(), address, asked]);
	for (const [of, { at }] of unanswered) if (Date.now() - at >= SAME_MS) unanswered.delete(of);
	const key = unanswered.get(same)?.key ?? newKey();
	unanswered.delete(same);
	try {
		return await sendUntilAnswered(address, asked, key);
	} catch (error) {
		if (error instanceof ApiProblem && error.unreachable) unanswered.set(same, { key, at: Date.now() });
		throw error;
	}
}

/** Calls one operation of the contract, by its method and address. */
export const api = <A extends Addresses>(
	address: A,
	...[asked]: Given<Call<A, Contract[A]>>
): Promise<Got<Contract[A]>> => {
	const ask = address.startsWith('GET ') ? sendUntilAnswered : sendOnce;
	return ask(address, (asked ?? {}) as Sent) as Promise<Got<Contract[A]>>;
};

/** Sends a file to an operation that takes one as it is. */
export const sendFile = <A extends Addresses>(address: A, file: NonNullable<Sent['file']>): Promise<Got<Contract[A]>> =>
	send(address, { file }, newKey()) as Promise<Got<Contract[A]>>;

/** Where an operation is found, for a link. */
export const addressOf = <A extends Addresses>(address: A, asked: Call<A, Contract[A]>): string =>
	urlOf(address, asked as Sent);

/** Operations that can be left to a job. */
export type InBackground = {
	[A in Addresses]: Contract[A] extends { background: true } ? A : never;
}[Addresses];

/** The same, left to a job: what is sent again under one key has to be the same. */
export const inBackground = (asked: Sent): Sent => ({ ...asked, query: { ...asked.query, background: '1' } });

/** Begins the work of an operation as a job of the server. @returns the job, to be followed with followJob */
export async function begin<A extends InBackground>(
	address: A,
	asked: Call<A, Contract[A]> & Pick<Sent, 'file'>,
	key = newKey(),
): Promise<string> {
	const { job } = (await sendUntilAnswered(address, inBackground(asked as Sent), key)) as {
		job: string;
	};
	return job;
}
