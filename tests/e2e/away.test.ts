import type { BrowserContext, Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Answer, type Application, calibrateToday, startApplication, stirByHand } from '../helpers/application';
import { openBrowser, openPage } from '../helpers/browser';

/** The network goes in the middle of something that has several steps; what was done meanwhile is there afterwards, once, at its time. */
let app: Application;
let browser: { context: BrowserContext; close: () => Promise<void> };
beforeAll(async () => {
	[app, browser] = await Promise.all([startApplication('demo'), openBrowser()]);
	// One is calibrated below.
	await calibrateToday(app.base, 'brass');
	await stirByHand(app.base);
});
afterAll(async () => {
	await browser.close();
	await app.stop();
});
const open = (path: string): Promise<Page> => openPage(browser.context, app.base + path);
const got = async (path: string): Promise<Answer> => (await fetch(`${app.base}/api/v1${path}`)).json();

describe('a batch', () => {
	const pour = async (page: Page, letter: string) => {
		await page.locator('[data-part]', { hasText: `Part ${letter} is in` }).focus();
		await page.keyboard.press('Enter');
		await page.locator('[data-so-far] li', { hasText: `part ${letter}` }).waitFor();
	};
	it('that was begun though no answer came is begun once by whoever presses again', async () => {
		const page = await open('/mix?part=batch');
		const count = async () => (await got('/batches')).batches.length;
		const before = await count();
		const fills = async () => (await got('/events?station=mix&kind=solution_changed&limit=500')).events.length;
		const filled = await fills();
		await page.route('**/api/v1/batches', async (route) => {
			if (route.request().method() !== 'POST') return route.continue();
			await route.fetch();
			await route.abort();
		});
		await page.locator('#batch-litres').focus();
		await page.keyboard.press('Enter');
		await page.getByText('What you typed is kept here').waitFor();
		await page.unroute('**/api/v1/batches');
		await page.locator('#batch-litres').focus();
		await page.keyboard.press('Enter');
		await page.locator('[data-batch-run=parts]').waitFor();
		expect([await count(), await fills()]).toEqual([before + 1, filled + 1]);
		await page.close();
		const [{ id }] = (await got('/batches')).batches;
		const body = JSON.stringify({ step: 'done', follows: 0, words: 'closed' });
		expect((await fetch(`${app.base}/api/v1/batches/${id}/steps`, { method: 'POST', body })).status).toBe(200);
	});
	it('goes on without the server: what was poured and read waits in its order, and is stored once at its own time', async () => {
		const page = await open('/mix?part=batch');
		await page.locator('#batch-litres').focus();
		await page.keyboard.press('Enter');
		await page.locator('[data-batch-run=parts]').waitFor();
		await browser.context.setOffline(true);
		const begun = Date.now();
		await pour(page, 'A');
		await pour(page, 'B');
		await page.locator('#measure-ec').focus();
		await page.keyboard.type('1.90');
		await page.locator('[data-verdict]').waitFor();
		await page.keyboard.press('Enter');
		await page.locator('[data-batch-run=ph]').waitFor();
		expect((await got('/batches')).batches[0].log).toEqual([]);
		await page.waitForTimeout(1500);
		const ended = Date.now();
		await browser.context.setOffline(false);
		const steps = async () => (await got('/batches')).batches[0].log.map((s: Answer) => s.step);
		await expect.poll(steps).toEqual(['part', 'part', 'ec']);
		const { log, station } = (await got('/batches')).batches[0];
		for (const s of log) {
			expect(Date.parse(s.time)).toBeGreaterThanOrEqual(begun);
			expect(Date.parse(s.time)).toBeLessThan(ended - 1000);
		}
		expect(log[2].measured).toBe(1900);
		const { events } = await got(`/events?station=${station}&from=${new Date(begun).toISOString()}`);
		expect(events.map((e: Answer) => [e.kind, e.note])).toEqual([
			['nutrient_added', 'part A'],
			['nutrient_added', 'part B'],
		]);
		await page.close();
	});
	it('another went on with meanwhile: what waited is refused and says so, and nothing is poured twice', async () => {
		const page = await open('/mix?part=batch');
		await page.locator('[data-open-batch] button', { hasText: 'Go on' }).first().click();
		await page.locator('[data-batch-run=ph]').waitFor();
		const [batch] = (await got('/batches')).batches;
		await browser.context.setOffline(true);
		await page.locator('#measure-ph').focus();
		await page.keyboard.type('5.80');
		await page.locator('[data-verdict]').waitFor();
		await page.keyboard.press('Enter');
		await page.locator('[data-dose], [role=alert]').first().waitFor();
		const other = await fetch(`${app.base}/api/v1/batches/${batch.id}/steps`, {
			method: 'POST',
			body: JSON.stringify({ step: 'done', follows: batch.log.length, words: 'closed by another' }),
		});
		expect(other.status).toBe(200);
		await browser.context.setOffline(false);
		await page.locator('[data-refused-entry]', { hasText: 'finished' }).waitFor();
		// The page stands where the batch does, not where it would stand with what was refused.
		await page.locator('[data-batch-done]').waitFor();
		expect((await got('/batches')).batches[0].log.map((s: Answer) => s.step)).toEqual(['part', 'part', 'ec', 'done']);
		await page.locator('[data-refused-entry] button', { hasText: 'Throw it away' }).click();
		await page.close();
	});
	it('whose page is loaded anew meanwhile stands where it stood, and what was poured is not asked for again', async () => {
		let page = await open('/mix?part=batch');
		await page.locator('#batch-litres').focus();
		await page.keyboard.press('Enter');
		await page.locator('[data-batch-run=parts]').waitFor();
		// Pages come; what is entered has no answer.
		await browser.context.route('**/batches/*/steps', (route) => route.abort());
		await pour(page, 'A');
		await page.close();
		page = await open('/mix?part=batch');
		await page.locator('[data-open-batch] button', { hasText: 'Go on' }).first().click();
		await page.locator('[data-so-far] li', { hasText: 'part A' }).waitFor();
		await pour(page, 'B');
		await page.locator('#measure-ec').fill('1.90');
		await page.locator('[data-verdict]').waitFor();
		await page.keyboard.press('Enter');
		await page.locator('[data-batch-run=ph]').waitFor();
		await page.close();
		page = await open('/mix?part=batch');
		await page.locator('[data-open-batch] button', { hasText: 'Go on' }).first().click();
		await page.locator('[data-batch-run=ph]').waitFor();
		const [batch] = (await got('/batches')).batches;
		expect(batch.log).toEqual([]);
		await browser.context.unroute('**/batches/*/steps');
		const steps = async () => (await got('/batches')).batches[0].log.map((s: Answer) => s.step);
		await expect.poll(steps).toEqual(['part', 'part', 'ec']);
		await page.getByRole('button', { name: 'Finish the batch' }).click();
		await page.locator('[data-batch-done]').waitFor();
		expect(await steps()).toEqual(['part', 'part', 'ec', 'done']);
		await page.close();
	});
});

it('a calibration made without the server is kept on this device, and stored once when it answers', async () => {
	const page = await open('/calibrate?instrument=brass&quantity=ph');
	const before = (await got('/calibrations?instrument=brass')).calibrations.length;
	await page.fill('#c-temp', '20');
	await browser.context.setOffline(true);
	await page.fill('#c-found-0', '7.05');
	await page.fill('#c-found-1', '4.03');
	await page.keyboard.press('Enter');
	await page.locator('[data-calibration-kept]').waitFor();
	expect((await got('/calibrations?instrument=brass')).calibrations).toHaveLength(before);
	await browser.context.setOffline(false);
	const stored = async () => (await got('/calibrations?instrument=brass')).calibrations.length;
	await expect.poll(stored).toBe(before + 1);
	await page.close();
});
