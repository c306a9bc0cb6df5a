const OPEN = 'cordwain:open';

/** Opens a reading where one stands: its history, evidence and neighbours, and what may be done about it. */
export const openReading = (id: number): void => {
	window.dispatchEvent(new CustomEvent<number>(OPEN, { detail: id }));
};

/** Hears of what is to be opened. @returns stops listening */
export const onOpenReading = (open: (id: number) => void): (() => void) => {
	const listen = (e: Event) => open((e as CustomEvent<number>).detail);
	window.addEventListener(OPEN, listen);
	return () => window.removeEventListener(OPEN, listen);
};
