import type { Page } from 'playwright-core';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { type Answer, type Application, startApplication } from '../helpers/application';
import { awake, expectAccessible, openBrowser, openPage } from '../helpers/browser';

/** Two sites, two tabs: each tab writes where it says it is. */
let app: Application;
let browser: Awaited<ReturnType<typeof openBrowser>>;
beforeAll(async () => {
	[app, browser] = await Promise.all([startApplication('demo'), openBrowser()]);
});
afterAll(async () => {
	await browser.close();
	await app.stop();
});

const readingsAt = async (site: number, station: string): Promise<string[]> => {
	const response = await fetch(`${app.base}/api/v1/readings?station=${station}&quantity=ph&limit=2&site=${site}`);
	return (await response.json()).readings?.map((r: Answer) => r.value) ?? [];
};

let first: Page;
let page: Page;
it('one more site is made, set up and gone to', async () => {
	first = await openPage(browser.context, `${app.base}/bench?station=pond`);
	await first.getByLabel('pH', { exact: true }).first().fill('6.7');
	page = await openPage(browser.context, app.base);
	await page.getByRole('link', { name: 'Saltmarsh Yard' }).click();
	await page.waitForURL('**/sites');
	await awake(page);
	await page.getByLabel('What do you call the place?').fill('Hill Yard');
	await page.keyboard.press('Tab');
	await page.keyboard.press('Tab');
	await page.keyboard.press('Enter');
	await page.waitForURL('**/setup');
	await page.waitForFunction(() => !document.querySelector('astro-island[ssr]'));
	expect(await page.getByLabel('What do you call the place?').inputValue()).toBe('Hill Yard');
	// An archive comes back into an installation that is empty.
	expect(await page.getByRole('button', { name: 'bring an archive back' }).count()).toBe(0);
	await page.getByRole('button', { name: 'Set up and take a reading' }).first().click();
	await page.waitForURL('**/bench**');
	await awake(page);
	expect(await page.getByLabel('pH', { exact: true }).first().inputValue()).toBe('');
	await page.fill('#quick', 'tank ph 5.8');
	await page.keyboard.press('Enter');
	await page.locator('[data-said]', { hasText: 'Saved: Tank' }).waitFor();
	expect(await readingsAt(2, 'tank')).toEqual(['5.8']);
});

it('a tab of the first still writes there, and what is half typed stays with it', async () => {
	// The other tab was opened before, and its cookie is the other site’s by now.
	await first.fill('#quick', 'pond ph 5.95');
	await first.keyboard.press('Enter');
	await first.locator('[data-said]', { hasText: 'Saved' }).waitFor();
	expect((await readingsAt(1, 'pond'))[0]).toBe('5.95');
	expect(await readingsAt(2, 'pond')).toEqual([]);

	// Its next page is of the other site, says so, and leads back.
	await first.getByRole('link', { name: 'Probes' }).click();
	await first.locator('[data-tab-site]', { hasText: 'This is Hill Yard now' }).waitFor();
	await first.getByRole('link', { name: 'Back to Saltmarsh Yard' }).click();
	await first.locator('header', { hasText: 'Saltmarsh Yard' }).waitFor();
	expect(new URL(first.url()).pathname).toBe('/probes');
	expect(await first.locator('[data-tab-site]').count()).toBe(0);

	await page.goto(`${app.base}/sites`);
	await awake(page);
	await expectAccessible(page);
	await page.setViewportSize({ width: 1280, height: 800 });
	// Whoever goes on purpose is not told.
	await page.locator('[data-tab-site]', { hasText: 'This is Saltmarsh Yard now' }).waitFor();
	await page.locator('[data-site="2"]').getByRole('link', { name: 'Go there' }).click();
	await page.getByRole('link', { name: 'Hill Yard' }).waitFor();
	await awake(page);
	expect(await page.locator('[data-tab-site]').count()).toBe(0);
	await page.goto(`${app.base}/sites`);
	await awake(page);
	await page.locator('[data-site="1"]').getByRole('link', { name: 'Go there' }).click();
	await page.waitForURL(`${app.base}/`);
	await page.getByRole('link', { name: 'Saltmarsh Yard' }).waitFor();
	await page.goto(`${app.base}/bench?station=pond`);
	await awake(page);
	expect(await page.getByLabel('pH', { exact: true }).first().inputValue()).toBe('6.7');
});
