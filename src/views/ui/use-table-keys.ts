import type { RefObject } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import { keysTaken } from './typing';

const ignoreEventWhen = (e: KeyboardEvent) => keysTaken(e.target);

/** Keys of a table: j and k move, x chooses, Enter opens. */
export function useTableKeys(
	body: RefObject<HTMLTableSectionElement | null>,
	rows: number,
	current: number,
	does: { go: (to: number) => void; choose: () => void; open: () => void },
): void {
	const go = (step: 1 | -1) => {
		const next = Math.min(Math.max(current + step, 0), rows - 1);
		does.go(next);
		body.current?.querySelectorAll('tr[data-row]')[next]?.scrollIntoView({ block: 'nearest' });
	};
	useHotkeys('j', () => go(1), { preventDefault: true, ignoreEventWhen });
	useHotkeys('k', () => go(-1), { preventDefault: true, ignoreEventWhen });
	useHotkeys('x', () => does.choose(), { ignoreEventWhen });
	useHotkeys('enter', () => does.open(), {
		// It would press the button that has the focus then.
		preventDefault: true,
		// Of a button or link Enter is its own.
		ignoreEventWhen: (e) =>
			ignoreEventWhen(e) || (e.target instanceof HTMLElement && e.target.closest('button, a, summary, label') !== null),
	});
}
