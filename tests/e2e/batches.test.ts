import type { BrowserContext, Page } from 'playwright-core';
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

/** Batches with a name, the other school, what a doubt does to a step, several tanks, and the first batch of a new grower. */
let app: Application;
let browser: { context: BrowserContext; close: () => Promise<void> };
beforeAll(async () => {
	[app, browser] = await Promise.all([startApplication('demo'), openBrowser()]);
	await calibrateToday(app.base);
	await stirByHand(app.base);
});
afterAll(async () => {
	await browser.close();
	await app.stop();
});
const open = (path: string): Promise<Page> => openPage(browser.context, app.base + path);
const batches = async (): Promise<Answer[]> => (await (await fetch(`${app.base}/api/v1/batches`)).json()).batches;

/** Types a value where the step asks for it. */
async function measure(page: Page, quantity: 'ec' | 'ph', value: string): Promise<void> {
	await page.locator(`#measure-${quantity}`).focus();
	await page.keyboard.type(value);
	await page.locator('[data-verdict]').waitFor();
	await page.keyboard.press('Enter');
}
async function pourParts(page: Page): Promise<void> {
	for (const letter of ['A', 'B']) {
		await page.locator('[data-part]', { hasText: `Part ${letter} is in` }).focus();
		await page.keyboard.press('Enter');
		await page.locator('[data-so-far] li', { hasText: `part ${letter}` }).waitFor();
	}
}

