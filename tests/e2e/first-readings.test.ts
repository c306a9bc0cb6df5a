import type { BrowserContext, Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Application, calibrateToday, postJson, startApplication } from '../helpers/application';
import { awake, openBrowser, openPage } from '../helpers/browser';

let app: Application;
let browser: { context: BrowserContext; close: () => Promise<void> };
beforeAll(async () => {
	[app, browser] = await Promise.all([startApplication('demo'), openBrowser()]);
	await calibrateToday(app.base);
});
afterAll(async () => {
	await browser.close();
	await app.stop();
});

/** Types and counts every key, as a person's fingers would. */
function counting(page: Page) {
	let keys = 0;
	return {
		type: async (text: string) => {
			keys += text.length;
			await page.keyboard.type(text);
		},
		press: async (key: string) => {
			keys += 1;
			await page.keyboard.press(key);
		},
		keys: () => keys,
	};
}
const open = (path: string): Promise<Page> => openPage(browser.context, app.base + path);

describe('a reading from keys to file', () => {
	it('Bench: 12 keys from anywhere, the verdict before saving, then the ledger, the line and the CSV', async () => {
		const page = await open('/?');
		const hands = counting(page);
		await hands.press('b');
		await page.waitForURL('**/bench');
		await page.locator('#f-ph:focus').waitFor();
		await hands.type('742');
		await hands.press('Tab');
		await hands.type('870');
		await page.locator('[data-verdict=ph][data-flag="1"]').waitFor();
		await page.locator('[data-verdict=ec][data-flag="1"]').waitFor();
		await hands.press('Tab');
		await hands.type('12');
		await page.locator('[data-verdict=temp][data-flag="1"]').waitFor();
		await hands.press('Enter');
		await page.locator('[data-saved]').waitFor();
		expect(hands.keys()).toBeLessThanOrEqual(12);
		await page.goto(`${app.base}/ledger`);
		await page.locator('tr[data-row]').filter({ hasText: 'Borehole' }).filter({ hasText: '7.42' }).first().waitFor();
		await page.goto(app.base);
		await page.locator('li').filter({ hasText: 'Borehole' }).filter({ hasText: '7.42' }).first().waitFor();
		const csv = await (
			await fetch(`${app.base}/api/v1/readings?station=borehole`, { headers: { accept: 'text/csv' } })
		).text();
		expect(
			csv
				.trim()
				.split('\n')
				.slice(-3)
				.map((l) => l.split(',').slice(3, 6).join(' ')),
		).toEqual(['ph 7.42 pH', 'ec 0.870 mS/cm', 'temp 12 C']);
		await page.close();
	});
	it('Bench offers the one-key fix for a slip', async () => {
		const page = await open('/bench?station=slabs');
		await page.fill('#f-ph', '61.3');
		await page.locator('[data-verdict=ph][data-cause=decimal-slip]').waitFor();
		await page.keyboard.press('f');
		await page.locator('[data-verdict=ph][data-flag="1"]').waitFor();
		expect(await page.inputValue('#f-ph')).toBe('6.13');
		await page.fill('#f-ph', '');
		await page.close();
	});
	it('the quick line takes pond ph 5.8 ec 1.92 t 21.4, saves, undoes, and the history shows it', async () => {
		const page = await open('/ledger?station=pond');
		await page.locator('tr[data-row]').first().waitFor();
		await page.keyboard.press('/');
		await page.keyboard.type('pond ph 6.1 ec 2.02 t 23');
		await page.locator('[data-quick] [data-verdict=ph][data-flag="1"]').waitFor();
		await page.locator('[data-quick] [data-verdict=ec][data-flag="1"]').waitFor();
		await page.keyboard.press('Enter');
		await page.locator('[data-said]').filter({ hasText: 'Saved: Pond' }).waitFor();
		await page.locator('tr[data-row]').filter({ hasText: '6.10' }).first().waitFor();
		await page.keyboard.press('u');
		await page.locator('[data-said]').filter({ hasText: 'Taken back' }).waitFor();
		await page.locator('label').filter({ hasText: 'also corrected' }).locator('input').check();
		await page.locator('tr[data-row].line-through').first().waitFor();
		await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
		await page.keyboard.press('Enter');
		await page.locator('[data-history]').filter({ hasText: 'taken back' }).waitFor();
		await page.close();
	});
	it('several lines pasted at once are several samples; what is ambiguous is asked', async () => {
		const page = await open('/');
		await page.fill('#quick', 'mix 5.8 1.9\nslabs ph 6.1\ngutters 6.4');
		await page.locator('[data-quick]').filter({ hasText: 'Gutters feed or Gutters drain' }).waitFor();
		expect(await page.locator('[data-quick] button').filter({ hasText: 'Save' }).isDisabled()).toBe(true);
		await page.fill('#quick', 'mix 5.8 1.9\nslabs ph 6.1');
		await page.keyboard.press('Enter');
		await page.locator('[data-said]').filter({ hasText: 'Saved: Mix tank, Slabs tank' }).waitFor();
		await page.close();
	});
	it('a doubtful reading is decided from Round', async () => {
		const page = await open('/');
		const first = page.locator('[data-decide]').first();
		const id = await first.getAttribute('data-decide');
		await first.locator('button').filter({ hasText: /^Take/ }).click();
		await page.locator(`[data-decide="${id}"]`).waitFor({ state: 'detached' });
		const history = await (await fetch(`${app.base}/api/v1/readings/${id}/history`)).json();
		expect(history.readings.map((r: { superseded: boolean }) => r.superseded)).toEqual([true, false]);
		await page.close();
	});

	it('Round shows what somebody else entered, and stands where it was', async () => {
		const page = await open('/');
		await page.focus('a[data-station=gutters-feed]');
		const entered = await postJson(app.base, '/readings', {
			station: 'gutters-feed',
			quantity: 'ph',
			value: '5.83',
			unit: 'pH',
		});
		const { id } = entered.body.samples[0].readings[0];
		await page.locator(`[data-open-reading="${id}"]`).waitFor();
		expect(await page.evaluate(() => document.activeElement?.getAttribute('data-station'))).toBe('gutters-feed');
		await page.close();
	});
});

