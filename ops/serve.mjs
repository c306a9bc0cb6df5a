// The server: files that were built, compressed beforehand and kept by browsers for good, and everything else by the application.
import { createServer } from 'node:http';
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

/**
 * @returns what ends it, once requests under way are answered
 * @throws with one sentence where the port cannot be had
 */
export async function startServer({ host, port }) {
	const { handler } = await import(join(dist, 'server/entry.mjs'));
	const files = sirv(join(dist, 'client'), {
		brotli: true,
		gzip: true,
		etag: true,
		setHeaders: (response, path) => {
			response.setHeader('x-content-type-options', 'nosniff');
			// The name of a built file changes with what is in it.
			if (path.startsWith('/_astro/')) response.setHeader('cache-control', 'public, max-age=31536000, immutable');
		},
	});
	const server = createServer((request, response) => {
		keepAddress(request);
		files(request, response, () => handler(request, response));
	});
	await new Promise((done, fail) => {
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
	// What is done without being asked (src/server/background.ts) begins with the first request: this is it.
	const here = host.includes(':') ? `[${host}]` : host;
	fetch(`http://${here}:${port}/api/v1/health`).catch(() => {});
	return {
		stop: () =>
			new Promise((done) => {
				server.close(done);
				server.closeIdleConnections();
				setTimeout(() => server.closeAllConnections(), PATIENCE_MS).unref();
			}),
	};
}

if (process.argv[1] === fileURLToPath(import.meta.url)) {
	try {
		const { HOST, PORT } = settings();
		const { stop } = await startServer({ host: HOST, port: PORT });
		process.on('SIGTERM', () => void stop().then(() => process.exit(0)));
	} catch (error) {
		process.stderr.write(`${error.message}\n`);
		process.exit(1);
	}
}