describe('a recipe, by keyboard', () => {
	let page: Page;
	it('is kept, and mixed from', async () => {
		page = await open('/mix?part=batch');
		await page.fill('#batch-litres', '500');
		await page.locator('#recipe-name').focus();
		await page.keyboard.type('winter leaf');
		await page.keyboard.press('Enter');
		await page.locator('option', { hasText: 'winter leaf' }).waitFor({ state: 'attached' });
		await page.goto(`${app.base}/mix?part=recipes`);
		await awake(page);
		await page.locator('[data-recipe="winter leaf"]').waitFor();
		const at100 = await page.locator('[data-recipe="winter leaf"] strong').first().textContent();
		await page.fill('#recipe-litres', '1000');
		const at1000 = await page.locator('[data-recipe="winter leaf"] strong').first().textContent();
		expect(Number.parseFloat(at1000!) / Number.parseFloat(at100!)).toBeCloseTo(10, 0);
		await page.locator('[data-recipe="winter leaf"] a', { hasText: 'mix it' }).click();
		await page.waitForURL(/part=batch/);
		await awake(page);
		await page.locator('[data-batch-plan]').waitFor();
		await page.locator('#batch-litres').focus();
		await page.keyboard.press('Enter');
		await pourParts(page);
	});
	it('goes on where it was after its page was closed', async () => {
		// In the middle, as a phone in a wet pocket is.
		await page.close();
		page = await open('/mix?part=batch');
		await page.locator('[data-open-batch]', { hasText: 'winter leaf' }).locator('button', { hasText: 'Go on' }).click();
		await page.locator('[data-batch-run=ec]').waitFor();
		await measure(page, 'ec', '1.90');
		await measure(page, 'ph', '5.80');
		await page.locator('[data-dose=nothing]').waitFor();
		await page.locator('button', { hasText: 'Finish the batch' }).click();
		await page.locator('[data-batch-done]').waitFor();
	});
	it('the next batch in the same page begins from its own measurements, and the two are compared', async () => {
		await page.locator('button', { hasText: 'Another batch' }).click();
		await page.locator('[data-batch-plan]').waitFor();
		await page.locator('select').first().selectOption('winter leaf');
		await page.locator('#batch-litres').focus();
		await page.keyboard.press('Enter');
		await pourParts(page);
		await page.locator('#measure-ec').waitFor();
		expect(await page.locator('[data-correction]').count()).toBe(0);
		await page.locator('#measure-ec').fill('1.70');
		await page.locator('[data-aim=off]', { hasText: '11 % below what water and feed should give' }).waitFor();
		await page.locator('#measure-ec').fill('');
		await measure(page, 'ec', '1.70');
		await page.locator('[data-correction=feed]', { hasText: 'Add more, stirred in between' }).waitFor();
		await page.locator('[data-leave]').click();
		await page.locator('#measure-ph').waitFor();
		expect(await page.locator('[data-dose]').count()).toBe(0);
		await measure(page, 'ph', '5.80');
		await page.locator('[data-dose=nothing]').waitFor();
		await page.locator('button', { hasText: 'Finish the batch' }).click();
		await page.locator('[data-differences]', { hasText: 'The feed raised EC by' }).waitFor();
		const [second, first] = await batches();
		expect(first.plan.recipe).toBe('winter leaf');
		expect(second.log.map((s: Answer) => s.step)).toEqual(['part', 'part', 'ec', 'next', 'ph', 'done']);
		await page.close();
	});
	it('two people at one tank: what one pours the other sees, and is not asked for again', async () => {
		const [one, two] = [await open('/mix?part=batch'), await open('/mix?part=batch')];
		await one.locator('#batch-litres').focus();
		await one.keyboard.press('Enter');
		await one.locator('[data-batch-run=parts]').waitFor();
		// Whoever was about to fill the same tank sees that it is filled.
		await two.locator('[data-open-batch] button', { hasText: 'Go on' }).click();
		await two.locator('[data-part]', { hasText: 'Part A is in' }).waitFor();
		await pourParts(one);
		await two.locator('[data-batch-run=ec]').waitFor();
		await two.close();
		await one.close();
	});
	it('and what one measures takes the other on; the one who finishes it finishes it for both', async () => {
		const [one, two] = [await open('/mix?part=batch'), await open('/mix?part=batch')];
		for (const page of [one, two]) await page.locator('[data-open-batch] button', { hasText: 'Go on' }).click();
		await one.locator('#measure-ec').waitFor();
		await two.locator('[data-batch-run=ec]').waitFor();
		await measure(one, 'ec', '1.90');
		await two.locator('[data-batch-run=ph]').waitFor();
		await two.locator('button', { hasText: 'Finish the batch' }).click();
		await two.locator('[data-batch-done]').waitFor();
		await one.locator('[data-batch-done]').waitFor();
		await two.close();
		await one.close();
	});
	it('a step that the page hears of before its answer comes is taken once, and the next one is asked for', async () => {
		const page = await open('/mix?part=batch');
		// So with its beginning: it stands under way before the page knows that it is its own.
		await page.route('**/api/v1/batches', async (route) => {
			if (route.request().method() !== 'POST') return route.continue();
			const response = await route.fetch();
			await page.locator('[data-open-batch]').waitFor();
			await route.fulfill({ response });
		});
		await page.locator('#batch-litres').focus();
		await page.keyboard.press('Enter');
		await page.locator('[data-batch-run=parts]').waitFor();
		await page.unroute('**/api/v1/batches');
		expect(await page.locator('[data-open-batch]').count()).toBe(0);
		// The answer to the first step is held until the list of batches, which tells of it too, is in the page.
		const told = page.waitForResponse((r) => r.url().endsWith('/api/v1/batches') && r.request().method() === 'GET');
		await page.route('**/batches/*/steps', async (route) => {
			const response = await route.fetch();
			await told;
			await page.locator('[data-so-far] li', { hasText: 'part A' }).waitFor();
			await route.fulfill({ response });
		});
		await page.locator('[data-part]', { hasText: 'Part A is in' }).click();
		await page.locator('[data-part]:enabled', { hasText: 'Part B is in' }).waitFor();
		await page.unroute('**/batches/*/steps');
		expect(await page.locator('[data-so-far] li', { hasText: 'part A' }).count()).toBe(1);
		await page.locator('[data-part]', { hasText: 'Part B is in' }).click();
		await page.locator('[data-batch-run=ec]').waitFor();
		const [newest] = await batches();
		expect(newest.log.map((s: Answer) => s.step)).toEqual(['part', 'part']);
		await page.close();
		await postJson(app.base, `/batches/${newest.id}/steps`, { step: 'done', words: 'closed', follows: 2 });
	});
	it('the school that sets pH first: the water, the feed, and pH once more, with the reason', async () => {
		const page = await open('/mix?part=batch');
		await page.locator('label', { hasText: /^pH/ }).locator('select').last().selectOption('first');
		await page.locator('p', { hasText: 'Feeds then pull it down again' }).waitFor();
		await page.locator('#batch-litres').focus();
		await page.keyboard.press('Enter');
		await page.locator('[data-batch-run=water-ph]', { hasText: 'done again at the end' }).waitFor();
		await measure(page, 'ph', '7.20');
		await page.locator('[data-dose=dose] [data-caution]', { hasText: 'Acid into water' }).waitFor();
		await page.locator('[data-next]').click();
		await pourParts(page);
		await measure(page, 'ec', '1.90');
		await page.locator('[data-batch-run=ph]', { hasText: 'pulled it down' }).waitFor();
		await measure(page, 'ph', '5.82');
		await page.locator('[data-dose=nothing]').waitFor();
		await page.locator('button', { hasText: 'Finish the batch' }).click();
		await page.locator('[data-batch-done]').waitFor();
		await page.close();
	});
	it('a slip is seen while it is typed and fixed by one key; a doubtful value holds the step', async () => {
		const page = await open('/mix?part=batch');
		await page.locator('#batch-litres').focus();
		await page.keyboard.press('Enter');
		await pourParts(page);
		await page.locator('#measure-ec').focus();
		await page.keyboard.type('1900mS');
		await page.locator('[data-verdict=ec][data-cause=unit-slip]').waitFor();
		await page.keyboard.press('Enter');
		await page.locator('[data-doubted]', { hasText: 'Read again' }).waitFor();
		await page.locator('[data-batch-run=ec]').waitFor();
		await page.keyboard.press('Control+A');
		await measure(page, 'ec', '1.90');
		await page.locator('[data-batch-run=ph]').waitFor();
		const [batch] = await batches();
		// The slip is in the ledger, not in the batch.
		expect(batch.log.filter((s: Answer) => s.step === 'ec').map((s: Answer) => s.measured)).toEqual([1900]);
		await page.locator('button', { hasText: 'Finish the batch' }).click();
		await page.close();
	});
});

