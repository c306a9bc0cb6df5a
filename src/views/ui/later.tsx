import { type ComponentType, type LazyExoticComponent, lazy } from 'react';

function NotFetched() {
	return (
		<p role="alert" className="text-error">
			This part of the page could not be fetched. Load the page anew when there is a network.
		</p>
	);
}

/** A part of a page that is fetched when it is drawn. Where the network has gone meanwhile it says so, and the rest of the page stands. */
export const lazily = <P,>(load: () => Promise<{ default: ComponentType<P> }>): LazyExoticComponent<ComponentType<P>> =>
	lazy(() => load().catch(() => ({ default: NotFetched as ComponentType<P> })));

/**
 * A part of a page that is not needed to draw it. It is fetched once the page has nothing else to do, so that it is there when
 * somebody wants it, also where the network has gone meanwhile.
 */
export function later<P>(load: () => Promise<{ default: ComponentType<P> }>): LazyExoticComponent<ComponentType<P>> {
	if (typeof window !== 'undefined') {
		const soon = () => setTimeout(() => void load().catch(() => {}), 1500);
		if (document.readyState === 'complete') soon();
		else window.addEventListener('load', soon, { once: true });
	}
	return lazily(load);
}
