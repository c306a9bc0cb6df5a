import type { Locator, Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Answer, type Application, calibrateToday, postJson, startApplication } from '../helpers/application';
import { awake, openBrowser, openPage } from '../helpers/browser';

/** The same day on a desk, each task from the Round and by keys alone: never the mouse, and so few. Common practice, no source. */
let app: Application;
let browser: Awaited<ReturnType<typeof openBrowser>>;
beforeAll(async () => {
	[app, browser] = await Promise.all([startApplication('demo'), openBrowser()]);
	await calibrateToday(app.base);
});
afterAll(async () => {
	await browser.close();
	await app.stop();
});
const list = async (path: string, key: string): Promise<Answer[]> =>
	(await (await fetch(`${app.base}/api/v1${path}`)).json())[key];

/** Two hands on a keyboard. What is typed into a field counts as its characters, each Tab as one. */
class Hands {
	keys = 0;
	constructor(readonly page: Page) {}
	async press(key: string, times = 1): Promise<void> {
		for (let i = 0; i < times; i++) await this.page.keyboard.press(key);
		this.keys += times;
	}
	async type(text: string): Promise<void> {
		await this.page.keyboard.type(text);
		this.keys += text.length;
	}
	/** Tab, or another key, until the focus is there. */
	async to(what: Locator, key = 'Tab', most = 40): Promise<void> {
		await what.waitFor();
		for (let i = 0; i <= most; i++) {
			if (await what.evaluate((el) => el === document.activeElement)) return;
			await this.press(key);
		}
		throw new Error(`The focus did not come there within ${most} keys.`);
	}
	/** A key that leads to another page. */
	async go(key: string, where: RegExp): Promise<void> {
		await this.press(key);
		await this.page.waitForURL(where);
		await awake(this.page);
	}
}
const fromRound = async (): Promise<Hands> => new Hands(await openPage(browser.context, app.base));

