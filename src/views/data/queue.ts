import { createStore, del, get, set, entries as stored, type UseStore } from 'idb-keyval';
import type { Contract } from '@/contract';
import type { Call, Got } from '@/contract/operation';
import { ApiProblem, newKey, noNetwork, type Sent, send } from './client';
import { siteHere } from './site-here';

/**
 * What is entered waits in one queue of this browser until the server has it: through lost answers, a server that is away, and
 * a page that is closed. Whichever tab has its turn sends, in the order of entry, each under the key it was made with.
 */
export type Entering =
	| 'POST /readings'
	| 'POST /readings/:id/decision'
	| 'POST /readings/:id/correction'
	| 'POST /events'
	| 'POST /events/:id/correction'
	| 'POST /events/:id/withdrawal'
	| 'POST /calibrations'
	| 'POST /irrigations'
	| 'POST /batches/:id/steps'
	| 'POST /attachments';

export interface WaitingEntry {
	key: string;
	madeAt: number;
	/** The site of the page it was entered on. */
	site: number | null;
	address: Entering;
	asked: Sent;
	/** What it is, for the person who entered it. */
	words: string;
	/** Why the server does not take it; null while it waits to be sent. */
	refused: string | null;
	/** Key of an event that waits before it, and that it belongs to. */
	of?: string;
}

/** What an entry is told: stored, with the answer, or kept here until the server answers. */
export type Entered<T> = { kind: 'stored'; answer: T } | { kind: 'kept'; message: string; key: string };

/** So long a person waits for the answer; the entry goes on by itself. */
const PATIENCE_MS = 4000;
const AGAIN_MS = 3000;
const NAME = 'cordwain-entries';
const keptWords = (): string =>
	noNetwork()
		? 'No network here: kept on this device, and sent as soon as there is one. Nothing is lost.'
		: 'Kept on this device, and sent as soon as Cordwain answers. Nothing is lost.';

/** In order, even within a millisecond. */
let lastMade = 0;

let store: UseStore | undefined;
const entries = (): UseStore => {
	store ??= createStore(NAME, 'waiting');
	return store;
};

/** Everything that waits or was refused, in the order it was entered. */
export const waitingEntries = async (): Promise<WaitingEntry[]> =>
	(await stored<string, WaitingEntry>(entries()))
		.map(([, e]) => e)
		.sort((a, b) => a.madeAt - b.madeAt || (a.key < b.key ? -1 : 1));

const channel = typeof window === 'undefined' ? null : new BroadcastChannel(NAME);
const listeners = new Set<() => void>();
/** Hears of every change of the queue, in this tab and in others. @returns what ends it */
export function onQueueChange(listener: () => void): () => void {
	listeners.add(listener);
	return () => listeners.delete(listener);
}
channel?.addEventListener('message', () => {
	for (const l of listeners) l();
});
function told(): void {
	channel?.postMessage('');
	for (const l of listeners) l();
}

const storedLater = new Set<(words: string) => void>();
/** Hears of entries that were kept for a while and are stored now. @returns what ends it */
export function onStoredLater(listener: (words: string) => void): () => void {
	storedLater.add(listener);
	return () => storedLater.delete(listener);
}

/** One tab at a time; where the browser has no locks, one after the other in this tab. */
let chain: Promise<unknown> = Promise.resolve();
function inTurn<T>(work: () => Promise<T>): Promise<T> {
	if (typeof navigator !== 'undefined' && navigator.locks) return navigator.locks.request(NAME, work) as Promise<T>;
	const turn = chain.then(work, work);
	chain = turn.catch(() => {});
	return turn;
}

/** Entries whose page still waits for the answer: a refusal is for the form they came from, not for the queue. */
const awaited = new Set<string>();

/** Tells what belongs to an event that is stored now by which number it is known. */
async function tellFollowers(key: string, id: number | undefined): Promise<void> {
	for (const f of await waitingEntries()) {
		if (f.of !== key || id === undefined) continue;
		const { of: _, ...free } = f;
		await set(f.key, { ...free, asked: { ...f.asked, body: { ...(f.asked.body as object), event: id } } }, entries());
	}
}

/**
 * Sends what waits, oldest first, until it comes to an entry or to the end. What is refused stays, with the reason, and holds
 * nothing behind it. @throws ApiProblem at the first that cannot be sent now
 */
