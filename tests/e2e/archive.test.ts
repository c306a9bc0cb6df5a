import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Application, startApplication } from '../helpers/application';
import { expectAccessible, openBrowser, openPage } from '../helpers/browser';

/** Out and in by the pages: an archive into an empty installation, a spreadsheet of one's own, who did what. */
let demo: Application;
let empty: Application;
let browser: Awaited<ReturnType<typeof openBrowser>>;
const folder = mkdtempSync(join(tmpdir(), 'cordwain-files-'));
beforeAll(async () => {
	[demo, empty, browser] = await Promise.all([startApplication('demo'), startApplication('empty'), openBrowser()]);
});
afterAll(async () => {
	await browser.close();
	await Promise.all([demo.stop(), empty.stop()]);
	rmSync(folder, { recursive: true, force: true });
});

describe('files', () => {
	it('an archive comes back into an empty installation from its first page; a file that is none says so', async () => {
		const archive = join(folder, 'book.zip');
		writeFileSync(archive, Buffer.from(await (await fetch(`${demo.base}/api/v1/export.zip`)).arrayBuffer()));
		const other = join(folder, 'other.zip');
		writeFileSync(other, 'no zip');
		const page = await browser.context.newPage();
		await page.goto(`${empty.base}/`);
		await page.waitForFunction(() => !document.querySelector('astro-island[ssr]'));
		await page.getByLabel('Archive').setInputFiles(other);
		await page.getByRole('alert').getByText('no archive of Cordwain').waitFor();
		await page.getByLabel('Archive').setInputFiles(archive);
		await page.waitForURL(`${empty.base}/`, { timeout: 20_000 });
		await page.locator('a[data-station="pond"]').waitFor();
		const count = async (app: Application) =>
			(await (await fetch(`${app.base}/api/v1/readings?limit=500`)).json()).readings.length;
		expect(await count(empty)).toBe(await count(demo));
		await page.close();
	});
	it('a spreadsheet is looked at, its columns are said, it is stored, and taken back as a whole', async () => {
		const sheet = join(folder, 'tanks.csv');
		writeFileSync(sheet, 'Date;pH;EC (mS/cm)\n03/04/2025;6,1;1,95\n05/06/2025;6,2;1,97\n');
		const page = await openPage(browser.context, `${demo.base}/files`);
		await page.getByLabel('Spreadsheet', { exact: true }).setInputFiles(sheet);
		await page.locator('[data-mapping]').waitFor();
		// Day first or month first: the dates do not tell.
		await page.getByText('Its dates could be either: which are they?').waitFor();
		expect(await page.getByLabel('EC (mS/cm) is').inputValue()).toBe('ec');
		await page.getByLabel('All of it is from').selectOption('pond');
		await page.getByRole('button', { name: 'See what it holds' }).click();
		await page.locator('[data-report]', { hasText: '4 new' }).waitFor();
		await page.getByRole('button', { name: /^Store/ }).click();
		await page.locator('[data-report]', { hasText: '4 readings stored' }).waitFor();
		await page.getByRole('button', { name: 'Take back' }).first().click();
		await page.getByText('4 readings are taken back').waitFor();
		await expectAccessible(page, ['limewash']);
		await page.close();
	});
	it('who did what is searched, and says what it was before', async () => {
		await fetch(`${demo.base}/api/v1/stations`, {
			method: 'POST',
			body: JSON.stringify({ code: 'pond', kind: 'reservoir', volume_l: 2300 }),
		});
		await fetch(`${demo.base}/api/v1/stations`, {
			method: 'POST',
			body: JSON.stringify({ code: 'pond', kind: 'reservoir', volume_l: 2250 }),
		});
		const page = await openPage(browser.context, `${demo.base}/ledger/changes`);
		await page.getByLabel('With this word in it').fill('pond');
		const first = page.locator('[data-change="station.saved"]').first();
		await first.click();
		await first.getByRole('row', { name: /volumeL 2300 2250/ }).waitFor();
		await expectAccessible(page, ['limewash']);
		await page.close();
	});
});
