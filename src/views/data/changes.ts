import { useEffect } from 'react';
import type { Change } from '@/contract/meters';
import { api } from './client';

/** Asked for every few seconds: an open connection for each tab would use up what a browser allows to one server. */
const ASK_MS = 2000;

type Hears = (change: Change) => void;
const hearing = new Set<Hears>();
let timer: ReturnType<typeof setInterval> | null = null;
let seen: number | null = null;

async function ask(): Promise<void> {
	if (document.hidden) return;
	try {
		const news = await api('GET /changes', { query: seen === null ? {} : { after: seen } });
		seen = news.last;
		for (const change of news.changes) for (const hears of [...hearing]) hears(change);
	} catch {
		// The next try will tell.
	}
}

/**
 * Listens to what others enter while this page can be seen; all parts of a page by one question.
 * @param sensors hears also of what nodes send and of what is watched, which may be every few seconds
 */
export function useChanges(on: Hears, sensors = false): void {
	useEffect(() => {
		const hears: Hears = (change) => {
			if (sensors || (change.kind !== 'sensors' && change.kind !== 'watch')) on(change);
		};
		hearing.add(hears);
		if (timer === null) {
			seen = null;
			void ask();
			timer = setInterval(() => void ask(), ASK_MS);
		}
		return () => {
			hearing.delete(hears);
			if (hearing.size > 0 || timer === null) return;
			clearInterval(timer);
			timer = null;
		};
	}, [on, sensors]);
}
