import type { BrowserContext, Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Application, postJson, startApplication } from '../helpers/application';
import { awake, openBrowser, openPage } from '../helpers/browser';

let app: Application;
let browser: { context: BrowserContext; close: () => Promise<void> };
beforeAll(async () => {
	[app, browser] = await Promise.all([startApplication('demo'), openBrowser()]);
	const at = (minutes: number) => new Date(Date.now() - minutes * 60_000).toISOString();
	// Three slips of one kind at one station, and one of another.
	for (const [i, value] of ['2.90', '3.4', '4.2'].entries())
		await postJson(app.base, '/readings', {
			station: 'mix',
			instrument: 'plum',
			quantity: 'ec',
			value,
			unit: 'mS/cm',
			time: at(90 - 20 * i),
		});
	await postJson(app.base, '/readings', {
		station: 'pond',
		instrument: 'plum',
		quantity: 'ph',
		value: '61.2',
		unit: 'pH',
		time: at(5),
	});
});
afterAll(async () => {
	await browser.close();
	await app.stop();
});
const open = (path: string): Promise<Page> => openPage(browser.context, app.base + path);

describe('waiting at the bench', () => {
	it('says how long this water wants, and keeps a wait that was too short with the reading', async () => {
		const page = await open('/bench?station=pond');
		await page.selectOption('#instrument', 'brass');
		await page.locator('button').filter({ hasText: 'time it' }).click();
		await page.locator('[data-waited="2"]').waitFor();
		await page.locator('[data-settle]').filter({ hasText: 'wants about 30 s' }).waitFor();
		await page.fill('#f-ph', '6.2');
		await page.locator('[data-verdict=ph][data-cause=not-settled]').waitFor();
		await page.locator('#settle-value').fill('6.4');
		await page.locator('#settle-value').press('Enter');
		await page.locator('[data-settle=too-few]').filter({ hasText: '6.4' }).waitFor();
		await page.close();
	});
	it('knows that rain water wants three minutes', async () => {
		const page = await open('/bench?station=rain');
		await page.locator('button').filter({ hasText: 'time it' }).click();
		await page.locator('[data-settle]').filter({ hasText: 'wants about 180 s' }).waitFor();
		await page.close();
	});
});

describe('review', () => {
	it('the worst first; by keyboard: next, retest, keep; the retest comes first on the Round', async () => {
		const page = await open('/?');
		await page.keyboard.press('v');
		await page.waitForURL('**/review');
		await awake(page);
		const ids = await page.locator('[data-queue]').evaluateAll((all) => all.map((e) => e.getAttribute('data-queue')));
		expect(ids.length).toBeGreaterThan(3);
		await page.locator('[data-queue]').first().filter({ hasText: '61.2' }).waitFor();
		await page.keyboard.press('a');
		await page.locator('[data-notice]').filter({ hasText: 'retest' }).waitFor();
		await page.keyboard.press('j');
		await page.locator(`[data-reviewing="${ids[1]}"]`).waitFor();
		await page.keyboard.press('o');
		await page.locator(`[data-reading-dialog="${ids[1]}"]`).waitFor();
		// What lies over the page takes its keys: nothing is decided beneath it.
		await page.keyboard.press('y');
		await page.keyboard.press('Escape');
		await page.locator('[data-reading-dialog]').waitFor({ state: 'detached' });
		expect((await (await fetch(`${app.base}/api/v1/readings/${ids[1]}/history`)).json()).decisions).toEqual([]);
		await page.keyboard.press('y');
		await page.locator(`[data-queue="${ids[1]}"]`).waitFor({ state: 'detached' });
		const kept = await (await fetch(`${app.base}/api/v1/readings/${ids[1]}/history`)).json();
		expect(kept.decisions.at(-1)).toMatchObject({ kind: 'keep' });
		await page.goto(app.base);
		await page.locator('li').filter({ hasText: 'Pond' }).filter({ hasText: 'wants a retest: pH' }).waitFor();
		await page.locator('aside').filter({ hasText: 'Start the round' }).waitFor();
		await page.close();
	});
	it('many at once where one thing happened to them, and the score of the checks', async () => {
		const page = await open('/review');
		const before = await page.locator('[data-queue]').count();
		const many = page.locator('button').filter({ hasText: /^Keep all/ });
		for (let i = 0; i < before - 1 && (await many.count()) === 0; i++) {
			await page.keyboard.press('j');
			await page
				.locator('[data-queue]')
				.nth(i + 1)
				.and(page.locator('[aria-pressed=true]'))
				.waitFor();
		}
		await many.click();
		await page
			.locator('[data-notice]')
			.filter({ hasText: /\d+ kept/ })
			.waitFor();
		expect(await page.locator('[data-queue]').count()).toBe(before - 1);
		await page.reload();
		await page.locator('table').filter({ hasText: ' of ' }).first().waitFor();
		await page.close();
	});
});
