import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Application, startApplication } from '../helpers/application';
import { openBrowser, openPage } from '../helpers/browser';

let app: Application;
beforeAll(async () => {
	app = await startApplication('demo');
});
afterAll(() => app.stop());

const MAIN = [
	'/',
	'/bench',
	'/probes',
	'/water',
	'/mix',
	'/trends',
	'/review',
	'/ledger',
	'/files',
	'/setup',
	'/calibrate',
];
const linksIn = (html: string): string[] =>
	[...html.matchAll(/<a\b[^>]*?\bhref="([^"]*)"/g)].map((m) => m[1]!.replaceAll('&amp;', '&'));
/** Of addresses that differ only in what they filter by, a few are enough. */
const FEW = 2;
const shape = (path: string): string => {
	const url = new URL(path, 'http://x');
	return `${url.pathname.replace(/\/(probes|round|api\/v1\/stations)\/[^/]+/, '/$1/…')}?${[...url.searchParams.keys()].join('&')}`;
};

/** Goes through every link from some pages on; gives those that lead nowhere, each with the page it stands on. */
async function crawl(
	from: readonly { path: string; on: string }[],
	further = true,
): Promise<{ dead: string[]; seen: number }> {
	const queue = [...from];
	const asked = new Set<string>();
	const pages = new Map<string, string>();
	const shapes = new Map<string, number>();
	const dead: string[] = [];
	for (const { path, on } of queue) {
		const [address, anchor] = path.split('#') as [string, string | undefined];
		const url = new URL(address || on, app.base);
		const key = url.pathname + url.search;
		if (url.origin !== app.base || asked.has(`${key}#${anchor ?? ''}`)) continue;
		asked.add(`${key}#${anchor ?? ''}`);
		if (!pages.has(key)) {
			const kind = shape(key);
			if ((shapes.get(kind) ?? 0) >= FEW) continue;
			shapes.set(kind, (shapes.get(kind) ?? 0) + 1);
			const answer = await fetch(url);
			if (!answer.ok) dead.push(`${path} on ${on}: ${answer.status}`);
			const isPage = (answer.headers.get('content-type') ?? '').includes('text/html');
			const html = await answer.text();
			pages.set(key, isPage ? html : '');
			if (isPage && further) queue.push(...linksIn(html).map((p) => ({ path: p, on: key })));
		}
		if (anchor && !pages.get(key)!.includes(`id="${anchor}"`)) dead.push(`${path} on ${on}: nothing is called so`);
	}
	return { dead, seen: pages.size };
}

describe('links', () => {
	it('every link in the pages as they are sent leads somewhere', async () => {
		const { dead, seen } = await crawl(MAIN.map((path) => ({ path, on: '/' })));
		expect(dead).toEqual([]);
		expect(seen).toBeGreaterThan(25);
	});
	it('and so does every link that is there once a page lives', async () => {
		const { context, close } = await openBrowser();
		try {
			const found: { path: string; on: string }[] = [];
			for (const path of ['/', '/probes', '/water', '/mix']) {
				const page = await openPage(context, app.base + path);
				const links = await page.locator('a[href]').evaluateAll((list) => list.map((a) => a.getAttribute('href')!));
				found.push(...links.map((p) => ({ path: p, on: path })));
				await page.close();
			}
			expect(found.length).toBeGreaterThan(20);
			expect((await crawl(found, false)).dead).toEqual([]);
		} finally {
			await close();
		}
	});
	it('a link that leads nowhere is found', async () => {
		expect((await crawl([{ path: '/round/line', on: '/' }], false)).dead).toEqual(['/round/line on /: 404']);
		expect((await crawl([{ path: '/setup#attic', on: '/' }], false)).dead[0]).toBe(
			'/setup#attic on /: nothing is called so',
		);
	});
});