describe('from an empty installation', () => {
	it('sets up by keyboard alone and takes a first reading', async () => {
		const empty = await startApplication('empty');
		const page = await browser.context.newPage();
		try {
			await page.goto(empty.base);
			await page.waitForURL('**/setup');
			await page.locator('#s-site').waitFor();
			await page.waitForTimeout(500);
			await page.focus('#s-site');
			await page.keyboard.type('Back yard');
			// Every answer is there already: Enter is enough.
			await page.keyboard.press('Enter');
			await page.waitForURL('**/bench?station=tank');
			await page.locator('#f-ph:focus').waitFor();
			await page.keyboard.type('6.1');
			await page.keyboard.press('Tab');
			await page.keyboard.type('1.2');
			await page.keyboard.press('Enter');
			await page.locator('[data-saved]').filter({ hasText: 'Tank saved' }).waitFor();
		} finally {
			await page.close();
			await empty.stop();
		}
	});
});

describe('when the database goes away', () => {
	it('the page says so, keeps what was typed, and sends it when it is back', async () => {
		const { freshDatabase } = await import('../helpers/database');
		const { createServer, connect } = await import('node:net');
		// A door in front of the real PostgreSQL that can be shut and opened.
		const real = new URL(await freshDatabase('demo'));
		const sockets = new Set<import('node:net').Socket>();
		let shut = false;
		const door = createServer((socket) => {
			if (shut) {
				socket.destroy();
				return;
			}
			const through = connect(Number(real.port), real.hostname);
			for (const s of [socket, through]) {
				sockets.add(s);
				s.on('error', () => {});
				s.on('close', () => {
					sockets.delete(s);
					socket.destroy();
					through.destroy();
				});
			}
			socket.pipe(through).pipe(socket);
		});
		await new Promise<void>((resolve) => door.listen(0, '127.0.0.1', resolve));
		const address = door.address();
		const url = new URL(real);
		url.port = String(typeof address === 'object' && address ? address.port : 0);
		const own = await startApplication({ databaseUrl: url.href });
		const page = await browser.context.newPage();
		try {
			await page.goto(`${own.base}/bench?station=pond`);
			await awake(page);
			await page.fill('#f-ph', '6.12');
			shut = true;
			for (const s of sockets) s.destroy();
			await page.keyboard.press('Enter');
			await page.locator('[data-kept="1"]').waitFor();
			expect((await fetch(`${own.base}/`)).status).toBe(503);
			shut = false;
			await page.locator('[data-said]').filter({ hasText: 'stored now' }).waitFor();
			const { readings } = await (await fetch(`${own.base}/api/v1/readings?station=pond&limit=1`)).json();
			expect(readings[0].value).toBe('6.12');
		} finally {
			await page.close();
			await own.stop();
			for (const s of sockets) s.destroy();
			door.close();
		}
	});
});
