import type { Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import {
	type Answer,
	type Application,
	calibrateToday,
	postJson,
	startApplication,
	stirByHand,
} from '../helpers/application';
import { awake, nothingRunsOff, openBrowser, openPage } from '../helpers/browser';

/** Mixing as growers mix: a feed of three products on a phone, a row of buckets dosed twice by keys. Common practice, no source. */
let app: Application;
beforeAll(async () => {
	app = await startApplication('demo');
	await calibrateToday(app.base);
	for (const n of [1, 2, 3, 4])
		await postJson(app.base, '/stations', {
			code: `bucket-${n}`,
			name: `Bucket ${n}`,
			kind: 'reservoir',
			volume_l: 20,
			mix_minutes: 0,
			ranges: { ph: [5.5, 6.2], ec: [1500, 2500] },
		});
	await stirByHand(app.base);
});
afterAll(() => app.stop());
const list = async (path: string, key: string): Promise<Answer[]> =>
	(await (await fetch(`${app.base}/api/v1${path}`)).json())[key];

describe('a batch of three products, by touch on a phone', () => {
	let browser: Awaited<ReturnType<typeof openBrowser>>;
	beforeAll(async () => {
		browser = await openBrowser({ width: 390, height: 844 });
	});
	afterAll(() => browser.close());
	it('each product in its turn with its own amount, then EC, then pH', async () => {
		const page = await openPage(browser.context, app.base);
		const nav = page.locator('nav.fixed');
		await nav.getByRole('button', { name: 'More' }).click();
		await nav.getByRole('link', { name: 'Mix', exact: true }).click();
		await page.waitForURL(/mix/);
		await awake(page);
		await page.locator('[data-part=batch]').click();
		await page.waitForURL(/part=batch/);
		await awake(page);
		await page.locator('select').first().selectOption('fruiting, through the injector');
		// Silicate keeps its rate; the two salts follow the target.
		await page.locator('[data-pour=silicate]', { hasText: '200 mL' }).waitFor();
		const amount = (await page.locator('[data-pour="calcium nitrate"] strong').textContent())!;
		await page.locator('[data-contents] summary').click();
		await page.locator('[data-contents] tr', { hasText: 'N in all' }).waitFor();
		await nothingRunsOff(page);
		await page.getByRole('button', { name: 'The tank is filled: begin' }).click();
		for (const name of ['silicate', 'calcium nitrate', 'fruit salts'])
			await page.locator('[data-part]', { hasText: `${name} is in` }).click();
		await page.locator('#measure-ec').fill('1.50');
		await page.locator('[data-verdict]').waitFor();
		await page.getByRole('button', { name: 'Enter' }).click();
		const go = page.getByRole('button', { name: 'It is right: go on with it' });
		await Promise.race([page.locator('#measure-ph').waitFor(), go.waitFor()]);
		if (await go.count()) await go.click();
		await page.locator('#measure-ph').waitFor();
		await page.getByRole('button', { name: 'Finish the batch' }).click();
		await page.locator('[data-batch-done]').waitFor();
		const [batch] = await list('/batches', 'batches');
		expect(batch.log.map((s: Answer) => s.step)).toEqual(['part', 'part', 'part', 'ec', 'done']);
		expect(batch.plan.pours.map((p: Answer) => p.product)).toEqual(['silicate', 'calcium nitrate', 'fruit salts']);
		const events = await list('/events?station=mix&kind=nutrient_added', 'events');
		const calcium = events.filter((e: Answer) => e.product === 'calcium nitrate').at(-1);
		expect(Math.round(calcium.amount)).toBe(Number.parseInt(amount, 10));
		// The stock follows.
		const shelf = await list('/products', 'products');
		expect(shelf.find((p: Answer) => p.name === 'calcium nitrate').left_ml).toBeCloseTo(5000 - calcium.amount, 3);
		await page.close();
	});
	it('a product is added from its label, and retired', async () => {
		const page = await openPage(browser.context, `${app.base}/mix?part=products`);
		// An acid does not become a feed by being added once more.
		await page.locator('label', { hasText: 'Add a feed' }).locator('input').fill('pH down');
		await page.keyboard.press('Enter');
		await page.locator('[data-notice]', { hasText: 'pH down is there already' }).waitFor();
		expect((await list('/products', 'products')).find((p: Answer) => p.name === 'pH down').kind).toBe('acid');
		await page.getByLabel('Add a feed').fill('bean feed');
		await page.keyboard.press('Enter');
		const form = page.locator('[data-product="bean feed"]');
		await form.waitFor();
		await form.getByLabel(/label’s rate/).fill('2 g/L');
		await form.getByLabel(/what the label says/).fill('N 10 %, P2O5 5 %, K2O 20 %, moonlight 3 %');
		await form.locator('[data-label-read="1"]', { hasText: '“moonlight 3 %” names nothing known here' }).waitFor();
		await form.getByRole('button', { name: 'Save' }).click();
		await page.locator('[data-notice]', { hasText: 'bean feed is kept' }).waitFor();
		await page.locator('[data-says]', { hasText: 'By its label it brings about' }).waitFor();
		await page.locator('[data-retire]').click();
		await page.locator('[data-notice]', { hasText: 'is retired' }).waitFor();
		await page.locator('[data-retired]', { hasText: 'Retired: 1' }).waitFor();
		await page.locator('[data-part=batch]').click();
		await page.waitForURL(/part=batch/);
		await awake(page);
		expect(await page.locator('[data-feed] option', { hasText: 'bean feed' }).count()).toBe(0);
		await page.close();
	});
});

describe('a row of four buckets, by keys', () => {
	let browser: Awaited<ReturnType<typeof openBrowser>>;
	let page: Page;
	beforeAll(async () => {
		browser = await openBrowser({ width: 1280, height: 800 });
		page = await openPage(browser.context, `${app.base}/mix?part=tanks`);
	});
	afterAll(() => browser.close());
	it.each([1, 2, 3, 4])('bucket %i: fed once, dosed twice, read after each', async (n) => {
		const row = page.locator(`[data-tank=bucket-${n}]`);
		const typed = async (quantity: 'ec' | 'ph', value: string) => {
			await row.locator(`#measure-${quantity}`).focus();
			await page.keyboard.type(value);
			await row.locator('[data-verdict]').waitFor();
			await page.keyboard.press('Enter');
		};
		await row.locator('[data-ec=read] summary').focus();
		await page.keyboard.press('Enter');
		await typed('ec', '1.20');
		const feed = row.locator('[data-ec=step]');
		await feed.waitFor();
		expect(await feed.textContent()).toContain('of each of 2 bottles');
		await row.locator('[data-ec=step] button', { hasText: 'In' }).focus();
		await page.keyboard.press('Enter');
		await row.locator('[data-ec=waiting]').waitFor();
		await typed('ec', '1.80');
		await row.locator('[data-ec=leave]').waitFor();
		for (const [before, after] of [
			['6.90', '6.70'],
			['', '6.45'],
		] as const) {
			if (before) {
				await row.getByRole('button', { name: `read Bucket ${n}` }).focus();
				await page.keyboard.press('Enter');
				await typed('ph', before);
			}
			await row.locator('[data-does=dose]').waitFor();
			await row.locator('[data-does=dose] input').focus();
			await page.keyboard.press('Enter');
			await row.locator('[data-does=waiting]').waitFor();
			await typed('ph', after);
			await row.locator('[data-told]', { hasText: `It went to ${after}` }).waitFor();
		}
		const events = await list(`/events?station=bucket-${n}`, 'events');
		expect(events.map((e: Answer) => e.kind)).toEqual(['nutrient_added', 'nutrient_added', 'acid_added', 'acid_added']);
	});
	it('what another feeds meanwhile is not fed again: it is read first, there or here', async () => {
		const row = page.locator('[data-tank=bucket-1]');
		const ec = (value: string) =>
			postJson(app.base, '/readings', { station: 'bucket-1', instrument: null, quantity: 'ec', value, unit: 'mS/cm' });
		await ec('1.20');
		await row.locator('[data-ec=step]').waitFor();
		await postJson(app.base, '/events', {
			station: 'bucket-1',
			kind: 'nutrient_added',
			amount: 30,
			unit: 'mL',
			product: 'feed A and B',
		});
		await row.locator('[data-ec=read]', { hasText: 'Something was poured in or drained since' }).waitFor();
		await page.reload();
		await awake(page);
		await row.locator('[data-ec=read]', { hasText: 'Something was poured in or drained since' }).waitFor();
		await ec('1.75');
		await row.locator('[data-ec=leave]').waitFor();
	});
});
