import type { BrowserContext, Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { DosingTank } from '@/sim/dosing-world';
import { seeded } from '@/sim/random';
import {
	type Answer,
	type Application,
	calibrateToday,
	postJson,
	startApplication,
	stirByHand,
} from '../helpers/application';
import { awake, expectAccessible, openBrowser, openPage } from '../helpers/browser';

/** Water and Mix in the real interface. The tank that is dosed is simulated chemistry, so that the doses are judged by what they truly do. */
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

describe('Water', () => {
	it('shows that the borehole shifted, confirmed, and when the tiring membrane reaches its limit', async () => {
		const page = await open('/water');
		await page.locator('[data-shift=confirmed]', { hasText: 'from 0.78 to 0.87' }).waitFor();
		await page.locator('[data-source=ro] button').click();
		await page.locator('[data-membrane] [data-reaches]').first().waitFor();
		const words = (await page.locator('[data-membrane]').textContent())!;
		expect(words).toContain('the membrane is tiring');
		await page.close();
	});
	it('tells the acid for the borehole with its caution, blends to a target, and refuses what no blend reaches', async () => {
		const page = await open('/water?source=borehole');
		await page.locator('[data-acid-answer]', { hasText: 'meq/L' }).waitFor();
		await page.locator('[data-acid-tool]', { hasText: 'Gloves and eye protection' }).waitFor();
		await page.locator('[data-blend-answer=yes]').waitFor();
		await page.locator('[data-blend-tool] input').first().fill('2.5');
		await page.locator('[data-blend-answer=no]', { hasText: 'reachable are' }).waitFor();
		await page.close();
	});
	it('reads a pasted report critically before keeping it', async () => {
		const page = await open('/water?source=rain');
		await page.fill('#report-text', 'Ca 80 mg/L\nMg 12\nNa 20\nHCO3 220 mg/L\nCl 30\nSO4 30\npotatoes 4');
		await page.locator('[data-odd=alkalinity-as-caco3]', { hasText: 'write 268 mg/L HCO3' }).waitFor();
		await page.locator('[data-report]', { hasText: 'Line 7' }).waitFor();
		await page.fill(
			'#report-text',
			'calcium 0.11 meq/L\nMg 0.7\nNa 4.5\nalkalinity 12.3 mg/L CaCO3\nCl 7.2\nSO4 3\nEC 0.058 mS/cm\npH 6.3',
		);
		const kept = page.waitForResponse((r) => r.url().endsWith('/reports') && r.request().method() === 'POST');
		await page.locator('button', { hasText: 'Keep this report' }).click();
		await kept;
		await page.locator('[data-report-read]').waitFor();
		const { reports } = await (await fetch(`${app.base}/api/v1/reports?station=rain`)).json();
		expect(reports).toHaveLength(2);
		expect(reports[0].ions.ca_mg_l).toBeCloseTo(2.2, 1);
		expect(reports[0].ec_us_cm).toBeCloseTo(58, 6);
		await page.goto(`${app.base}/water`);
		await awake(page);
		await page.locator('[data-source=rain] button').click();
		expect(page.url()).toContain('source=rain');
		await page.locator('[data-reports="2"]', { hasText: 'one beside the other' }).waitFor();
		await page.close();
	});
});

describe('a whole batch by keyboard', () => {
	let page: Page;
	let doses = 0;
	it('filled and fed part by part; EC comes out too high and is diluted', async () => {
		page = await open('/mix?part=batch');
		const plan = (await page.locator('[data-batch-plan]').textContent())!;
		expect(plan).toContain('of each of 2 parts');
		// By keyboard alone: the first field, then Enter.
		await page.focus('[data-batch] select');
		await page.locator('#batch-litres').focus();
		await page.keyboard.press('Control+A');
		await page.keyboard.type('800');
		await page.keyboard.press('Enter');
		for (const letter of ['A', 'B']) {
			await page.locator('[data-part]', { hasText: `Part ${letter} is in` }).focus();
			await page.locator('p[data-caution]', { hasText: 'Never concentrate on concentrate' }).waitFor();
			await page.keyboard.press('Enter');
		}
		await page.locator('#measure-ec').focus();
		await page.keyboard.type('2.10');
		await page.keyboard.press('Enter');
		await page.locator('[data-correction=dilute]').waitFor();
		await page.locator('[data-correct]').focus();
		await page.keyboard.press('Enter');
		await page.locator('#measure-ec').focus();
		await page.keyboard.type('1.90');
		await page.keyboard.press('Enter');
		await page.locator('#measure-ph').waitFor();
	});
	it('pH is dosed in steps and ends on target', async () => {
		const chance = seeded(42);
		const tank = new DosingTank(
			{
				volumeL: 800,
				// The water and the bottle of the demo’s own batches: what they taught holds here.
				alkalinityMeqL: 4.2,
				phosphateMmolL: 1.2,
				ammoniumMmolL: 0.6,
				tempC: 15,
				productMeqMl: 4.2,
				startPh: 6.9,
			},
			chance,
		);
		await page.locator('#measure-ph').focus();
		await page.keyboard.type(tank.measure().toFixed(2));
		await page.keyboard.press('Enter');
		for (; doses < 7; doses++) {
			await page.locator('[data-dose=dose], [data-dose=nothing]').waitFor();
			if (await page.locator('[data-dose=nothing]').count()) break;
			await page.locator('[data-dose] [data-caution]', { hasText: 'Acid into water' }).waitFor();
			await page.locator('#dose-ml').focus();
			tank.pour(Number(await page.inputValue('#dose-ml')));
			await page.keyboard.press('Enter');
			await page.locator('#measure-ph').focus();
			await page.keyboard.type(tank.measure().toFixed(2));
			await page.keyboard.press('Enter');
			// What stands there instead is what a failure says.
			await expect.poll(() => page.locator('[data-dose]').textContent()).toContain('It went to');
		}
		expect(doses).toBeGreaterThanOrEqual(2);
		expect(Math.abs(tank.ph - 5.8)).toBeLessThan(0.12);
		await page.locator('button', { hasText: 'Finish the batch' }).focus();
		await page.keyboard.press('Enter');
		await page.locator('[data-batch-done]').waitFor();
	});
	it('and is kept, in the Ledger, on the trend, and in the file of events', async () => {
		const { batches } = await (await fetch(`${app.base}/api/v1/batches`)).json();
		expect(batches[0].finished_at).not.toBeNull();
		expect(batches[0].log.filter((s: Answer) => s.step === 'dosed')).toHaveLength(doses);
		await page.goto(`${app.base}/ledger?station=mix`);
		await page.locator('tr[data-row]', { hasText: '1.90' }).first().waitFor();
		await page.goto(`${app.base}/trends?station=mix`);
		await page.locator('ul[aria-label=Events] li', { hasText: /acid/i }).first().waitFor();
		const csv = await (
			await fetch(`${app.base}/api/v1/events?station=mix`, { headers: { accept: 'text/csv' } })
		).text();
		expect(csv).toContain('acid_added');
		expect(csv).toContain('nutrient_added');
		await page.close();
	});
	it('a litre written for a millilitre is asked about, and a doubtful or old reading is not dosed on', async () => {
		const page = await open('/mix');
		await page.locator('[data-part=dose]').waitFor();
		await page.selectOption('section select', 'slabs');
		await page.locator('[data-dose=refuse]', { hasText: 'Read again before dosing' }).waitFor();
		await page.fill('#measure-ph', '6.6');
		await page.keyboard.press('Enter');
		await page.locator('[data-dose=dose]').waitFor();
		await page.fill('#dose-ml', '90000');
		await page.locator('#dose-ml').press('Enter');
		await page.locator('[role=alert]', { hasText: 'litres written for millilitres' }).waitFor();
		await page.close();
	});
	it('a product of unknown strength is tried in a jug, drop by drop', async () => {
		const page = await open('/mix');
		await page.selectOption('section select >> nth=0', 'bench');
		await page.selectOption('section select >> nth=1', 'bicarbonate');
		await page.fill('#measure-ph', '5.5');
		await page.keyboard.press('Enter');
		await page.locator('[data-dose=titrate]').waitFor();
		for (const [drops, ph] of [
			['0', '5.5'],
			['4', '5.7'],
			['8', '5.95'],
		] as const) {
			await page.fill('#jug-drops', drops);
			await page.fill('#jug-ph', ph);
			await page.keyboard.press('Enter');
		}
		await page.locator('[data-jug="3"]', { hasText: 'meq in a millilitre' }).waitFor();
		await page.locator('button', { hasText: 'Keep this strength' }).click();
		await page.locator('[data-dose=dose]').waitFor();
		await page.close();
	});
});

it('a season: stages to start from, begun by a tap, taken back; what is wrong is said at its field; the Round speaks of what comes', async () => {
	const page = await openPage(browser.context, `${app.base}/mix?part=season&system=slabs`);
	const form = page.locator('[data-season-form]');
	const row = (i: number) => form.locator(`[data-stage-row="${i}"]`);
	await row(0).getByLabel('stage', { exact: true }).waitFor();
	await row(0).getByLabel('days').fill('many');
	await row(0).getByLabel('days').press('Tab');
	await row(0).getByRole('alert').filter({ hasText: 'how many days' }).waitFor();
	await row(0).getByLabel('days').fill('9');
	await row(0).getByLabel(/^EC/).fill('900 to 500 µS/cm');
	await row(0).getByLabel(/^EC/).press('Tab');
	await row(0).getByRole('alert').filter({ hasText: 'lower end comes first' }).waitFor();
	await row(0).getByLabel(/^EC/).fill('0.8 to 1.2');
	await row(0).getByLabel('begun').fill('yesterday');
	await form.getByRole('button', { name: 'Keep the plan' }).click();
	await page.locator('[data-notice]', { hasText: 'The plan of Slabs is kept.' }).waitFor();
	const next = page.locator('[data-next-stage="1"]', { hasText: 'in 8 days' });
	await next.getByRole('button', { name: 'Begin it today' }).click();
	await page.locator('[data-standing="1"]', { hasText: 'growing' }).waitFor();
	await page.locator('[data-notice]').getByRole('button', { name: 'undo' }).click();
	await page.locator('[data-standing="0"]', { hasText: 'seedling' }).waitFor();
	const { stations } = await (await fetch(`${app.base}/api/v1/stations`)).json();
	expect(stations.find((x: Answer) => x.code === 'slabs').ranges.ec).toEqual([800, 1200]);
	// While somebody types, somebody else changes the plan: what is typed stays, and theirs is there for the taking.
	await row(1).getByLabel('days').fill('11');
	const [{ version, stages }] = (await (await fetch(`${app.base}/api/v1/plans`)).json()).plans.filter(
		(p: Answer) => p.system === 'slabs',
	);
	const theirs = stages.map((x: Answer, i: number) => (i === 1 ? { ...x, days: 33 } : x));
	expect((await postJson(app.base, '/plans', { system: 'slabs', version, stages: theirs })).status).toBe(200);
	await page.locator('[data-overtaken]').waitFor();
	expect(await row(1).getByLabel('days').inputValue()).toBe('11');
	await form.getByRole('button', { name: 'Keep the plan' }).click();
	await form.getByRole('alert').filter({ hasText: 'Somebody changed this plan meanwhile' }).waitFor();
	await page.locator('[data-overtaken]').getByRole('button').click();
	await expect.poll(() => row(1).getByLabel('days').inputValue()).toBe('33');
	expect(await page.locator('[data-overtaken]').count()).toBe(0);
	await expectAccessible(page, ['limewash', 'blackout']);
	// The next batch takes the stage's target: the middle of its range.
	await page.goto(`${app.base}/mix?part=batch`);
	await awake(page);
	await page.locator('label', { hasText: /^tank/ }).locator('select').selectOption('slabs');
	await expect.poll(() => page.getByRole('textbox', { name: /target EC/ }).inputValue()).toBe('1.00');
	await page.goto(app.base);
	await page.locator('[data-season-note=gutters]', { hasText: /fruiting was planned \d+ days ago/ }).waitFor();
	await page.close();
});
