import { useCallback, useEffect, useRef } from 'react';
import type { Change } from '@/contract/meters';
import { useChanges } from '../data/changes';

/** What is advised is asked for anew after so long on an open page. */
const OLD_MS = 5 * 60_000;
/** What was not looked at for so long is asked for anew when it is looked at again. */
const UNSEEN_MS = 30_000;
const LOOK_MS = 20_000;

/** Hears what is entered at a tank, here or elsewhere, and what is decided about readings. */
export function useTankNews(station: string, on: (change: Change) => void): void {
	useChanges(
		useCallback(
			(change: Change) => {
				if (change.kind === 'decision' || (change.kind !== 'round' && change.station === station)) on(change);
			},
			[station, on],
		),
	);
}

/**
 * Calls `again` while the page is looked at and what was asked at `asked()` has grown old: nobody pours by what stood there an hour
 * ago.
 */
export function useNotOld(asked: () => number, again: () => void): void {
	const now = useRef({ asked, again });
	now.current = { asked, again };
	useEffect(() => {
		const look = (old: number) => {
			if (!document.hidden && Date.now() - now.current.asked() > old) now.current.again();
		};
		const seen = () => look(UNSEEN_MS);
		const timer = setInterval(() => look(OLD_MS), LOOK_MS);
		document.addEventListener('visibilitychange', seen);
		return () => {
			clearInterval(timer);
			document.removeEventListener('visibilitychange', seen);
		};
	}, []);
}
