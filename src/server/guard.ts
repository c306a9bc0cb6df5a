import type { Connection } from './connection';

/** Refuses what a web page elsewhere could make a browser send: an Origin other than our own (cross-site posts). */
export function originAllowed(headers: Headers, { origin: ours }: Pick<Connection, 'origin'>): boolean {
	const site = headers.get('sec-fetch-site');
	if (site !== null && site !== 'same-origin' && site !== 'none') return false;
	const origin = headers.get('origin');
	return origin === null || origin.toLowerCase() === ours;
}

const UUID = /^[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$/i;
export const isUuid = (text: string): boolean => UUID.test(text);
