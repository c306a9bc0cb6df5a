/**
 * What a page hands to its parts. Astro writes the properties of every part into the page for itself, and slowly; what is held goes
 * along once, as plain JSON (layouts/Held.astro), and each part is given its name.
 */
declare const of: unique symbol;
export interface Held<T> {
	held: string;
	[of]?: T;
}

/** Where the page is made, what each name stands for. */
const values = new WeakMap<object, unknown>();
/** Where it is shown, what was read of each element. */
const shown = new WeakMap<Element, unknown>();

/** The name of a value, to be given to a part of the page that also holds it. */
export function hold<T>(name: string, value: T): Held<T> {
	const held: Held<T> = { held: name };
	values.set(held, value);
	return held;
}

export const idOf = (name: string): string => `held-${name}`;

/** What was held under a name: the same object each time. @throws where the page holds nothing of it */
export function unheld<T>(held: Held<T>): T {
	if (values.has(held)) return values.get(held) as T;
	const element = document.getElementById(idOf(held.held));
	if (!element) throw new Error(`This page holds no “${held.held}”.`);
	if (!shown.has(element)) shown.set(element, JSON.parse(element.textContent ?? 'null'));
	return shown.get(element) as T;
}
