const OPEN = 'cordwain:open';

/** What can be opened over the page that it stands on. */
export interface Openable {
	what: 'reading' | 'event';
	id: number;
}

const open = (detail: Openable) => void window.dispatchEvent(new CustomEvent<Openable>(OPEN, { detail }));

/** Opens a reading where one stands: its history, evidence and neighbours, and what may be done about it. */
export const openReading = (id: number): void => open({ what: 'reading', id });
/** Opens an event where one stands: what was logged, what it was before, and what may be done about it. */
export const openEvent = (id: number): void => open({ what: 'event', id });

/** Hears of what is to be opened. @returns stops listening */
export const onOpen = (hear: (opened: Openable) => void): (() => void) => {
	const listen = (e: Event) => hear((e as CustomEvent<Openable>).detail);
	window.addEventListener(OPEN, listen);
	return () => window.removeEventListener(OPEN, listen);
};
