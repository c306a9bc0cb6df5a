import type { RefObject } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import { isAtControl, keysTaken } from './typing';

/**
 * Keys of a list: j and the arrow down go to the next of what it holds, k and the arrow up to the one before.
 * @param what finds what is walked, within the list
 */
export function useWalk(list: RefObject<HTMLElement | null>, what: string): void {
	const go = (by: 1 | -1) => {
		const all = [...(list.current?.querySelectorAll<HTMLElement>(what) ?? [])];
		const at = all.indexOf(document.activeElement as HTMLElement);
		const next = at < 0 ? 0 : Math.min(Math.max(at + by, 0), all.length - 1);
		all[next]?.focus();
	};
	const options = {
		preventDefault: true,
		// A button of the list itself is where the walk stands.
		ignoreEventWhen: (e: KeyboardEvent) =>
			list.current?.contains(e.target as Node) ? keysTaken(e.target) : isAtControl(e.target),
	};
	useHotkeys(['j', 'down'], () => go(1), options);
	useHotkeys(['k', 'up'], () => go(-1), options);
}
