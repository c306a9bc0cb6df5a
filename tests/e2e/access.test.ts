import { AxeBuilder } from '@axe-core/playwright';
import type { Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Application, startApplication } from '../helpers/application';
import { nothingRunsOff, openBrowser, openPage } from '../helpers/browser';

/**
 * Every page, for everybody: no issue that axe knows of whatever its impact, in daylight and in the dark, on a desk and in the hand
 * (WCAG 2.2, levels A and AA, and the practices that axe adds); nothing runs off the side at 320 px (1.4.10) nor at 200 % (1.4.4).
 */
let app: Application;
let desk: Awaited<ReturnType<typeof openBrowser>>;
beforeAll(async () => {
	[app, desk] = await Promise.all([startApplication('demo'), openBrowser({ width: 1280, height: 800 })]);
});
afterAll(async () => {
	await desk.close();
	await app.stop();
});

const PAGES = [
	'/',
	'/bench?station=pond',
	'/probes',
	'/probes/brass/ph',
	'/calibrate?instrument=brass&quantity=ph',
	'/water',
	'/water?source=ro',
	'/mix',
	'/mix?part=batch',
	'/mix?part=recipes',
	'/mix?part=tanks',
	'/mix?part=top-up',
	'/mix?part=products',
	'/mix?part=season&system=gutters',
	'/root-zone',
	'/trends?station=pond',
	'/review',
	'/ledger?station=ro&standing=doubtful',
	'/ledger/events?station=bench',
	'/files',
	'/setup',
	'/people',
	'/round/sheet',
	'/round/grid',
	'/round/week',
] as const;

/** The second theme differs by its colours alone, and they come from the same classes: these pages have all of them. */
const ALSO_IN_THE_DARK = new Set<string>([
	'/',
	'/bench?station=pond',
	'/probes/brass/ph',
	'/water?source=ro',
	'/mix?part=batch',
	'/root-zone',
	'/trends?station=pond',
	'/review',
	'/ledger?station=ro&standing=doubtful',
	'/people',
]);
/** A page says the same on both, in the same classes; what is there in the hand alone, bar and thumb’s row, stands on these. */
const OTHERS_IN_THE_HAND = new Set<string>(['/', '/bench?station=pond', '/round/grid', '/setup']);

async function issues(page: Page, theme: 'limewash' | 'blackout', rules: 'all' | 'colours'): Promise<string[]> {
	await page.evaluate((t) => {
		document.documentElement.dataset.theme = t;
	}, theme);
	await page.waitForTimeout(100);
	// What is wrong is enough to know, and nothing has to be fetched for it.
	const axe = new AxeBuilder({ page })
		.setLegacyMode()
		.options({ resultTypes: ['violations'], preload: false, iframes: false });
	if (rules === 'colours') axe.withRules(['color-contrast']);
	const { violations } = await axe.analyze();
	return violations.map((v) => `${theme} ${v.id} (${v.impact}): ${v.nodes[0]?.html.slice(0, 160)}`);
}
/** What is touched and is lower than a thumb wants it. */
const tooSmall = (): string[] =>
	[...document.querySelectorAll<HTMLElement>('button, select, summary, input, textarea, a.act, nav a')].flatMap(
		(el) => {
			const box = (el.closest('label') ?? el).getBoundingClientRect();
			const own = el.getBoundingClientRect();
			const seen = own.width > 1 && own.height > 1 && el.offsetParent !== null && !el.classList.contains('sr-only');
			return seen && Math.max(box.height, own.height) < 43.5
				? [`${Math.round(Math.max(box.height, own.height))} px: ${el.outerHTML.slice(0, 120)}`]
				: [];
		},
	);

describe('every page', () => {
	it.each(PAGES)(
		'%s: nothing that axe knows of; at twice the size and at 320 px nothing runs off; in the hand what is touched is 44 px high',
		async (path) => {
			const page = await openPage(desk.context, app.base + path);
			const dark = ALSO_IN_THE_DARK.has(path) ? await issues(page, 'blackout', 'colours') : [];
			expect([...(await issues(page, 'limewash', 'all')), ...dark]).toEqual([]);
			await page.setViewportSize({ width: 640, height: 400 });
			await nothingRunsOff(page);
			await page.setViewportSize({ width: 390, height: 844 });
			if (OTHERS_IN_THE_HAND.has(path)) expect(await issues(page, 'limewash', 'all')).toEqual([]);
			await expect.poll(() => page.evaluate(tooSmall)).toEqual([]);
			await page.setViewportSize({ width: 320, height: 640 });
			await nothingRunsOff(page);
			await page.close();
		},
	);
});

describe('by keyboard and by ear', () => {
	it.each(['/', '/bench?station=pond', '/mix?part=batch', '/ledger', '/setup'])(
		'%s: focus is seen, and goes in the order of reading',
		async (path) => {
			const page = await openPage(desk.context, app.base + path);
			await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
			const seen: { outline: boolean; inside: boolean }[] = [];
			for (let i = 0; i < 20; i++) {
				await page.keyboard.press('Tab');
				seen.push(
					await page.evaluate(() => {
						const el = document.activeElement as HTMLElement;
						const style = getComputedStyle(el);
						const box = el.getBoundingClientRect();
						return {
							outline: style.outlineStyle !== 'none' && Number.parseFloat(style.outlineWidth) >= 1,
							inside: box.bottom > 0 && box.top < window.innerHeight,
						};
					}),
				);
			}
			expect(seen.filter((s) => !s.outline || !s.inside)).toEqual([]);
			// Nothing jumps the queue.
			expect(await page.locator('[tabindex]:not([tabindex="0"]):not([tabindex="-1"])').count()).toBe(0);
			await page.close();
		},
	);
	it('a verdict is told to who does not see it', async () => {
		const page = await openPage(desk.context, `${app.base}/bench?station=pond`);
		await page.fill('#f-ph', '58');
		await page.locator('[aria-live] [data-verdict]').first().waitFor();
		await page.close();
	});
});
