import type { BrowserContext, Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Application, postJson, startApplication } from '../helpers/application';
import { awake, openBrowser, openPage } from '../helpers/browser';

let app: Application;
let browser: { context: BrowserContext; close: () => Promise<void> };
beforeAll(async () => {
	[app, browser] = await Promise.all([startApplication('demo'), openBrowser()]);
});
afterAll(async () => {
	await browser.close();
	await app.stop();
});
const open = (path: string): Promise<Page> => openPage(browser.context, app.base + path);

describe('calibrating', () => {
	it('a whole guided calibration by keyboard, the verdict, the report; withdrawn, all comes back', async () => {
		const page = await open('/probes/brass/ph');
		const before = Number(await page.locator('[data-touched]').getAttribute('data-touched'));
		await page.keyboard.press('c');
		await page.waitForURL('**/calibrate');
		await page.locator('#c-temp:focus').waitFor();
		// The probe that wants its buffer most is chosen already.
		await page.locator('form').filter({ hasText: 'Brass, pH' }).waitFor();
		await page.keyboard.type('20');
		await page.locator('[data-nominal="0"]').filter({ hasText: '7.02' }).waitFor();
		await page.keyboard.press('Tab');
		await page.keyboard.press('Tab');
		await page.keyboard.type('7,5');
		await page.locator('[data-live=fail]').waitFor();
		await page.keyboard.press('Tab');
		await page.keyboard.press('Tab');
		await page.keyboard.press('Tab');
		await page.keyboard.type('4.5');
		await page.locator('[data-live=fail]').filter({ hasText: 'slope' }).waitFor();
		await page.keyboard.press('Enter');
		await page.locator('[data-outcome]').waitFor();
		await page
			.locator('[data-before]')
			.filter({ hasText: /too high, slope \d/ })
			.waitFor();
		expect(Number(await page.locator('[data-restated]').getAttribute('data-restated'))).toBeGreaterThan(3);
		await page.locator('a').filter({ hasText: 'See what changed' }).press('Enter');
		await page.waitForURL('**/probes/brass/ph');
		const during = Number(await page.locator('[data-touched]').getAttribute('data-touched'));
		// Some were told to be off before it, by the pen beside it.
		expect(during).toBeGreaterThanOrEqual(before);
		await page.locator('[data-turned] svg[role=img]').first().waitFor();
		await awake(page);
		await page.locator('[data-calibration] button').first().press('Enter');
		await page.locator('[data-said-probe]').filter({ hasText: 'Withdrawn' }).waitFor();
		expect(Number(await page.locator('[data-touched]').getAttribute('data-touched'))).toBe(before);
		await page.close();
	});
	it('asks when the bottle looks wrong, and times the settling across a reload', async () => {
		const page = await open('/calibrate?instrument=plum&quantity=ph');
		await page.fill('#c-temp', '25');
		await page.fill('#c-found-0', '4.05');
		await page
			.locator('[role=alert]')
			.filter({ hasText: /is this your .*\(pH 4\.01\)/ })
			.waitFor();
		await page.locator('button').filter({ hasText: /^Yes/ }).click();
		await page.locator('[data-nominal="0"]').filter({ hasText: '4.01' }).waitFor();
		await page.locator('button').filter({ hasText: 'Time the settling' }).click();
		await page.waitForTimeout(1200);
		await page.reload();
		await page
			.locator('button')
			.filter({ hasText: /[1-9]\d* s · it has settled/ })
			.waitFor();
		expect(await page.inputValue('#c-found-0')).toBe('4.05');
		await page.close();
	});
	it('two instruments on one sample: Bench says whether they agree, and which to dip', async () => {
		for (const [instrument, daysAgo] of [
			['plum', 1],
			['brass', 6],
		] as const)
			await postJson(app.base, '/calibrations', {
				instrument,
				quantity: 'ph',
				kind: 'check',
				temp_c: 20,
				time: new Date(Date.now() - daysAgo * 864e5).toISOString(),
				points: [{ standard: 'pH 7.00', as_found: 7.02 }],
			});
		const page = await open('/bench?station=pond');
		await page.fill('#f-ph', '6.2');
		await page.locator('button').filter({ hasText: 'Second opinion' }).click();
		await page.selectOption('#instrument', 'plum');
		await page.selectOption('#instrument2', 'brass');
		await page.fill('#f-2ph', '6.3');
		await page.locator('[data-zeta=agree]').filter({ hasText: 'together' }).waitFor();
		await page.fill('#f-2ph', '8.9');
		await page.locator('[data-zeta=unacceptable]').filter({ hasText: 'Dip Brass in the 7' }).waitFor();
		await page.close();
	});
	it('the ledger explains where an uncertainty comes from', async () => {
		const page = await open('/ledger?quantity=ph');
		await page.locator('tr[data-row]').filter({ hasText: 'restated' }).first().click();
		await page
			.locator('[data-explain]')
			.filter({ hasText: 'the probe’s error' })
			.filter({ hasText: 'Read as' })
			.waitFor();
		await page.locator('[data-evidence]').filter({ hasText: 'by that alone its error was' }).waitFor();
		await page.close();
	});
});
