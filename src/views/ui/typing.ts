/** Whether a key goes into a field; single-key commands are off then. */
export const isTyping = (target: EventTarget | null): boolean =>
	target instanceof HTMLElement &&
	(target.isContentEditable || ['INPUT', 'TEXTAREA', 'SELECT'].includes(target.tagName));

/** The same, and buttons too, where Enter and space are the button's own. */
export const isAtControl = (target: EventTarget | null): boolean =>
	isTyping(target) || target instanceof HTMLButtonElement;
