// Keeps the pages of a walk on the device: opened without the server they are as they were last seen, and what is entered waits in the
// queue of the page (views/data/queue). Put together by ops/bootstrap.mjs, which writes the files of the build in.
const VERSION = '__VERSION__';
const FILES = JSON.parse('__FILES__');

const ASSETS = `cordwain-assets-${VERSION}`;
const PAGES = 'cordwain-pages';
/** What is asked of the server and still tells something when it is old. */
const ANSWERS = /^\/api\/v1\/(?:memory|me|rounds\/(?:line|today))(?:\?|$)/;
/** Longer than this a page is not waited for where there is an older one. */
const PATIENCE_MS = 4000;
/** So much is kept; what was seen first goes first. */
const MOST = 150;
/** Pages of this kind stand for one another where the one that is wanted was never seen. */
const KINDS = ['/bench', '/calibrate', '/round/grid', '/'];

self.addEventListener('install', (event) => {
	event.waitUntil(
		caches
			.open(ASSETS)
			.then((cache) => cache.addAll(FILES))
			.then(() => self.skipWaiting()),
	);
});

self.addEventListener('activate', (event) => {
	event.waitUntil(
		(async () => {
			const old = (await caches.keys()).filter((k) => k.startsWith('cordwain-assets-') && k !== ASSETS);
			// A page of the version before may still be open: its files stay once more.
			for (const name of old.slice(0, -1)) await caches.delete(name);
			await self.clients.claim();
		})(),
	);
});

self.addEventListener('message', (event) => {
	const { keep, forget } = event.data ?? {};
	// Another person: what the last one saw is not theirs.
	if (forget) event.waitUntil(caches.delete(PAGES));
	if (Array.isArray(keep)) event.waitUntil(keepAll(keep));
});

/** Fetches what a walk will want, a few at a time. */
async function keepAll(addresses) {
	const cache = await caches.open(PAGES);
	for (const address of addresses) {
		const url = new URL(address, self.location.origin);
		if (url.origin !== self.location.origin) continue;
		try {
			const response = await fetch(url, {
				headers: { accept: url.pathname.startsWith('/api/') ? 'application/json' : 'text/html' },
			});
			if (response.ok && !response.redirected) await cache.put(url.href, response);
		} catch {
			return;
		}
	}
}

async function put(cache, address, response) {
	await cache.put(address, response);
	const all = await cache.keys();
	for (const old of all.slice(0, Math.max(all.length - MOST, 0))) await cache.delete(old);
}

self.addEventListener('fetch', (event) => {
	const { request } = event;
	const url = new URL(request.url);
	if (request.method !== 'GET' || url.origin !== self.location.origin) return;
	if (request.mode === 'navigate') event.respondWith(page(request, url, event));
	else if (url.pathname.startsWith('/_astro/') || FILES.includes(url.pathname)) event.respondWith(asset(request));
	else if (ANSWERS.test(url.pathname + url.search) && !request.headers.get('accept')?.includes('event-stream'))
		event.respondWith(answer(request));
});

async function asset(request) {
	return (await caches.match(request, { ignoreVary: true })) ?? fetch(request);
}

/** From the server where it answers; else as it was last seen. */
async function page(request, url, event) {
	const cache = await caches.open(PAGES);
	const older = await cache.match(url.href, { ignoreVary: true });
	const fresh = fetch(request).then(async (response) => {
		// Nobody is signed in any more: what was seen is put away.
		if (response.redirected && new URL(response.url).pathname === '/sign-in') await caches.delete(PAGES);
		else if (response.ok && !response.redirected) await put(cache, url.href, response.clone());
		return response;
	});
	event.waitUntil(fresh.catch(() => {}));
	const late = new Promise((done) => setTimeout(done, PATIENCE_MS, null));
	try {
		const first = await (older ? Promise.race([fresh, late]) : fresh);
		// A database that is away is no page to look at where there is an older one.
		if (first && (first.status < 500 || !older)) return first;
		return older.clone();
	} catch (error) {
		if (older) return older;
		const alike = (KINDS.includes(url.pathname) ? await cache.keys() : []).filter(
			(known) => new URL(known.url).pathname === url.pathname,
		);
		const of = (address) => new URL(address).searchParams.get('station');
		const best = alike.find((known) => of(known.url) === of(url.href)) ?? alike[0];
		if (best) return cache.match(best, { ignoreVary: true });
		return nothingKept(error);
	}
}

function nothingKept() {
	return new Response(
		'<!doctype html><html lang="en"><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1"><title>Cordwain</title><h1>Cordwain does not answer</h1><p>This page was never opened on this device while it did. <a href="/">Round</a> and <a href="/bench">Bench</a> are kept; what you entered waits here and is sent as soon as it answers.</p></html>',
		{ status: 503, headers: { 'content-type': 'text/html; charset=utf-8' } },
	);
}

/** What is asked for one site is not the answer for another: the site, which a page names beside the address, belongs to it. */
function addressOf(request) {
	const url = new URL(request.url);
	const site = request.headers.get('x-cordwain-site');
	if (site) url.searchParams.set('site', site);
	return url.href;
}

async function answer(request) {
	const cache = await caches.open(PAGES);
	const address = addressOf(request);
	try {
		const response = await fetch(request);
		if (response.ok) await put(cache, address, response.clone());
		return response;
	} catch (error) {
		const older = await cache.match(address, { ignoreVary: true });
		if (older) return older;
		throw error;
	}
}
