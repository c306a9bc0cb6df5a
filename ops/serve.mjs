// The server: files that were built, compressed beforehand and kept by browsers for good, and everything else by the application.
import { readFileSync } from 'node:fs';
import { createServer } from 'node:http';
import { createServer as createTlsServer } from 'node:https';
import { isIP } from 'node:net';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import sirv from 'sirv';
import { settings } from './settings.mjs';

const dist = fileURLToPath(new URL('../dist/', import.meta.url));
/** After this an open connection is not waited for. */
const PATIENCE_MS = 3000;

/** Names that would be taken for something else, or for nothing: a slash, a percent sign or an escape that is none in them, or a way up. */
function misread(name) {
	if (/%2[5f]/i.test(name)) return true;
	try {
		return /^\.{1,2}$/.test(decodeURIComponent(name));
	} catch {
		return true;
	}
}

/**
 * Routes are found by an address that has been taken apart already, where a name with a slash in it is two. The address as it was
 * sent goes along (src/server/address.ts), and names that would be misread are left out of the one for the routes.
 */
function keepAddress(request) {
	const [path, ...query] = request.url.split('?');
	request.headers['x-cordwain-address'] = path;
	const names = path.split('/');
	if (names.some(misread))
		request.url = [names.map((name) => (misread(name) ? '-' : name)).join('/'), ...query].join('?');
}

const isLoopback = (address) => /^127\./.test(address) || address === '::1';
const plainAddress = (address) => (address ?? '').replace(/^::ffff:/, '');

/**
 * Says how a request came (src/server/connection.ts). What a browser says of that itself is thrown away; what a proxy says is believed
 * of proxies that were named, and whatever somebody else forwards is not of this machine.
 */
function sayHowItCame(request, proxies) {
	const { headers, socket } = request;
	const peer = plainAddress(socket.remoteAddress);
	const forwarded = headers['x-forwarded-for'];
	const believed = proxies.includes(peer);
	// The last address is the one that our proxy saw; those before it anybody may have written.
	const last = believed && forwarded ? forwarded.split(',').at(-1).trim() : '';
	const from = isIP(last) ? last : peer;
	const host = believed ? headers['x-forwarded-host'] : undefined;
	const proto = believed ? headers['x-forwarded-proto'] : undefined;
	for (const name of Object.keys(headers))
		if (/^(x-forwarded-|forwarded$|x-cordwain-(?!(?:page|site)$))/.test(name)) delete headers[name];
	headers['x-cordwain-peer'] = from;
	headers['x-cordwain-here'] = isLoopback(peer) && !believed && forwarded === undefined ? '1' : '0';
	headers['x-cordwain-proto'] = proto === 'https' || socket.encrypted ? 'https' : 'http';
	if (host) headers['x-cordwain-host'] = host.split(',').at(-1).trim();
}

const listening = (server, host, port) =>
	new Promise((done, fail) => {
		server.once('error', (error) =>
			fail(
				error.code === 'EADDRINUSE'
					? new Error(`Port ${port} is already in use. Stop what uses it, or choose another: PORT=4401.`)
					: error.code === 'EACCES'
						? new Error(`Port ${port} may not be used by this account. Choose one above 1023: PORT=4400.`)
						: error,
			),
		);
		server.listen(port, host, done);
	});

const stopped = (server) =>
	new Promise((done) => {
		server.close(done);
		server.closeIdleConnections();
		setTimeout(() => server.closeAllConnections(), PATIENCE_MS).unref();
	});

/** What is sent with every answer, whoever gives it. */
const HEADERS = {
	'x-content-type-options': 'nosniff',
	'x-frame-options': 'DENY',
	'referrer-policy': 'same-origin',
	'cross-origin-opener-policy': 'same-origin',
	'cross-origin-resource-policy': 'same-origin',
	'permissions-policy': 'camera=(), microphone=(), geolocation=(), payment=(), usb=()',
};

/**
 * @param tls `{ cert, key, root }` in PEM: serves the local network at `tlsPort`, and at `port` whoever is not of this machine is told to go there
 * @returns what ends it, once requests under way are answered
 * @throws with one sentence where the port cannot be had
 */
