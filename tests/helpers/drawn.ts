import type { ReactElement } from 'react';
import { renderToStaticMarkup } from 'react-dom/server';

/** Parts of the pages, drawn as the server draws them. */
export const draw = (part: ReactElement): string => renderToStaticMarkup(part);
/** What a person reads of it, and what a reader of the screen is told. */
export const read = (part: ReactElement): string =>
	draw(part)
		.replace(/<[^>]+>/g, ' ')
		.replace(/&#x27;/g, '’')
		.replace(/\s+/g, ' ')
		.trim();
export const nothing = (): undefined => undefined;
