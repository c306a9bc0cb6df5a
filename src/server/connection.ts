import { hostname, networkInterfaces } from 'node:os';
import { settings } from '../../ops/settings.mjs';

/** How a request came, as ops/serve.mjs saw it: what a browser or a proxy nobody named says of itself is not believed. */
export interface Connection {
	/** Address of whoever asks. */
	from: string;
	/** By TLS. */
	secure: boolean;
	/** From this machine itself, and not through a proxy. */
	here: boolean;
	/** Name and port, as the browser has them. */
	host: string;
	/** As https://cordwain.home:4443. */
	origin: string;
}

export function connectionOf(request: Request): Connection {
	const of = (name: string) => request.headers.get(`x-cordwain-${name}`) ?? '';
	const secure = of('proto') === 'https';
	const host = (of('host') || request.headers.get('host') || '').toLowerCase();
	return {
		from: of('peer'),
		secure,
		here: of('here') === '1',
		host,
		origin: `${secure ? 'https' : 'http'}://${host}`,
	};
}

const LOOPBACK = /^(?:127(?:\.\d{1,3}){3}|localhost|\[::1\])$/i;
/** Name without its port. */
export const nameOfHost = (host: string): string => host.replace(/:\d{1,5}$/, '');
export const isLoopbackName = (name: string): boolean => LOOPBACK.test(name);

/**
 * Whether this is a name that Cordwain goes by: a page elsewhere could have a name of its own lead here (DNS rebinding).
 * On this machine alone that is loopback; in the local network also its addresses and its name; and what CORDWAIN_HOSTS says.
 */
export function isOurName(host: string | null): boolean {
	if (host === null || !/^(?:[\w.-]+|\[[0-9a-f:.]+\])(?::\d{1,5})?$/i.test(host)) return false;
	const name = nameOfHost(host).toLowerCase();
	if (isLoopbackName(name)) return true;
	const { CORDWAIN_LAN: lan, CORDWAIN_HOSTS: hosts } = settings();
	if (hosts.includes(name)) return true;
	if (!lan) return false;
	const own = hostname().toLowerCase();
	if (name === own || name === `${own}.local`) return true;
	return Object.values(networkInterfaces()).some((all) =>
		all?.some((a) => (a.family === 'IPv6' ? `[${a.address}]` : a.address) === name),
	);
}