export async function startServer({ host, port, tls = null, tlsPort = 0 }) {
	const { CORDWAIN_PROXIES: proxies } = settings();
	const { handler } = await import(join(dist, 'server/entry.mjs'));
	const files = sirv(join(dist, 'client'), {
		brotli: true,
		gzip: true,
		etag: true,
		setHeaders: (response, path) => {
			// The name of a built file changes with what is in it.
			if (path.startsWith('/_astro/')) response.setHeader('cache-control', 'public, max-age=31536000, immutable');
			// The worker itself is looked for anew each time, so that an old one never stays.
			if (path === '/worker.js') response.setHeader('cache-control', 'no-cache');
		},
	});
	/** The authority's certificate, for whoever is about to trust it. @returns whether it was asked for */
	const handsOutRoot = (request, response) => {
		if (tls === null || request.url.split('?')[0] !== '/cordwain-root.crt') return false;
		response.writeHead(200, {
			'content-type': 'application/x-x509-ca-cert',
			'content-disposition': 'attachment; filename="cordwain-root.crt"',
		});
		response.end(tls.root);
		return true;
	};
	const answer = (request, response) => {
		if (handsOutRoot(request, response)) return;
		for (const [name, value] of Object.entries(HEADERS)) response.setHeader(name, value);
		if (request.socket.encrypted) response.setHeader('strict-transport-security', 'max-age=15552000');
		sayHowItCame(request, proxies);
		keepAddress(request);
		files(request, response, () => handler(request, response));
	};
	/** Without TLS the network is shown the way: the authority's certificate, the page about it, and where to go. */
	const showTheWay = (request, response) => {
		const path = request.url.split('?')[0];
		if (handsOutRoot(request, response)) return;
		if (path === '/trust' || path.startsWith('/_astro/') || path === '/mark.svg') {
			answer(request, response);
			return;
		}
		const name = (request.headers.host ?? '').replace(/:\d+$/, '');
		if (!/^[\w.-]+$|^\[[0-9a-f:.]+\]$/i.test(name)) {
			response.writeHead(400);
			response.end();
			return;
		}
		response.writeHead(307, { location: `https://${name}:${tlsPort}${request.url}` });
		response.end();
	};
	const plain = createServer((request, response) => {
		const away = tls !== null && !isLoopback(plainAddress(request.socket.remoteAddress));
		if (away) showTheWay(request, response);
		else answer(request, response);
	});
	await listening(plain, tls === null ? host : '::', port);
	const secure = tls === null ? null : createTlsServer({ cert: tls.cert, key: tls.key, minVersion: 'TLSv1.2' }, answer);
	if (secure) await listening(secure, '::', tlsPort);
	// What is done without being asked (src/server/background.ts) begins with the first request: this is it.
	const here = tls !== null ? '127.0.0.1' : host.includes(':') ? `[${host}]` : host;
	fetch(`http://${here}:${port}/api/v1/health`).catch(() => {});
	return { stop: () => Promise.all([stopped(plain), secure ? stopped(secure) : null]) };
}

/** The certificate that the environment names, or one of a local authority; null where only this machine is served. */
export async function certificate({ CORDWAIN_LAN, CORDWAIN_TLS_CERT, CORDWAIN_TLS_KEY }, dataDir) {
	if (!CORDWAIN_LAN) return null;
	if (!CORDWAIN_TLS_CERT !== !CORDWAIN_TLS_KEY)
		throw new Error('CORDWAIN_TLS_CERT and CORDWAIN_TLS_KEY belong together: name both files, or neither.');
	if (CORDWAIN_TLS_CERT) {
		try {
			const cert = readFileSync(CORDWAIN_TLS_CERT, 'utf8');
			return { cert, key: readFileSync(CORDWAIN_TLS_KEY, 'utf8'), root: cert };
		} catch (error) {
			throw new Error(`The certificate cannot be read: ${error.message}`);
		}
	}
	const { ownCertificate } = await import('./authority.mjs');
	return ownCertificate(dataDir);
}

if (process.argv[1] === fileURLToPath(import.meta.url)) {
	try {
		const all = settings();
		const tls = await certificate(all, all.CORDWAIN_DATA);
		const { stop } = await startServer({ host: all.HOST, port: all.PORT, tls, tlsPort: all.CORDWAIN_TLS_PORT });
		process.on('SIGTERM', () => void stop().then(() => process.exit(0)));
	} catch (error) {
		process.stderr.write(`${error.message}\n`);
		process.exit(1);
	}
}
