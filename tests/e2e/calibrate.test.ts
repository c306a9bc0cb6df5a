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
	it('a bulb that dried out: its hours in solution, then two buffers, and what became of its slope', async () => {
		const HOUR = 3_600_000;
		const log = async (instrument: string, kind: string, hoursAgo: number) => {
			const time = new Date(Date.now() - hoursAgo * HOUR).toISOString();
			const logged = await postJson(app.base, '/probe-events', { instrument, quantity: 'ph', kind, time });
			expect(logged.status).toBe(201);
		};
		await log('plum', 'dried_out', 20);
		const page = await open('/probes/plum/ph');
		await page.locator('[data-rehydration=dry] [data-soak]').click();
		await page.locator('[data-rehydration=soaking]', { hasText: 'it can be dipped, best from' }).waitFor();
		await page.close();
		// Of another the night is over.
		await log('brass', 'dried_out', 20);
		await log('brass', 'rehydrated', 14);
		const next = await open('/probes/brass/ph');
		await next.locator('[data-rehydration=ready] a', { hasText: 'calibrate' }).waitFor();
		const slope = Number(/Slope before ([\d.]+) %/.exec((await next.locator('[data-rehydration]').textContent())!)![1]);
		const dip = (standard: string, nominal: number, found: number) => ({
			standard,
			nominal,
			as_found: found,
			as_left: nominal,
		});
		const three = 3 * (slope - 8) * 0.01;
		const done = await postJson(app.base, '/calibrations', {
			instrument: 'brass',
			quantity: 'ph',
			kind: 'adjust',
			temp_c: 25,
			points: [dip('pH 7.00', 7, 7), dip('pH 4.01', 4, Number((7 - three).toFixed(2)))],
		});
		expect(done.status).toBe(201);
		await next.reload();
		await next.locator('[data-rehydration=done]', { hasText: 'weaker than before: soak it another night' }).waitFor();
		await next.close();
	});
});
