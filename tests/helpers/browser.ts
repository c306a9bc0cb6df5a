import AxeBuilder from '@axe-core/playwright';
import { type Browser, type BrowserContext, chromium, type Page } from 'playwright-core';
import { expect } from 'vitest';
import { againstContract } from './contract-check';

const FLAGS = [
	'--headless',
	'--no-sandbox',
	'--disable-gpu',
	'--disable-quic',
	'--no-first-run',
	'--disable-background-networking',
	'--disable-component-update',
	'--disable-sync',
];

/** What was wrong, by the contract, with the answers that the pages of a browser were given, and against its policy in the pages. */
function parseAnswers(context: BrowserContext): string[] {
	const wrong: string[] = [];
	context.on('response', async (response) => {
		const { pathname } = new URL(response.url());
		const type = response.headers()['content-type'] ?? '';
		if (!pathname.startsWith('/api/v1/') || !type.includes('json')) return;
		// A page that is left meanwhile takes the body with it.
		const body = await response.json().catch(() => undefined);
		if (body === undefined) return;
		const method = response.request().method();
		const path = pathname.slice('/api/v1'.length);
		const words = againstContract(method, path, response.status(), type, body);
		if (words) wrong.push(`${method} ${path} ${words}`);
	});
	// Nothing of ours goes against what pages may load and run.
	context.on('console', (message) => {
		if (/Content Security Policy/.test(message.text()))
			wrong.push(`${message.page()?.url()} ${message.text().slice(0, 300)}`);
	});
	return wrong;
}

/** Debian's Chromium, one for each worker; it ends with it. */
let browser: Promise<Browser> | undefined;
const theBrowser = (): Promise<Browser> => {
	browser ??= chromium.launch({ executablePath: '/usr/bin/chromium-headless-shell', args: FLAGS });
	return browser;
};

/** A window with cookies and storage of its own, empty at first. */
export async function openBrowser(
	size = { width: 1280, height: 800 },
	timezoneId?: string,
	/** With the worker that keeps pages on the device; otherwise what a test puts before a request is asked each time. */
	keepsPages = false,
): Promise<{ context: BrowserContext; wrong: string[]; close: () => Promise<void> }> {
	const context = await (await theBrowser()).newContext({
		viewport: size,
		acceptDownloads: true,
		serviceWorkers: keepsPages ? 'allow' : 'block',
		...(timezoneId === undefined ? {} : { timezoneId }),
	});
	context.setDefaultTimeout(25_000);
	const wrong = parseAnswers(context);
	return {
		context,
		wrong,
		close: async () => {
			await context.close();
			expect(wrong).toEqual([]);
		},
	};
}

/** Waits until the page's scripts have taken over: what is drawn is drawn, and what listens for keys listens. */
export async function awake(page: Page): Promise<void> {
	await page.locator('[data-ready=true]').first().waitFor();
	await page.waitForFunction(() => !document.querySelector('astro-island[ssr]'));
	// An island drops its mark when its drawing begins; effects come later, and nothing in the page tells when the last has run.
	await page.evaluate(async () => {
		const idle = () => new Promise((done) => requestIdleCallback(done, { timeout: 500 }));
		await idle();
		await idle();
	});
}

/** A page of the application that is awake. */
export async function openPage(context: BrowserContext, url: string): Promise<Page> {
	const page = await context.newPage();
	await page.goto(url);
	await awake(page);
	return page;
}

/** Colours of the dark are looked at where all pages are (tests/e2e/access.test.ts). */
const THEMES = ['limewash', 'blackout'] as const;

/** No page is wider than its window. A chart draws itself anew a moment after the window changed: it is asked until it has. */
export const nothingRunsOff = (page: Page): Promise<void> =>
	expect
		.poll(() => page.evaluate(() => document.documentElement.scrollWidth))
		.toBeLessThanOrEqual(page.viewportSize()?.width ?? 0);

/** No serious finding of axe in either theme, or in one, and no sideways scroll at 360 pixels. */
export async function expectAccessible(
	page: Page,
	themes: readonly (typeof THEMES)[number][] = ['limewash'],
): Promise<void> {
	for (const theme of themes) {
		await page.evaluate((t) => {
			document.documentElement.dataset.theme = t;
		}, theme);
		await page.waitForTimeout(200);
		// The second theme differs by its colours alone.
		// In the page itself: no second page is opened to put frames together.
		const axe = new AxeBuilder({ page }).setLegacyMode().options({ resultTypes: ['violations'], preload: false });
		const { violations } = await (theme === 'limewash' ? axe : axe.withRules(['color-contrast'])).analyze();
		expect(violations.map((v) => `${theme} ${v.id}: ${v.nodes[0]?.html}`)).toEqual([]);
	}
	await page.setViewportSize({ width: 360, height: 780 });
	await nothingRunsOff(page);
}
