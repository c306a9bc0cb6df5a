/**
 * Refuses requests that a web page elsewhere could make this machine's browser send: a Host that is not loopback
 * (DNS rebinding) and an Origin other than our own (cross-site posts).
 */
const LOOPBACK = /^(?:127(?:\.\d{1,3}){3}|localhost|\[::1\])(?::\d{1,5})?$/i;

export const isLoopbackHost = (host: string | null): boolean => host !== null && LOOPBACK.test(host);

export function originAllowed(headers: Headers): boolean {
	const site = headers.get('sec-fetch-site');
	if (site !== null && site !== 'same-origin' && site !== 'none') return false;
	const origin = headers.get('origin');
	if (origin === null) return true;
	try {
		const url = new URL(origin);
		return url.protocol === 'http:' && url.host.toLowerCase() === headers.get('host')?.toLowerCase();
	} catch {
		return false;
	}
}

const UUID = /^[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$/i;
export const isUuid = (text: string): boolean => UUID.test(text);
