import type { SiteView } from '@/core/reading/site-view';
import { addressOf } from './client';
import { atSiteHere, siteOfTab } from './site-here';

/** Keeps the pages of a walk on this device, where the browser allows it: only pages that came securely may. */
const KEPT = 'cordwain.kept';
const AGAIN_MS = 20 * 60_000;
/** So many stations are kept with a page each. */
const MOST = 40;

/** Whether this page may keep itself for when the network is away. */
export const canKeepPages = (): boolean =>
	typeof navigator !== 'undefined' && 'serviceWorker' in navigator && window.isSecureContext;

async function worker(): Promise<ServiceWorker | null> {
	if (!canKeepPages()) return null;
	try {
		await navigator.serviceWorker.register('/worker.js');
		return (await navigator.serviceWorker.ready).active;
	} catch {
		// Without it everything works while the server answers, and the queue all the same.
		return null;
	}
}

/** Has what a walk wants kept, once in a while. */
export async function keepPages(site: SiteView): Promise<void> {
	const active = await worker();
	if (!active) return;
	const before = Number(localStorage.getItem(KEPT) ?? 0);
	if (Date.now() - before < AGAIN_MS) return;
	localStorage.setItem(KEPT, String(Date.now()));
	const stations = site.stations.slice(0, MOST).map((s) => s.info.code);
	active.postMessage({
		keep: [
			'/',
			'/bench',
			'/calibrate',
			'/round/grid',
			atSiteHere(addressOf('GET /me', {})),
			...stations.map((s) => `/bench?station=${encodeURIComponent(s)}`),
			...stations.map((s) => atSiteHere(addressOf('GET /memory', { query: { stations: JSON.stringify([s]) } }))),
		],
	});
}

/** Another person comes, or this one goes, or goes to another site: what was kept is put away. */
export async function forgetPages(): Promise<void> {
	localStorage.removeItem(KEPT);
	siteOfTab.forget();
	if (canKeepPages()) (await navigator.serviceWorker.getRegistration())?.active?.postMessage({ forget: true });
}

/** Asks the browser not to clear what waits here when it wants room. */
export const keepStorage = (): void => {
	void navigator.storage?.persist?.().catch(() => false);
};

const NEARLY_FULL = 0.9;
/** Whether this device has hardly any room left for what waits. */
export async function isNearlyFull(): Promise<boolean> {
	const { usage = 0, quota = 0 } = (await navigator.storage?.estimate?.().catch(() => null)) ?? {};
	return quota > 0 && usage > NEARLY_FULL * quota;
}
