import { useEffect } from 'react';
import { keysTaken } from '../ui/typing';

/** Where a key leads. */
const GOES: Record<string, string> = {
	b: '/bench',
	r: '/',
	c: '/calibrate',
	t: '/trends',
	l: '/ledger',
	v: '/review',
	w: '/watch',
	m: '/mix',
	d: '/root-zone',
	e: '/ledger/events',
};

/** The keys that work on every page. @param show the list of keys */
export function useKeys(takeBack: (what: 'last') => Promise<void>, show: (on: boolean) => void): void {
	useEffect(() => {
		const onKey = async (e: KeyboardEvent) => {
			if (e.defaultPrevented || e.ctrlKey || e.metaKey || e.altKey || keysTaken(e.target)) return;
			const place = GOES[e.key];
			if (place) location.href = place;
			else if (e.key === '?') show(true);
			else if (e.key === 'u') {
				e.preventDefault();
				await takeBack('last');
			}
		};
		window.addEventListener('keydown', onKey);
		return () => window.removeEventListener('keydown', onKey);
	}, [takeBack, show]);
}
