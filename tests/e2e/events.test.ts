import type { Page } from 'playwright-core';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { type Answer, type Application, startApplication } from '../helpers/application';
import { awake, expectAccessible, openBrowser } from '../helpers/browser';

let app: Application;
let browser: Awaited<ReturnType<typeof openBrowser>>;
beforeAll(async () => {
	app = await startApplication('demo');
	browser = await openBrowser({ width: 390, height: 844 });
});
afterAll(async () => {
	await browser.close();
	await app.stop();
});

let page: Page;
const said = (text: string) => page.locator('[data-notice]', { hasText: text }).waitFor();
const listed = async (): Promise<Answer[]> =>
	(await (await fetch(`${app.base}/api/v1/events?station=pond&order=newest&limit=1`)).json()).events;

it('an event is logged late', async () => {
	page = await browser.context.newPage();
	await page.goto(`${app.base}/ledger`);
	await page.getByRole('link', { name: 'Events' }).click();
	await page.waitForURL('**/ledger/events');
	await awake(page);
	await page.locator('[data-event]').nth(20).waitFor();
	await page.getByLabel('Station').selectOption('pond');
	await page.locator('[data-event-form] summary').click();
	await page.getByLabel('How much').fill('6,5');
	await page.getByRole('combobox', { name: 'Of what' }).fill('rain');
	await page.getByLabel('When; now if empty').fill('2026-07-14 11:15');
	await page.getByRole('button', { name: 'Log it' }).click();
	await said('water added 6.5 L, rain: logged');
	expect(await listed()).toMatchObject([{ amount: 6.5, time: '2026-07-14T09:15:00Z', product: 'rain' }]);
});

it('it is opened where it is listed, corrected, taken back and put back', async () => {
	const own = page.locator('[data-event]', { hasText: 'water added 6.5 L' });
	await own.getByRole('button').first().click();
	await expectAccessible(page, ['limewash']);
	await own.getByLabel('How much').fill('65');
	await own.getByRole('button', { name: 'Correct it' }).click();
	await said('Corrected');
	expect(await listed()).toMatchObject([{ amount: 65, time: '2026-07-14T09:15:00Z' }]);
	const fixed = page.locator('[data-event]', { hasText: 'water added 65 L' }).first();
	await fixed.getByRole('button').first().click();
	await fixed.getByRole('button', { name: 'take it back' }).click();
	await said('taken back');
	expect((await listed())[0].time).not.toBe('2026-07-14T09:15:00Z');
	await page.getByRole('button', { name: 'Put it back' }).click();
	await said('put back');
	expect(await listed()).toMatchObject([{ amount: 65 }]);
	await page.close();
});

it('an unlikely amount is asked about before it is kept; the quick line logs, and takes back', async () => {
	page = await browser.context.newPage();
	await page.goto(`${app.base}/bench?station=bench`);
	await awake(page);
	await page.locator('[data-event-form] summary').click();
	await page.locator('[data-event-form] select').first().selectOption('acid_added');
	await page.getByLabel('How much').fill('3');
	await page.getByLabel('Unit').selectOption('L');
	await page.getByRole('button', { name: 'Log it' }).click();
	const doubt = page.locator('[data-event-doubt=strong-dose]');
	await doubt.waitFor();
	await doubt.getByRole('button', { name: 'It was 3 mL' }).click();
	await page.locator('[data-saved]', { hasText: 'acid added 3 mL: logged' }).waitFor();
	const newest = async (): Promise<Answer> =>
		(await (await fetch(`${app.base}/api/v1/events?station=bench&order=newest&limit=1`)).json()).events[0];
	expect(await newest()).toMatchObject({ kind: 'acid_added', amount: 3, unit: 'mL' });
	await page.locator('[data-undo]').click();
	await page.locator('[data-saved]', { hasText: 'Taken back' }).waitFor();
	expect((await newest())?.amount).not.toBe(3);

	await page.fill('#quick', 'bench tank +24000L');
	await page.getByRole('button', { name: 'Yes, 24000 L' }).waitFor();
	await page.fill('#quick', 'bench tank +2.5 L rain');
	await page.press('#quick', 'Enter');
	await page.locator('[data-said]', { hasText: 'water added 2.5 L, rain' }).waitFor();
	expect(await newest()).toMatchObject({ kind: 'water_added', amount: 2.5, product: 'rain' });
	await page.locator('[data-said]').getByRole('button', { name: 'Undo' }).click();
	await page.locator('[data-said]', { hasText: 'Taken back' }).waitFor();
	expect((await newest())?.amount).not.toBe(2.5);
	await page.close();
});