describe('several tanks at once', () => {
	it('a dose each; what was poured and what it did stand in the row', async () => {
		await postJson(app.base, '/readings', {
			station: 'mix',
			instrument: 'plum',
			quantity: 'ph',
			value: '5.90',
			unit: 'pH',
		});
		const page = await open('/mix?part=tanks');
		const row = page.locator('[data-tank=slabs]');
		// What is in its range is left alone: the mixing tank needs nothing.
		await page.locator('[data-tank=mix] [data-does=nothing]', { hasText: 'Leave it' }).waitFor();
		await row.locator('button', { hasText: 'read Slabs tank' }).click();
		await row.locator('#measure-ph').fill('6.50');
		await row.locator('#measure-ph').press('Enter');
		const poured = row.locator('input[aria-label^="Poured"]');
		await poured.waitFor();
		const ml = Number(await poured.inputValue());
		expect(ml).toBeGreaterThan(0);
		await poured.press('Enter');
		await page.locator('[data-tank=slabs] [data-does=waiting]').waitFor();
		await row.locator('#measure-ph').fill('6.10');
		await row.locator('#measure-ph').press('Enter');
		await row.getByText(/It went to 6.10/).waitFor();
		const { events } = await (
			await fetch(`${app.base}/api/v1/events?station=slabs&from=${new Date(Date.now() - 6e5).toISOString()}`)
		).json();
		expect(events.at(-1)).toMatchObject({ kind: 'acid_added', amount: ml, product: 'pH down' });
		await page.close();
	});
	it('a top-up tells EC, pH and the litres that land on the target, and is logged', async () => {
		const page = await open('/mix?part=top-up');
		await page.locator('label', { hasText: 'EC now' }).locator('input').fill('2.2');
		await page.locator('[data-top-up-ec]', { hasText: 'EC comes to' }).waitFor();
		await page.locator('[data-top-up-ph]', { hasText: 'pH comes to about' }).waitFor();
		await page.locator('[data-top-up-litres]', { hasText: 'drain' }).waitFor();
		await page.locator('button', { hasText: 'The water is in: log it' }).click();
		await page.locator('[data-top-up-said]', { hasText: 'Logged' }).waitFor();
		await page.close();
	});
});

