/** Whether a key belongs to a field, or to the dialog that lies over the page; single-key commands are off then. */
export const keysTaken = (target: EventTarget | null): boolean =>
	(target instanceof HTMLElement &&
		(target.isContentEditable || ['INPUT', 'TEXTAREA', 'SELECT'].includes(target.tagName))) ||
	document.querySelector('[role=dialog], [role=listbox]') !== null;

/** The same, and buttons too, where Enter and space are the button's own. */
export const isAtControl = (target: EventTarget | null): boolean =>
	keysTaken(target) || target instanceof HTMLButtonElement;
