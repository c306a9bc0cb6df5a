import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Application, startApplication } from '../helpers/application';
import { openBrowser, openPage } from '../helpers/browser';
import { temporaryFile } from '../helpers/temporary-file';

let app: Application;
let browser: Awaited<ReturnType<typeof openBrowser>>;
const HEAD = 'time,station,instrument,quantity,value,unit\n';
const line = (minute: number, station: string) =>
	`${new Date(Date.UTC(2026, 5, 1) + 60_000 * minute).toISOString()},${station},plum,ph,5.9,pH\n`;

beforeAll(async () => {
	app = await startApplication('empty');
	browser = await openBrowser();
	const stations = Array.from({ length: 45 }, (_, i) => line(i, `bed-${i}`)).join('');
	const done = await fetch(`${app.base}/api/v1/import`, {
		method: 'POST',
		headers: { 'content-type': 'text/csv' },
		body: HEAD + stations,
	});
	expect(done.status).toBe(200);
});
afterAll(async () => {
	await browser.close();
	await app.stop();
});

describe('more than a screen shows', () => {
	it('the Round comes with the first of many stations, and the browser draws the others', async () => {
		const sent = await (await fetch(app.base)).text();
		expect(sent.match(/data-station="/g)).toHaveLength(40);
		const page = await openPage(browser.context, app.base);
		await page.locator('a[data-station="bed-44"]').waitFor();
		expect(await page.locator('a[data-station]').count()).toBe(45);
		await page.close();
	});
	it('an import that somebody stops has stored nothing, says so, and can be begun again', async () => {
		const many = Array.from({ length: 40_000 }, (_, i) => line(100 + i, 'bed-1')).join('');
		await temporaryFile(HEAD + many, async (path) => {
			const page = await openPage(browser.context, `${app.base}/files`);
			await page.locator('#file').setInputFiles(path);
			await page.locator('button', { hasText: 'Store 40,000 lines' }).click();
			await page.locator('p', { hasText: 'lines stored' }).waitFor();
			await page.locator('button', { hasText: 'Stop' }).click();
			// Whatever it comes to is told: what it says instead stands in the failure.
			await page.locator('p', { hasText: /Stopped|stored\.|failed/ }).waitFor({ timeout: 45_000 });
			expect(await page.locator('main').textContent()).toContain('Stopped. Nothing of it was stored.');
			expect(await page.locator('button', { hasText: 'Store 40,000 lines' }).isEnabled()).toBe(true);
			await page.close();
		});
		const { readings } = await (await fetch(`${app.base}/api/v1/readings?station=bed-1`)).json();
		expect(readings).toHaveLength(1);
	});
});
