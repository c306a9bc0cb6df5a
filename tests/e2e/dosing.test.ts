import type { BrowserContext, Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { aeratedDay } from '../helpers/aerated-day';
import { type Application, postJson, startApplication } from '../helpers/application';
import { awake, expectAccessible, nothingRunsOff, openBrowser, openPage } from '../helpers/browser';

/** A tank with an air stone through a day, in the real interface, on an installation that holds nothing else. */
let app: Application;
let browser: { context: BrowserContext; close: () => Promise<void> };
const HOUR = 3_600_000;
const at = (hoursAgo: number) => new Date(Date.now() - hoursAgo * HOUR).toISOString();
const post = async (path: string, body: unknown): Promise<void> => {
	const { status, body: said } = await postJson(app.base, path, body);
	if (status > 201) throw new Error(`${path}: ${status} ${JSON.stringify(said)}`);
};
const reading = (station: string, quantity: 'ph' | 'ec', value: string, hoursAgo: number) =>
	post('/readings', {
		time: at(hoursAgo),
		station,
		instrument: null,
		quantity,
		value,
		unit: quantity === 'ph' ? 'pH' : 'mS/cm',
	});
beforeAll(async () => {
	[app, browser] = await Promise.all([startApplication('empty'), openBrowser()]);
	await fetch(`${app.base}/api/v1/site`, {
		method: 'PUT',
		headers: { 'content-type': 'application/json' },
		body: JSON.stringify({ name: 'Saltmarsh Yard', timezone: 'Europe/Amsterdam' }),
	});
	await post('/systems', { code: 'pond', name: 'Pond', kind: 'raft_pond', volume_l: 100, aeration: 'air stone' });
	await post('/stations', { code: 'borehole', name: 'Borehole', kind: 'source' });
	await post('/stations', {
		code: 'pond',
		name: 'Pond',
		kind: 'reservoir',
		system: 'pond',
		volume_l: 100,
		ranges: { ph: [5.5, 6.5] },
	});
	await aeratedDay(post, 'pond', 'pH down');
});
afterAll(async () => {
	await browser.close();
	await app.stop();
});

describe('the evening of a tank that was brought to target in the morning', () => {
	let page: Page;
	it('is advised a small step, told why it is small, and what the night will do', async () => {
		page = await openPage(browser.context, `${app.base}/mix`);
		await page.locator('[data-dose=dose]').waitFor();
		const ml = Number(await page.inputValue('#dose-ml'));
		// Advised once on this very story: 26.7 mL, 2.0 meq/L, where half an equivalent was wanted.
		expect((ml * 7.48) / 100).toBeLessThanOrEqual(0.3 + 0.01);
		expect(ml).toBeGreaterThan(0);
		const words = (await page.locator('[data-dose]').textContent())!;
		expect(words).toMatch(/carbon dioxide has left/);
		await page.locator('[data-afterwards] [data-later=day]').waitFor();
		await page.locator('[data-alkalinity-left]').waitFor();
		await page.locator('summary', { hasText: 'earlier doses' }).click();
		await page.locator('table [data-open-reading]').last().click();
		await page.locator('[data-reading-dialog]', { hasText: 'Pond' }).waitFor();
		await page.keyboard.press('Escape');
		await expectAccessible(page);
	});
	it('is withdrawn where somebody else has poured meanwhile, on whatever page, and says so', async () => {
		const other = await openPage(browser.context, `${app.base}/mix`);
		await other.locator('[data-dose=dose]').waitFor();
		const { body } = await postJson(app.base, '/events', {
			station: 'pond',
			kind: 'acid_added',
			amount: 1,
			unit: 'mL',
			product: 'pH down',
		});
		for (const p of [page, other]) {
			await p.locator('[data-dose=wait] [data-dose-says]', { hasText: 'has not mixed yet' }).waitFor();
			await p.locator('[data-told]', { hasText: 'Something was entered for this tank meanwhile' }).waitFor();
			expect(await p.locator('#dose-ml').count()).toBe(0);
		}
		await other.close();
		// It was another tank after all: what was advised holds again.
		await post(`/events/${body.id}/withdrawal`, { withdrawn: true, reason: 'another tank' });
		await page.reload();
		await page.locator('[data-dose=dose]').waitFor();
	});
	it('is asked for anew when it has stood there for long, and is no advice where nobody answers', async () => {
		// A clock that is moved is moved in the whole window.
		const own = await openBrowser();
		const old = await own.context.newPage();
		await old.clock.install();
		await old.goto(`${app.base}/mix`);
		await old.locator('[data-dose=dose]').waitFor();
		await old.fill('#dose-ml', '2.5');
		const again = old.waitForResponse((r) => r.url().endsWith('/mix/dose'));
		await old.clock.fastForward('06:00');
		await again;
		// The same as before: what is being typed stays.
		await old.locator('[data-dose=dose]').waitFor();
		expect(await old.inputValue('#dose-ml')).toBe('2.5');
		await old.route('**/mix/dose', (route) => route.abort());
		await old.clock.fastForward('06:00');
		await expect
			.poll(async () => {
				// Between its tries the client waits.
				await old.clock.fastForward(2000);
				return old.locator('#dose-ml').count();
			})
			.toBe(0);
		await own.close();
	});
	it('by keyboard: poured, counted down while it mixes; a pH read at once waits, and nothing more is advised on it', async () => {
		await page.locator('#dose-ml').focus();
		await page.keyboard.press('Enter');
		await page.locator('[data-dose=waiting] [data-mixing=waiting]', { hasText: 'still' }).waitFor();
		await page.locator('#measure-ph').focus();
		await page.keyboard.type('6.58');
		await page.keyboard.press('Enter');
		await page.locator('[data-dose=wait] [data-dose-says]', { hasText: 'has not mixed yet' }).waitFor();
		await page.locator('[data-dose=wait] [data-mixing=waiting]').waitFor();
		expect(await page.locator('#dose-ml').count()).toBe(0);
		await page.close();
	});
	it('the wait and the limits of the tank are the grower’s, in Setup; on a phone nothing runs off the side', async () => {
		page = await openPage(browser.context, `${app.base}/setup`);
		await page.click('[data-thing="station pond"]');
		await page.locator('[data-dosing=pond] summary').click();
		const wait = page.locator('[data-dosing=pond] label', { hasText: 'Minutes a dose wants to mix' }).locator('input');
		await wait.fill('0');
		const kept = page.waitForResponse((r) => r.url().endsWith('/stations') && r.request().method() === 'POST');
		await wait.press('Enter');
		expect((await kept).status()).toBe(201);
		await page.setViewportSize({ width: 360, height: 780 });
		await page.goto(`${app.base}/mix`);
		await awake(page);
		// Stirred by hand, the reading of a moment ago counts.
		await page.locator('[data-dose=dose], [data-dose=nothing]').waitFor();
		await nothingRunsOff(page);
		await page.close();
	});
});

describe('water with nothing in it', () => {
	it('gets no dose, and the word what to do instead', async () => {
		await post('/stations', {
			code: 'drum',
			name: 'Drum',
			kind: 'reservoir',
			volume_l: 50,
			ranges: { ph: [5.5, 6.5] },
		});
		await reading('drum', 'ec', '0.05', 0.1);
		await reading('drum', 'ph', '7.10', 0.1);
		const page = await openPage(browser.context, `${app.base}/mix`);
		await page.selectOption('section select >> nth=0', 'drum');
		await page.locator('[data-dose=refuse] [data-dose-says]', { hasText: 'Feed it first' }).waitFor();
		await page.close();
	});
});
