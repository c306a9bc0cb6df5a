import type { Locator, Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Answer, type Application, calibrateToday, postJson, startApplication } from '../helpers/application';
import { awake, openBrowser, openPage } from '../helpers/browser';

/** What a person does all day, on a phone in one hand, each from the Round: so few taps, and no dead end. Common practice, no source. */
let app: Application;
let browser: Awaited<ReturnType<typeof openBrowser>>;
beforeAll(async () => {
	[app, browser] = await Promise.all([startApplication('demo'), openBrowser({ width: 390, height: 844 })]);
	await calibrateToday(app.base);
});
afterAll(async () => {
	await browser.close();
	await app.stop();
});

class Hand {
	taps = 0;
	constructor(readonly page: Page) {}
	async tap(what: Locator): Promise<void> {
		await what.click();
		this.taps++;
	}
	/** A list that opens, and the one that is meant. */
	async pick(list: Locator, value: string): Promise<void> {
		await list.selectOption(value);
		this.taps += 2;
	}
	/** A field that is not under the hand yet is tapped first; what is typed counts no tap. */
	async type(field: Locator, text: string): Promise<void> {
		await field.click();
		this.taps++;
		await field.fill(text);
	}
	async go(name: string): Promise<void> {
		const nav = this.page.locator('nav.fixed');
		const link = nav.getByRole('link', { name, exact: true });
		if ((await link.count()) === 0) await this.tap(nav.getByRole('button', { name: 'More' }));
		await this.tap(link);
		await this.page.waitForLoadState();
		await awake(this.page);
	}
}
const fromRound = async (): Promise<Hand> => new Hand(await openPage(browser.context, app.base));
const list = async (path: string, key: string): Promise<Answer[]> =>
	(await (await fetch(`${app.base}/api/v1${path}`)).json())[key];

