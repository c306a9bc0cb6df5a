import type { Page, Route } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Answer, type Application, startApplication } from '../helpers/application';
import { openBrowser } from '../helpers/browser';

let app: Application;
let browser: Awaited<ReturnType<typeof openBrowser>>;
beforeAll(async () => {
	app = await startApplication('demo');
	browser = await openBrowser();
});
afterAll(async () => {
	await browser.close();
	await app.stop();
});

const READINGS = /\/api\/v1\/readings\?/;
async function open(): Promise<Page> {
	const page = await browser.context.newPage();
	await page.goto(`${app.base}/round/sheet`);
	await page.locator('#quick[data-ready=true]').waitFor();
	return page;
}
/** Types a line and saves it, without waiting for what becomes of it. */
async function enter(page: Page, value: string): Promise<void> {
	await page.fill('#quick', `pond ph ${value}`);
	await page.keyboard.press('Enter');
}
const stored = async (from: number): Promise<string[]> => {
	const { readings } = await (await fetch(`${app.base}/api/v1/readings?station=pond&quantity=ph&limit=40`)).json();
	return (readings as Answer[])
		.filter((r) => Date.parse(r.time) >= from)
		.map((r) => r.value)
		.reverse();
};

describe('entries made at this device', () => {
	it('whose answers are lost are stored once each, in order, and nobody is asked to type again', async () => {
		const from = Date.now();
		const page = await open();
		const lost = new Set<string>();
		await page.route(READINGS, async (route: Route) => {
			const key = route.request().headers()['idempotency-key']!;
			if (lost.has(key)) return route.continue();
			lost.add(key);
			await route.fetch();
			await route.abort();
		});
		for (const value of ['6.01', '6.02']) {
			await enter(page, value);
			await page.locator('[data-said]', { hasText: 'Nothing is lost' }).waitFor();
			await expect.poll(() => page.inputValue('#quick')).toBe('');
		}
		await expect.poll(() => lost.size).toBe(2);
		await expect.poll(() => page.locator('[data-kept]').count()).toBe(0);
		expect(await stored(from)).toEqual(['6.01', '6.02']);
		await page.close();
	});
	it('whose answer takes six seconds is kept meanwhile, then stored once', async () => {
		const from = Date.now();
		const page = await open();
		let asked = 0;
		await page.route(READINGS, async (route: Route) => {
			// Whoever asks once more need not wait as long again.
			const slow = asked++ === 0 ? 6000 : 500;
			const response = await route.fetch();
			await new Promise((resolve) => setTimeout(resolve, slow));
			await route.fulfill({ response }).catch(() => {});
		});
		await enter(page, '6.03');
		await page.locator('[data-kept="1"]').waitFor();
		await page.locator('[data-said]', { hasText: 'Kept on this device' }).waitFor();
		await expect.poll(() => page.locator('[data-kept]').count()).toBe(0);
		expect(await stored(from)).toEqual(['6.03']);
		await page.close();
	});
	it('in three tabs at once are stored once each, those of a tab in their order', async () => {
		const from = Date.now();
		const pages = await Promise.all([open(), open(), open()]);
		await Promise.all(
			pages.map(async (page, tab) => {
				for (const n of [1, 2, 3]) {
					await enter(page, `6.${tab + 1}${n}`);
					await page.locator('[data-said]', { hasText: 'Saved' }).waitFor();
					await expect.poll(() => page.inputValue('#quick')).toBe('');
				}
			}),
		);
		const values = await stored(from);
		expect([...values].sort()).toEqual(['6.11', '6.12', '6.13', '6.21', '6.22', '6.23', '6.31', '6.32', '6.33']);
		for (const tab of ['6.1', '6.2', '6.3']) {
			const own = values.filter((v) => v.startsWith(tab));
			expect(own).toEqual([...own].sort());
		}
		await Promise.all(pages.map((p) => p.close()));
	});
	it('outlive a server that is gone and a page that is loaded again', async () => {
		const from = Date.now();
		const page = await open();
		await page.route(READINGS, (route) => route.abort());
		await enter(page, '6.41');
		await page.locator('[data-said]', { hasText: 'Nothing is lost' }).waitFor();
		await page.reload();
		await page.locator('[data-kept="1"]', { hasText: 'pond pH 6.41' }).waitFor();
		await page.unroute(READINGS);
		await expect.poll(() => page.locator('[data-kept]').count()).toBe(0);
		expect(await stored(from)).toEqual(['6.41']);
		await page.close();
	});
	it('that are refused later stay with the reason and hold nothing behind them', async () => {
		const from = Date.now();
		const page = await open();
		await page.route(READINGS, (route) => route.abort());
		for (const value of ['6.51', '6.52']) {
			await enter(page, value);
			await expect.poll(() => page.inputValue('#quick')).toBe('');
		}
		await page.unroute(READINGS);
		// Meanwhile its station has another name: the server does not know it.
		await page.route(READINGS, (route) =>
			route.continue({
				postData: route
					.request()
					.postData()!
					.replace(/"pond"(.*"6\.51")/, '"attic"$1'),
			}),
		);
		const refused = page.locator('[data-refused-entry]');
		await refused.filter({ hasText: 'There is no station “attic”' }).waitFor();
		await expect.poll(() => stored(from)).toEqual(['6.52']);
		await page.unroute(READINGS);
		await refused.getByRole('button', { name: 'Send it again' }).click();
		await expect.poll(() => refused.count()).toBe(0);
		await expect.poll(async () => (await stored(from)).sort()).toEqual(['6.51', '6.52']);
		await page.close();
	});
	it('are taken back before they are sent as after', async () => {
		const from = Date.now();
		const page = await open();
		await page.route(READINGS, (route) => route.abort());
		await enter(page, '6.61');
		await page.locator('[data-said]', { hasText: 'Nothing is lost' }).waitFor();
		await page.keyboard.press('u');
		await page.locator('[data-said]', { hasText: 'Taken back: pond pH 6.61' }).waitFor();
		await page.unroute(READINGS);
		await enter(page, '6.62');
		await page.locator('[data-said]', { hasText: 'Saved' }).waitFor();
		expect(await stored(from)).toEqual(['6.62']);
		await page.close();
	});
});