describe('a new grower, from nothing', () => {
	let empty: Application;
	beforeAll(async () => {
		empty = await startApplication('empty');
		await fetch(`${empty.base}/api/v1/site`, {
			method: 'PUT',
			headers: { 'content-type': 'application/json' },
			body: JSON.stringify({ name: 'Saltmarsh Yard', timezone: 'Europe/Amsterdam' }),
		});
	});
	afterAll(() => empty.stop());
	it('Water and Mix say what to do first; three small steps later a batch can be mixed on a narrow screen', async () => {
		await postJson(empty.base, '/stations', { code: 'drain', name: 'Drain', kind: 'drain' });
		const page = await openPage(browser.context, `${empty.base}/water`);
		await page.setViewportSize({ width: 390, height: 844 });
		await page.locator('p', { hasText: 'Everything starts with the water' }).waitFor();
		await page.goto(`${empty.base}/mix?part=batch`);
		for (const wants of ['a tank', 'a source', 'a feed']) await page.locator('li', { hasText: wants }).waitFor();
		await postJson(empty.base, '/stations', { code: 'tap', name: 'Tap', kind: 'source' });
		await postJson(empty.base, '/stations', { code: 'bucket', name: 'Bucket', kind: 'reservoir', volume_l: 20 });
		await postJson(empty.base, '/readings', {
			station: 'tap',
			instrument: null,
			quantity: 'ec',
			value: '0.35',
			unit: 'mS/cm',
		});
		await page.goto(`${empty.base}/mix?part=products`);
		await awake(page);
		await page.locator('label', { hasText: 'Add a feed' }).locator('input').fill('leaf base');
		await page.keyboard.press('Enter');
		await page.locator('[data-product="leaf base"]').waitFor();
		await page.locator('[data-product="leaf base"] label', { hasText: 'rate' }).locator('input').fill('10 mL/gal');
		const kept = page.waitForResponse((r) => r.url().endsWith('/products') && r.request().method() === 'POST');
		await page.keyboard.press('Enter');
		await kept;
		await page.locator('p', { hasText: 'leaf base is kept' }).waitFor();
		await page.locator('[data-part=batch]').click();
		await page.waitForURL(/part=batch/);
		await awake(page);
		// Nothing is known of the feed’s gain: it goes by the label, and the EC that comes of it teaches.
		const plan = page.locator('[data-batch-plan]');
		await plan.waitFor();
		expect(await plan.textContent()).toContain('52.8 mL');
		expect(await plan.textContent()).toContain('this batch teaches it');
		await nothingRunsOff(page);
		await page.locator('button', { hasText: 'The tank is filled: begin' }).click();
		await page.locator('[data-part]', { hasText: 'It is in' }).click();
		await measure(page, 'ec', '1.40');
		await measure(page, 'ph', '6.10');
		await page.locator('[data-so-far] li', { hasText: 'pH 6.10' }).waitFor();
		await page.locator('p', { hasText: 'There is no acid or base' }).waitFor();
		await page.locator('button', { hasText: 'Finish the batch' }).click();
		await page.locator('[data-batch-done]').waitFor();
		const { products } = await (await fetch(`${empty.base}/api/v1/products`)).json();
		// (1400 − 350)/2.642 mL/L.
		expect(products[0].learned_gain_us_cm_per_ml_l).toBeCloseTo(397.4, 0);
		await page.close();
	});
});