async function sendInOrder(upTo?: string): Promise<unknown> {
	for (const { key } of await waitingEntries()) {
		// Read anew: what was stored before it may have told it where it belongs.
		const e = await get<WaitingEntry>(key, entries());
		if (!e || e.refused !== null || e.of !== undefined) continue;
		try {
			const answer = await send(e.address, e.asked, e.key, e.site);
			await tellFollowers(e.key, (answer as { id?: number } | null)?.id);
			await del(e.key, entries());
			told();
			if (!awaited.has(e.key)) for (const hear of storedLater) hear(e.words);
			if (e.key === upTo) return answer;
		} catch (error) {
			if (!(error instanceof ApiProblem) || error.unreachable || error.wantsSignIn) throw error;
			if (awaited.has(e.key)) await del(e.key, entries());
			else await set(e.key, { ...e, refused: error.message }, entries());
			told();
			if (e.key === upTo) throw error;
		}
	}
	return undefined;
}

let planned = false;
function later(): void {
	if (planned) return;
	planned = true;
	setTimeout(() => {
		planned = false;
		void sendWaiting();
	}, AGAIN_MS);
}

/** Sends what waits; what cannot be sent now is tried again after a while. */
export async function sendWaiting(): Promise<void> {
	if (!(await waitingEntries()).some((e) => e.refused === null)) return;
	await inTurn(() => sendInOrder()).catch(later);
}

/**
 * Enters something exactly once. @returns the answer, or that it is kept when none has come for some seconds
 * @throws ApiProblem where the server refuses it while the person still waits: nothing is kept then
 */
export async function enter<A extends Entering>(
	address: A,
	asked: Call<A, Contract[A]>,
	words: string,
	/** It was tried under before, and may have been stored. */
	key = newKey(),
): Promise<Entered<Got<Contract[A]>>> {
	lastMade = Math.max(Date.now(), lastMade + 0.001);
	const entry: WaitingEntry = {
		key,
		madeAt: lastMade,
		site: siteHere(),
		address,
		asked: asked as Sent,
		words,
		refused: null,
	};
	await set(entry.key, entry, entries());
	awaited.add(entry.key);
	told();
	const turn = inTurn(async () => {
		// Another tab may have sent it while this one waited: its answer comes again under the same key.
		if ((await get(entry.key, entries())) === undefined) return send(address, entry.asked, entry.key, entry.site);
		return sendInOrder(entry.key);
	}).then((answer): Entered<Got<Contract[A]>> => ({ kind: 'stored', answer: answer as Got<Contract[A]> }));
	const patience = new Promise<'kept'>((resolve) => setTimeout(() => resolve('kept'), PATIENCE_MS));
	try {
		const first = await Promise.race([turn, patience]);
		if (first !== 'kept') return first;
		turn.catch(later);
		return { kind: 'kept', message: keptWords(), key: entry.key };
	} catch (error) {
		if (!(error instanceof ApiProblem) || !(error.unreachable || error.wantsSignIn)) throw error;
		later();
		return { kind: 'kept', message: error.wantsSignIn ? error.message : keptWords(), key: entry.key };
	} finally {
		awaited.delete(entry.key);
	}
}

/** Keeps a file on this device until the event it belongs to is stored. @returns false where that is no longer waiting */
export const follow = (key: string, body: object, words: string): Promise<boolean> =>
	inTurn(async () => {
		if ((await get(key, entries())) === undefined) return false;
		lastMade = Math.max(Date.now(), lastMade + 0.001);
		const own = {
			key: newKey(),
			madeAt: lastMade,
			site: siteHere(),
			address: 'POST /attachments' as const,
			asked: { body },
			words,
		};
		await set(own.key, { ...own, refused: null, of: key }, entries());
		told();
		return true;
	});

/** Sends a refused entry once more, as it is. */
export async function tryAgain(key: string): Promise<void> {
	const entry = await get<WaitingEntry>(key, entries());
	if (!entry) return;
	await set(key, { ...entry, refused: null }, entries());
	told();
	await sendWaiting();
}

/** Takes an entry back that has not been stored. @returns whether it was still here */
export const takeBack = (key: string): Promise<boolean> =>
	inTurn(async () => {
		if ((await get(key, entries())) === undefined) return false;
		// What belongs to it goes with it.
		for (const e of await waitingEntries()) if (e.key === key || e.of === key) await del(e.key, entries());
		told();
		return true;
	});
