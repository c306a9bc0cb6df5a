import type { Page } from 'playwright-core';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { type Application, postJson, startApplication } from '../helpers/application';
import { awake, openBrowser } from '../helpers/browser';

let app: Application;
let page: Page;
let browser: Awaited<ReturnType<typeof openBrowser>>;
beforeAll(async () => {
	[app, browser] = await Promise.all([startApplication('empty'), openBrowser({ width: 390, height: 844 })]);
	page = await browser.context.newPage();
	await page.goto(`${app.base}/setup`);
	await page.waitForFunction(() => !document.querySelector('astro-island[ssr]'));
	await page.waitForTimeout(300);
	// It takes some seconds to be filled.
	await page.locator('[data-sample]').click();
	await page.locator('[data-sample-note]').waitFor({ timeout: 60_000 });
});
afterAll(async () => {
	await browser.close();
	await app.stop();
});
const own = { station: 'pond', quantity: 'ph', value: '6.1', unit: 'pH' };

it('a sample is looked at from an empty installation', async () => {
	expect(await page.locator('a[data-station]').count()).toBeGreaterThan(6);
	// A second sample, or a book that somebody has begun, is not written over.
	expect((await postJson(app.base, '/sample', {})).status).toBe(409);
});

it('it is thrown away whole, with what was entered into it; nothing else is', async () => {
	expect((await postJson(app.base, '/readings', own)).status).toBe(201);
	await page.goto(`${app.base}/files`);
	await awake(page);
	await page.locator('[data-sample-note] button').click();
	await page.locator('[data-discard-sample]').click();
	await page.locator('[data-first-setup]').waitFor();
	for (const list of ['stations', 'instruments', 'readings', 'events', 'products', 'batches']) {
		const left = await (await fetch(`${app.base}/api/v1/${list}`)).json();
		expect(left[list], list).toEqual([]);
	}
	// What is begun then is no sample.
	const made = await postJson(app.base, '/stations', { code: 'tank', kind: 'reservoir' });
	expect(made.status).toBe(201);
	expect((await postJson(app.base, '/readings', { ...own, station: 'tank' })).status).toBe(201);
	const gone = await fetch(`${app.base}/api/v1/sample`, { method: 'DELETE' });
	expect(gone.status).toBe(409);
	expect((await (await fetch(`${app.base}/api/v1/readings`)).json()).readings).toHaveLength(1);
	await page.close();
});