describe('from the Round, by touch', () => {
	it('pH, EC and temperature of a station: at most eight taps', async () => {
		const hand = await fromRound();
		const { page } = hand;
		await hand.go('Bench');
		await hand.pick(page.locator('#station'), 'slabs');
		await hand.type(page.locator('#f-ph'), '6.05');
		await hand.type(page.locator('#f-ec'), '2.05');
		await hand.type(page.locator('#f-temp'), '24.5');
		const save = page.getByRole('button', { name: 'Save' });
		// Where the thumb is, whatever stands below.
		const box = (await save.boundingBox())!;
		expect(box.y + box.height).toBeLessThan(844);
		expect(box.height).toBeGreaterThanOrEqual(44);
		await hand.tap(save);
		await page.locator('[data-saved]').waitFor();
		expect(hand.taps).toBeLessThanOrEqual(8);
		// The next number typed belongs to the same station; and the way back is one tap.
		expect(await page.locator('#station').inputValue()).toBe('slabs');
		await hand.tap(page.locator('[data-undo]'));
		await page.locator('[data-saved]', { hasText: 'Taken back' }).waitFor();
		await page.close();
	});
	it('a sound reading that was of another tank: at most six', async () => {
		await postJson(app.base, '/readings', {
			station: 'pond',
			instrument: 'plum',
			quantity: 'ph',
			value: '6.21',
			unit: 'pH',
		});
		const hand = await fromRound();
		const { page } = hand;
		await hand.go('Ledger');
		await hand.tap(page.locator('tr[data-row]').first());
		await hand.tap(page.getByRole('button', { name: 'Correct…' }));
		const before = hand.taps;
		await hand.pick(page.locator('[data-fix]').getByLabel('At'), 'slabs');
		// The list of a phone is opened and chosen from in one gesture.
		hand.taps = before + 1;
		await hand.tap(page.getByRole('button', { name: 'Correct it' }));
		await page.locator('[data-notice]', { hasText: 'Corrected' }).waitFor();
		expect(hand.taps).toBeLessThanOrEqual(6);
		expect((await list('/readings?station=slabs&limit=1', 'readings'))[0]).toMatchObject({ value: '6.21' });
		await page.close();
	});
	it('an event that never happened: at most four', async () => {
		await postJson(app.base, '/events', { station: 'pond', kind: 'water_added', amount: 7, unit: 'L' });
		const hand = await fromRound();
		const { page } = hand;
		await hand.go('Events');
		await hand.tap(page.locator('[data-event]').first().getByRole('button').first());
		await hand.tap(page.getByRole('button', { name: 'take it back' }));
		await page.locator('[data-notice]', { hasText: 'taken back' }).waitFor();
		expect(hand.taps).toBeLessThanOrEqual(4);
		expect((await list('/events?station=pond&order=newest&limit=1', 'events'))[0]).not.toMatchObject({ amount: 7 });
		await page.close();
	});
	it('alkalinity by counted drops, with what a drop stands for asked once', async () => {
		const hand = await fromRound();
		const { page } = hand;
		await hand.go('Bench');
		await hand.pick(page.locator('#station'), 'borehole');
		await hand.pick(page.locator('#more'), 'alkalinity');
		await hand.type(page.locator('#f-alkalinity'), '12 drops');
		await page.locator('#h-alkalinity', { hasText: 'one drop' }).waitFor();
		await hand.type(page.locator('[data-drop-size=alkalinity] input'), '1');
		await page.locator('[data-drop-size=alkalinity] select').selectOption('dKH');
		await hand.tap(page.locator('[data-drop-size=alkalinity] button'));
		await page.locator('#h-alkalinity', { hasText: '12 drops: 12 °dKH' }).waitFor();
		await hand.tap(page.getByRole('button', { name: 'Save' }));
		await page.locator('[data-saved]').waitFor();
		expect((await list('/readings?station=borehole&quantity=alkalinity&limit=1', 'readings'))[0]).toMatchObject({
			value: '12',
			unit: 'dKH',
			instrument: 'kit',
			note: '12 drops',
		});
		// Kept with the kit: the next time it is not asked.
		await page.goto(`${app.base}/bench?station=borehole`);
		await awake(page);
		await page.selectOption('#more', 'alkalinity');
		await page.locator('#f-alkalinity').fill('11 drops');
		await page.locator('#h-alkalinity', { hasText: '11 °dKH' }).waitFor();
		await page.close();
	});
	it('a note with a photo: kept small, without its place, and taken away again', async () => {
		const hand = await fromRound();
		const { page } = hand;
		await hand.go('Events');
		await hand.pick(page.getByLabel('Station').first(), 'pond');
		await hand.tap(page.locator('[data-event-form] summary'));
		await page.locator('[data-event-form] select').first().selectOption('note');
		await hand.type(page.locator('[data-event-form] input[name=note]'), 'yellow tips');
		await hand.tap(page.getByRole('button', { name: 'Log it' }));
		const beside = page.locator('[data-photo-of]');
		await beside.waitFor();
		// A picture as a camera makes it, larger than it is kept.
		const png = await page.evaluate(async () => {
			const canvas = Object.assign(document.createElement('canvas'), { width: 2400, height: 1800 });
			canvas.getContext('2d')!.fillRect(0, 0, 1200, 900);
			const blob = await new Promise<Blob | null>((done) => canvas.toBlob(done, 'image/png'));
			return [...new Uint8Array(await blob!.arrayBuffer())];
		});
		await beside
			.locator('input[type=file]')
			.setInputFiles({ name: 'leaf.png', mimeType: 'image/png', buffer: Buffer.from(png) });
		await beside.locator('[data-attached="1"] img').waitFor();
		const width = await beside
			.locator('img')
			.evaluate((img: HTMLImageElement) => img.decode().then(() => img.naturalWidth));
		expect(width).toBe(1600);
		// Found again where the note is.
		await page.locator('[data-event]').first().getByRole('button').first().click();
		await page.locator('[data-event] [data-attached="1"] img').waitFor();
		await page.locator('[data-event] button', { hasText: 'take away' }).click();
		await page.locator('[data-event] [data-attached="0"]').waitFor();
		await page.close();
	});
	it('a laboratory report as it comes: as N and as CaCO3, and what is not understood is asked', async () => {
		const hand = await fromRound();
		const { page } = hand;
		await hand.go('Water');
		await hand.type(
			page.locator('#report-text'),
			'Nitrate (as N) 5.2 mg/L\nTotal alkalinity 210 mg/L as CaCO3\nCalcium 84 mg/L\nMoonlight 3 mg/L',
		);
		await page.locator('[data-understood="3"]').waitFor();
		await page.locator('[data-report] p.text-error', { hasText: 'Line 4' }).waitFor();
		const kept = page.waitForResponse((r) => r.url().endsWith('/reports') && r.request().method() === 'POST');
		await hand.tap(page.getByRole('button', { name: 'Keep this report' }));
		// 5.2 mg/L of nitrogen, and 210 mg/L of alkalinity as 256 of bicarbonate (61.02/50.04, Standard Methods 2320).
		expect((await kept).request().postDataJSON().ions).toMatchObject({
			no3_n_mg_l: 5.2,
			hco3_mg_l: expect.closeTo(256.1, 0),
			ca_mg_l: 84,
		});
		expect(hand.taps).toBeLessThanOrEqual(4);
		await page.close();
	});
	it('a pen that broke is retired', async () => {
		const hand = await fromRound();
		const { page } = hand;
		await hand.go('Setup');
		await hand.tap(page.locator('[data-thing="instrument brass"]'));
		await hand.tap(page.locator('[data-retire]'));
		await page.locator('[data-notice]', { hasText: 'Brass is retired' }).waitFor();
		expect(hand.taps).toBeLessThanOrEqual(4);
		await page.close();
	});
	it('a week printed is black on white, without what is only for the screen', async () => {
		const note = await postJson(app.base, '/events', { station: 'pond', kind: 'note', note: 'pale tips' });
		const dot = 'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==';
		const photo = { event: note.body.id, name: 'tips.png', type: 'image/png', base64: dot };
		expect((await postJson(app.base, '/attachments', photo)).status).toBe(201);
		const hand = await fromRound();
		const { page } = hand;
		await hand.tap(page.getByRole('link', { name: 'The week' }));
		await page.locator('[data-week]').waitFor();
		await page.emulateMedia({ media: 'print' });
		expect(await page.locator('nav').first().isVisible()).toBe(false);
		expect(await page.getByRole('button', { name: 'Print' }).isVisible()).toBe(false);
		expect(await page.locator('[data-week] table').isVisible()).toBe(true);
		expect(hand.taps).toBe(1);
		// The same as a file, that stands by itself.
		await page.emulateMedia({ media: 'screen' });
		const download = page.waitForEvent('download');
		await page.locator('[data-keep-file]').click();
		const file = await download;
		expect(file.suggestedFilename()).toMatch(/^week-\d{4}-\d\d-\d\d\.html$/);
		const text = await (await import('node:fs/promises')).readFile(await file.path(), 'utf8');
		expect(text).toContain('Open doubts');
		expect(text).not.toMatch(/<script|class=|Keep as a file|<button|src="(?!data:image)/);
		expect(text).toMatch(/<img src="data:image\/jpeg;base64,[^"]{40}/);
		await page.close();
	});
});