describe('from the Round, by keys', () => {
	it('a sound reading that was of another tank: at most twenty', async () => {
		const reading = { station: 'pond', instrument: 'plum', quantity: 'ph', value: '6.21', unit: 'pH' };
		await postJson(app.base, '/readings', reading);
		const hands = await fromRound();
		const { page } = hands;
		await hands.go('l', /ledger/);
		await page.locator('tr[data-row]').first().waitFor();
		// The newest is where the keys are already.
		await hands.press('Enter');
		await hands.to(page.getByRole('button', { name: 'Correct…' }));
		await hands.press('Enter');
		const at = page.locator('[data-fix]').getByLabel('At');
		await hands.to(at);
		await hands.type('Slabs');
		expect(await at.inputValue()).toBe('slabs');
		await hands.to(page.getByRole('button', { name: 'Correct it' }));
		await hands.press('Enter');
		await page.locator('[data-notice]', { hasText: 'Corrected' }).waitFor();
		expect(hands.keys).toBeLessThanOrEqual(20);
		expect((await list('/readings?station=slabs&limit=1', 'readings'))[0]).toMatchObject({ value: '6.21' });
		await page.close();
	});
	it('an event that never happened: at most fifteen', async () => {
		await postJson(app.base, '/events', { station: 'pond', kind: 'water_added', amount: 7, unit: 'L' });
		const hands = await fromRound();
		const { page } = hands;
		await hands.go('e', /events/);
		await page.locator('[data-event]').first().waitFor();
		await hands.press('j');
		await hands.press('Enter');
		await hands.to(page.getByRole('button', { name: 'take it back' }));
		await hands.press('Enter');
		await page.locator('[data-notice]', { hasText: 'taken back' }).waitFor();
		expect(hands.keys).toBeLessThanOrEqual(15);
		expect((await list('/events?station=pond&order=newest&limit=1', 'events'))[0]).not.toMatchObject({ amount: 7 });
		await page.close();
	});
	it('water added, by the quick line: at most eleven, and one to take it back', async () => {
		const hands = await fromRound();
		const { page } = hands;
		await hands.press('/');
		await hands.type('pond +65L');
		await page.locator('[data-quick]', { hasText: 'water added' }).waitFor();
		await hands.press('Enter');
		await page.locator('[data-said]', { hasText: 'Saved' }).waitFor();
		expect(hands.keys).toBeLessThanOrEqual(11);
		await hands.press('u');
		await page.locator('[data-said]', { hasText: 'Taken back' }).waitFor();
		// That event, and no reading of before.
		expect((await list('/events?station=pond&order=newest&limit=1', 'events'))[0]).not.toMatchObject({ amount: 65 });
		await page.close();
	});
	it('alkalinity by counted drops of a kit that knows its drop: at most thirty', async () => {
		const kit = (await list('/instruments', 'instruments')).find((i: Answer) => i.code === 'kit');
		const knows = { ...kit, per_drop: { alkalinity: { value: 1, unit: 'dKH' } } };
		expect((await postJson(app.base, '/instruments', knows)).status).toBe(201);
		const hands = await fromRound();
		const { page } = hands;
		// The first of the walk is where the arrow goes.
		await hands.to(page.locator('a[data-station=borehole]'), 'j', 3);
		await hands.go('Enter', /bench\?station=borehole/);
		await page.locator('#more').waitFor();
		await hands.to(page.locator('#more'));
		await hands.type('Alk');
		await page.locator('#f-alkalinity').waitFor();
		await hands.to(page.locator('#f-alkalinity'), 'Shift+Tab', 6);
		await hands.type('12 drops');
		await page.locator('#h-alkalinity', { hasText: '12 °dKH' }).waitFor();
		await hands.press('Enter');
		await page.locator('[data-saved]').waitFor();
		expect(hands.keys).toBeLessThanOrEqual(30);
		const [stored] = await list('/readings?station=borehole&quantity=alkalinity&limit=1', 'readings');
		expect(stored).toMatchObject({ value: '12', unit: 'dKH', instrument: 'kit' });
		await page.close();
	});
	it('a laboratory report as it comes', async () => {
		const hands = await fromRound();
		const { page } = hands;
		await page.locator('nav').getByRole('link', { name: 'Water' }).focus();
		await hands.go('Enter', /water/);
		const text = page.locator('#report-text');
		await hands.to(text, 'Tab', 90);
		await page.keyboard.insertText('Nitrate (as N) 5.2 mg/L\nTotal alkalinity 210 mg/L as CaCO3');
		await page.locator('[data-understood="2"]').waitFor();
		const kept = page.waitForResponse((r) => r.url().endsWith('/reports') && r.request().method() === 'POST');
		await hands.to(page.getByRole('button', { name: 'Keep this report' }));
		await hands.press('Enter');
		expect((await kept).status()).toBe(201);
		await page.close();
	});
	it('a pen that broke is retired', async () => {
		const hands = await fromRound();
		const { page } = hands;
		await page.locator('nav').getByRole('link', { name: 'Setup' }).focus();
		await hands.go('Enter', /setup/);
		await hands.to(page.locator('[data-thing="instrument brass"]'), 'j', 25);
		await hands.press('Enter');
		await hands.to(page.locator('[data-retire]'));
		await hands.press('Enter');
		await page.locator('[data-notice]', { hasText: 'Brass is retired' }).waitFor();
		await page.close();
	});
	it('a note with a photo, and the week kept as a file', async () => {
		const hands = await fromRound();
		const { page } = hands;
		await hands.press('/');
		await hands.type('pond note yellow tips');
		await page.locator('[data-quick]', { hasText: 'note' }).waitFor();
		await hands.press('Enter');
		await page.locator('[data-said]', { hasText: 'Saved' }).waitFor();
		await hands.go('e', /events/);
		await page.locator('[data-event]', { hasText: 'yellow tips' }).waitFor();
		await hands.press('j');
		await hands.press('Enter');
		const picker = page.locator('[data-event] input[type=file]');
		await hands.to(picker);
		// Enter opens the browser's own list of files; what is chosen there comes back like this.
		const file = { name: 'leaf.txt', mimeType: 'text/plain', buffer: Buffer.from('yellow') };
		await picker.setInputFiles(file);
		await page.locator('[data-event] [data-attached="1"]').waitFor();
		await hands.go('r', /\/$/);
		await page.getByRole('link', { name: 'The week' }).first().focus();
		await hands.go('Enter', /week/);
		await page.locator('[data-week-photos]', { hasText: 'leaf.txt' }).waitFor();
		const download = page.waitForEvent('download');
		await page.locator('[data-keep-file]').focus();
		await hands.press('Enter');
		expect((await download).suggestedFilename()).toMatch(/^week-/);
		await page.close();
	});
});
