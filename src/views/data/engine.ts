import { useEffect, useState } from 'react';
import { SENSITIVITY } from '@/core/judge/context';
import { Engine } from '@/core/judge/engine';
import type { SiteView } from '@/core/reading/site-view';
import { api } from './client';

/**
 * The one engine of a page: what one part of it saves, the others know. What the checks remember of a station is fetched when it
 * is wanted, so that a page is no heavier for the stations it does not show.
 */
interface PageEngine {
	engine: Engine;
	/** Stations whose memory is here or on its way; null stands for all. */
	fetched: Map<string | null, Promise<void>>;
}
let page: PageEngine | null = null;
const listeners = new Set<() => void>();

function newEngine(site: SiteView): PageEngine {
	const engine = new Engine(
		{
			stations: new Map(site.stations.map((s) => [s.info.code, s.info])),
			instruments: new Map(site.instruments.map((i) => [i.info.code, i.info])),
			tolerance: SENSITIVITY[site.settings.sensitivity],
			waits: site.settings.waits,
			probe: (code, quantity, at) => {
				const state = site.instruments.find((i) => i.info.code === code)?.probes[quantity]?.state;
				return state && state.at <= at ? state : null;
			},
		},
		() => Date.now(),
	);
	return { engine, fetched: new Map() };
}

function engineOf(site: SiteView): PageEngine {
	// A server makes many pages.
	if (typeof window === 'undefined') return newEngine(site);
	page ??= newEngine(site);
	return page;
}

function fetchMemory(p: PageEngine, codes: readonly string[] | null): void {
	const missing = codes === null ? null : codes.filter((c) => !p.fetched.has(c) && !p.fetched.has(null));
	if (missing === null ? p.fetched.has(null) : missing.length === 0) return;
	const query = missing === null ? {} : { stations: JSON.stringify(missing) };
	const here = new Set(p.fetched.keys());
	const done = api('GET /memory', { query }).then(
		({ memory }) => {
			// What is here already has gone on since.
			p.engine.recall({ ...memory, stations: memory.stations.filter(([code]) => missing !== null || !here.has(code)) });
			for (const l of listeners) l();
		},
		// Without it the checks go by what any such station shows; the server judges by all it knows.
		() => {
			for (const c of missing ?? [null]) p.fetched.delete(c);
		},
	);
	for (const c of missing ?? [null]) p.fetched.set(c, done);
}

/** Fetches what is remembered of every station: a check wants to know where else a value would be at home. */
export function fetchEverywhere(): void {
	if (page) fetchMemory(page, null);
}

/**
 * The engine of the page, with the memory of the stations that are shown (null: of all of them) as soon as it has come.
 * @param codes may be made anew at every drawing
 */
export function useEngine(site: SiteView, codes: readonly string[] | null): Engine {
	const p = engineOf(site);
	const [, drawAgain] = useState(0);
	useEffect(() => {
		const listener = () => drawAgain((n) => n + 1);
		listeners.add(listener);
		return () => void listeners.delete(listener);
	}, []);
	const key = codes === null ? null : codes.join('\u0000');
	useEffect(() => {
		fetchMemory(p, key === null ? null : key.split('\u0000').filter((c) => c !== ''));
	}, [p, key]);
	return p.engine;
}

/** Fetches anew what is remembered here: something was taken back, or entered of an earlier time. */
export function refetchMemory(): void {
	if (!page) return;
	const codes = [...page.fetched.keys()];
	page.fetched.clear();
	fetchMemory(page, codes.includes(null) ? null : codes.filter((c) => c !== null));
}
