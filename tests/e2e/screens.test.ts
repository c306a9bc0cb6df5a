import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { BrowserContext, Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Answer, type Application, postJson, startApplication } from '../helpers/application';
import { expectAccessible, nothingRunsOff, openBrowser, openPage } from '../helpers/browser';

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

describe('Files', () => {
	it('shows what a file holds before storing it; bad lines are left out only when told so', async () => {
		const dir = mkdtempSync(join(tmpdir(), 'cordwain-file-'));
		const page = await open('/files');
		try {
			const file = join(dir, 'spring.csv');
			writeFileSync(
				file,
				'\uFEFFtime;station;instrument;quantity;value;unit\r\n2026-01-05 08:00;pond;plum;ph;5,91;pH\r\n2026-01-05 08:00;pond;plum;ph;abc;pH\r\n2026-01-06 08:00;attic;;ec;1,8;mS/cm\r\n',
			);
			await page.setInputFiles('#file', file);
			const report = page.locator('[data-report]');
			await report.filter({ hasText: '3 lines of readings: 2 new, 0 already here, 1 bad' }).waitFor();
			await report.filter({ hasText: 'station attic' }).waitFor();
			await report.filter({ hasText: 'taken in the site’s zone Europe/Amsterdam' }).waitFor();
			await report.locator('tr').filter({ hasText: '“abc” is not a number' }).waitFor();
			expect((await (await fetch(`${app.base}/api/v1/readings?station=attic`)).json()).readings).toEqual([]);
			await report.locator('button').filter({ hasText: 'Store the 2 good lines, leave out 1' }).click();
			await report.filter({ hasText: '2 readings stored' }).waitFor();
			const [stored] = (await (await fetch(`${app.base}/api/v1/readings?station=attic`)).json()).readings;
			expect(stored).toMatchObject({ time: '2026-01-06T07:00:00Z', value: '1.8', canonical_value: 1800 });
		} finally {
			rmSync(dir, { recursive: true });
			await page.close();
		}
	});
	it('every link that takes data out works', async () => {
		const page = await open('/files');
		const links = await page.locator('a[download]').evaluateAll((all) => all.map((a) => a.getAttribute('href')));
		expect(links).toHaveLength(8);
		for (const href of links) {
			const answer = await fetch(app.base + href);
			if (href?.includes('zip')) {
				expect([answer.status, answer.headers.get('content-type')]).toEqual([200, 'application/zip']);
				continue;
			}
			expect([href, answer.status, answer.headers.get('content-type')]).toEqual([href, 200, 'text/csv; charset=utf-8']);
			expect((await answer.text()).split('\n').length).toBeGreaterThan(20);
		}
		await page.close();
	});
	it('refuses what is no table, with what to do', async () => {
		const page = await open('/files');
		await page.setInputFiles('#file', {
			name: 'x.csv',
			mimeType: 'text/csv',
			buffer: Buffer.from([80, 75, 3, 4, 0, 0, 7]),
		});
		await page
			.locator('[role=alert]')
			.filter({ hasText: /no text/ })
			.waitFor();
		await page.close();
	});
});

describe('Trends', () => {
	it('draws pH, EC and temperature with their events, and gives the same as a table', async () => {
		const page = await open('/trends?station=bench');
		await page.locator('button').filter({ hasText: 'year' }).click();
		for (const q of ['ph', 'ec', 'temp'])
			await page
				.locator(`[data-chart=${q}] svg path.apexcharts-rangearea-area, [data-chart=${q}] svg .apexcharts-series path`)
				.first()
				.waitFor();
		await page.locator('ul[aria-label=Events] li').first().waitFor();
		await page.locator('button').filter({ hasText: 'as a table' }).click();
		expect(await page.locator('tbody tr').count()).toBeGreaterThan(100);
		await page.close();
	});
	it('says what explains a pH that climbs, by keyboard, and each chart keeps its own axis', async () => {
		const DAY = 86_400_000;
		await postJson(app.base, '/stations', { code: 'tub', kind: 'reservoir', volume_l: 100 });
		for (let day = 16; day >= 0; day--)
			await postJson(app.base, '/readings', [
				...(['ph', 'ec'] as const).map((quantity) => ({
					station: 'tub',
					instrument: 'plum',
					quantity,
					value: quantity === 'ph' ? (5.6 + 0.08 * (16 - day) + 0.01 * (day % 2)).toFixed(2) : `1.8${day % 3}`,
					unit: quantity === 'ph' ? 'pH' : 'mS/cm',
					time: new Date(Date.now() - (day + 0.1) * DAY).toISOString(),
				})),
			]);
		const page = await open('/trends?station=tub');
		const found = page.locator('[data-explained^="ph"]');
		await found.locator('summary', { hasText: /pH went up by 1\.\d+ pH in 16 days/ }).focus();
		await page.keyboard.press('Enter');
		await found.locator('[data-cause=nitrate]', { hasText: 'What would settle it' }).waitFor();
		await page.locator('[data-explained="ec steady"]').waitFor();
		await expectAccessible(page, ['limewash', 'blackout']);
		// Charts of one group hand one another what they are updated with.
		for (const [q, named] of [
			['ph', 'pH'],
			['ec', 'EC'],
		] as const)
			await page.locator(`[data-chart=${q}] .apexcharts-yaxis-title-text`, { hasText: named }).waitFor();
		await page.setViewportSize({ width: 320, height: 640 });
		await nothingRunsOff(page);
		await page.close();
	});
});

describe('Ledger', () => {
	it('filters, sorts, and hands out what it shows as CSV', async () => {
		const page = await open('/ledger');
		await page.selectOption('#l-station', 'slabs');
		await page.selectOption('#l-quantity', 'ec');
		await page.locator('tr[data-row]').filter({ hasText: 'Slabs tank' }).first().waitFor();
		await page.waitForFunction(() =>
			[...document.querySelectorAll('tr[data-row]')].every((r) => /Slabs tank(EC|TDS)/.test(r.textContent ?? '')),
		);
		await page.locator('th button').filter({ hasText: 'Value' }).click();
		const values = await page.locator('tr[data-row] td:nth-child(5)').allTextContents();
		expect(values.map(Number.parseFloat)).toEqual(values.map(Number.parseFloat).sort((a, b) => a - b));
		const href = await page.locator('a').filter({ hasText: 'CSV' }).getAttribute('href');
		const csv = await (await fetch(app.base + href)).text();
		const rows = csv.trim().split('\n').slice(1);
		expect(rows.length).toBeGreaterThan(100);
		expect(rows.every((r) => r.includes(',slabs,'))).toBe(true);
		await page.close();
	});
});

describe('a reading in the Ledger', () => {
	const entered = async (value: string): Promise<Answer> => {
		const { body } = await postJson(app.base, '/readings', [
			{ station: 'pond', instrument: 'plum', quantity: 'ph', value, unit: 'pH', note: 'ledger test' },
			{ station: 'pond', instrument: 'plum', quantity: 'ec', value: '2.05', unit: 'mS/cm', note: 'ledger test' },
		]);
		return body.samples[0];
	};
	const stands = async (id: number): Promise<Answer> =>
		(await (await fetch(`${app.base}/api/v1/readings/${id}/history`)).json()).readings.at(-1);
	it('a sound one of the wrong tank is moved with all that was dipped with it; by touch', async () => {
		const sample = await entered('6.13');
		const [ph, ec] = sample.readings;
		const page = await open('/ledger?station=pond&quantity=ph');
		await page.fill('#l-from', 'today');
		await page.waitForFunction(() => document.querySelectorAll('tr[data-row]').length < 20);
		await page.locator(`tr[data-row="${ph.id}"]`).click();
		await page.getByRole('button', { name: 'Correct…' }).click();
		const fix = page.locator('[data-fix]');
		await fix.getByLabel('At').selectOption('slabs');
		await expectAccessible(page, ['limewash']);
		await fix.getByRole('button', { name: 'Correct it' }).click();
		await page.locator('[data-notice]', { hasText: 'Corrected' }).waitFor();
		expect(await stands(ph.id)).toMatchObject({ station: 'slabs', value: '6.13', supersedes: ph.id });
		expect(await stands(ec.id)).toMatchObject({ station: 'slabs', value: '2.05', supersedes: ec.id });
		await page.close();
	});
	it('what is wrong is said at its field, and nothing is lost', async () => {
		const { readings } = await entered('6.14');
		const page = await open('/ledger?station=pond&quantity=ph');
		await page.locator(`tr[data-row="${readings[0].id}"]`).click();
		await page.getByRole('button', { name: 'Correct…' }).click();
		const fix = page.locator('[data-fix]');
		await fix.getByLabel('It was').fill('6.1.4');
		await fix.getByLabel('When').fill('soon');
		await fix.getByRole('button', { name: 'Correct it' }).click();
		await fix.locator('[role=alert]', { hasText: 'more than one decimal mark' }).waitFor();
		await fix.getByLabel('It was').fill('6,24');
		await fix.getByRole('button', { name: 'Correct it' }).click();
		await fix.locator('[role=alert]', { hasText: 'yesterday 7:30' }).waitFor();
		await fix.getByLabel('When').fill('-5min');
		await fix.getByRole('button', { name: 'Correct it' }).click();
		await page.locator('[data-notice]', { hasText: 'Corrected' }).waitFor();
		expect(await stands(readings[0].id)).toMatchObject({ value: '6.24', station: 'pond' });
		await page.close();
	});
	it('many are chosen by keys and corrected at once', async () => {
		const all = [await entered('6.15'), await entered('6.16')];
		const page = await open('/ledger?station=pond');
		await page.locator(`tr[data-row="${all[1].readings[0].id}"]`).waitFor();
		// The newest four are these two samples.
		for (const key of ['x', 'j', 'x', 'j', 'x', 'j', 'x']) await page.keyboard.press(key);
		const chosen = page.locator('[data-chosen="4"]');
		await chosen.waitFor();
		await chosen.getByLabel('measured with').selectOption('brass');
		await chosen.getByRole('button', { name: 'Correct them' }).click();
		await page.locator('[data-notice]', { hasText: '4 readings corrected' }).waitFor();
		for (const r of all.flatMap((s) => s.readings)) expect(await stands(r.id)).toMatchObject({ instrument: 'brass' });
		await page.close();
	});
});

describe('a browser on the other side of the world', () => {
	it('a day of the Ledger is the site’s day, and so is a day on the axis of Trends', async () => {
		const away = await openBrowser(undefined, 'Pacific/Auckland');
		try {
			const page = await openPage(away.context, `${app.base}/ledger`);
			await page.fill('#l-from', '2026-07-15');
			await page.locator('a[href*="from=2026-07-14T22"]').filter({ hasText: 'CSV' }).waitFor();
			const axis = async (p: Page) => {
				await p.locator('button').filter({ hasText: 'year' }).click();
				const labels = p.locator('[data-chart=ph] .apexcharts-xaxis-texts-g text');
				await labels.first().waitFor({ state: 'attached' });
				const drawn = await labels.evaluateAll((list) =>
					list.map((t) => [t.getAttribute('x')!.slice(0, 6), t.textContent]),
				);
				// What goes on being drawn there is not waited for.
				await p.close();
				return drawn;
			};
			const there = await axis(await openPage(away.context, `${app.base}/trends?station=borehole`));
			expect(there.length).toBeGreaterThan(2);
			expect(there).toEqual(await axis(await open('/trends?station=borehole')));
		} finally {
			await away.close();
		}
	});
});

describe('Setup', () => {
	it('says what cannot be kept as a field is left, before anything is sent', async () => {
		const page = await open('/setup');
		const sent: string[] = [];
		page.on('request', (r) => void (r.method() === 'POST' && sent.push(r.url())));
		await page.click('[data-thing="station pond"]');
		const form = page.locator('[data-form="station pond"]');
		const litres = form.getByLabel(/Litres it holds/);
		await litres.fill('2000000000');
		await litres.press('Tab');
		await form.getByRole('alert').filter({ hasText: 'at most 1,000,000,000 L' }).waitFor();
		// Nor is it sent by saving it all the same; mended, the word goes.
		await form.getByRole('button', { name: 'Save', exact: true }).click();
		await expect.poll(() => litres.evaluate((el) => el === document.activeElement)).toBe(true);
		await litres.fill('2400');
		await expect.poll(() => form.getByRole('alert').count()).toBe(0);
		expect(sent).toEqual([]);
		await page.close();
	});
	it('hears a press on Save though the field that it leaves has something said below it meanwhile', async () => {
		const page = await open('/setup');
		await page.click('[data-thing="station pond"]');
		const form = page.locator('[data-form="station pond"]');
		await form.getByLabel(/Litres it holds/).fill('2000000000');
		await form.evaluate((el) => el.addEventListener('submit', () => el.setAttribute('data-heard', ''), true));
		await form.getByRole('button', { name: 'Save', exact: true }).hover();
		await page.mouse.down();
		// As long as a slow finger stays down: the word would have come, and moved the button.
		await page.waitForTimeout(400);
		await page.mouse.up();
		expect(await form.getAttribute('data-heard')).toBe('');
		await form.getByRole('alert').filter({ hasText: 'at most 1,000,000,000 L' }).waitFor();
		await page.close();
	});
	it('says what the server does not take at the field it stands in, and loses nothing that was typed', async () => {
		const page = await open('/setup');
		// Where the schemas do not come, the server has the word.
		let kept = 0;
		await page.route('**/_astro/refused.*', (route) => {
			kept++;
			return route.abort();
		});
		await page.click('[data-thing="station pond"]');
		const form = page.locator('[data-form="station pond"]');
		const litres = form.getByLabel(/Litres it holds/);
		await litres.fill('many');
		await form.getByRole('button', { name: 'Save', exact: true }).click();
		await form.getByRole('alert').filter({ hasText: 'a number of litres' }).waitFor();
		await litres.fill('2000000000');
		await form.getByLabel('Name').fill('Pond of a giant');
		// The word about the first goes once that was looked at, and what is below it moves up.
		await expect.poll(() => form.getByRole('alert').count()).toBe(0);
		await form.getByRole('button', { name: 'Save', exact: true }).click();
		await form.getByRole('alert').filter({ hasText: 'at most 1,000,000,000 L' }).waitFor();
		expect(await litres.getAttribute('aria-invalid')).toBe('true');
		expect(await form.getByLabel('Name').inputValue()).toBe('Pond of a giant');
		const [pond] = (await (await fetch(`${app.base}/api/v1/stations`)).json()).stations.filter(
			(x: Answer) => x.code === 'pond',
		);
		expect([pond.name, pond.volume_l]).toEqual(['Pond', 2400]);
		expect(kept).toBeGreaterThan(0);
		await page.close();
	});
	it('what another changed meanwhile stays; where both changed the same it is said, and theirs is there to be taken', async () => {
		const page = await open('/setup');
		await page.click('[data-thing="station pond"]');
		const form = page.locator('[data-form="station pond"]');
		const another = async (change: object) =>
			expect((await postJson(app.base, '/stations', { code: 'pond', kind: 'reservoir', ...change })).status).toBe(201);
		const pond = async () =>
			(await (await fetch(`${app.base}/api/v1/stations`)).json()).stations.find((s: Answer) => s.code === 'pond');
		const { name, volume_l } = await pond();
		await another({ name: 'Long pond' });
		await form.getByLabel(/Litres it holds/).fill('2410');
		await form.getByRole('button', { name: 'Save', exact: true }).click();
		await page.locator('[data-form="station pond"] h2', { hasText: 'Long pond' }).waitFor();
		expect(await pond()).toMatchObject({ name: 'Long pond', volume_l: 2410 });
		await another({ volume_l: 2420 });
		await form.getByLabel(/Litres it holds/).fill('2430');
		await form.getByRole('button', { name: 'Save', exact: true }).click();
		await form.getByText('Somebody changed it meanwhile: it is 2420 now.').waitFor();
		const litres = form.getByLabel(/Litres it holds/);
		expect(await litres.inputValue()).toBe('2430');
		// Save stands below the window’s end of it; what is wrong is brought to who pressed it.
		const seen = () =>
			litres.evaluate((el) => el.getBoundingClientRect().top >= 0 && el.getBoundingClientRect().bottom <= innerHeight);
		await expect.poll(seen).toBe(true);
		await page.getByRole('button', { name: 'Take it as it is now' }).click();
		await expect.poll(() => form.getByLabel(/Litres it holds/).inputValue()).toBe('2420');
		expect(await page.locator('[data-overtaken]').count()).toBe(0);
		await another({ name, volume_l });
		await page.close();
	});
	it('changes a range, and the strip on the Round follows; finds a pen’s scale', async () => {
		const page = await open('/setup');
		await page.click('[data-thing="station pond"]');
		const form = page.locator('[data-form="station pond"]');
		await form.locator('label').filter({ hasText: 'pH range' }).locator('input').fill('5,7 to 6.3');
		await form.locator('button').filter({ hasText: 'Save' }).click();
		await page.locator('p').filter({ hasText: 'Pond saved.' }).waitFor();
		const { stations } = await (await fetch(`${app.base}/api/v1/stations`)).json();
		expect(stations.find((s: { code: string }) => s.code === 'pond').ranges.ph).toEqual([5.7, 6.3]);
		await page.click('[data-thing="instrument plum"]');
		await page.locator('[data-form="instrument plum"] button').filter({ hasText: 'Find the scale' }).click();
		await page.fill('#sf-ppm', '706');
		await page.locator('[data-scale-finder]').filter({ hasText: 'Scale 500' }).waitFor();
		await page.fill('#sf-ppm', '800');
		await page.locator('[data-scale-finder]').filter({ hasText: 'Undecided' }).waitFor();
		await page.close();
	});
	it('asks of an instrument that is changed whether it was always so, and says it', async () => {
		const page = await open('/setup');
		await page.click('[data-thing="instrument brass"]');
		const brass = page.locator('[data-form="instrument brass"]');
		expect(await brass.locator('[data-since]').count()).toBe(0);
		const sent: (string | null)[] = [];
		page.on('request', (r) => {
			const { pathname, searchParams } = new URL(r.url());
			if (r.method() === 'POST' && pathname.endsWith('/instruments')) sent.push(searchParams.get('since'));
		});
		const right = brass.getByLabel('pH right to ±');
		const before = await right.inputValue();
		for (const [text, since] of [
			['0.3', 'it was always so'],
			[before, 'from now on'],
		] as const) {
			// What was saved is shown anew, its leaflet closed.
			if (!(await right.isVisible())) await brass.locator('summary').click();
			await right.fill(text);
			await brass.getByLabel(since).check();
			await brass.getByRole('button', { name: 'Save', exact: true }).click();
			await page.locator('[data-notice]', { hasText: 'saved.' }).waitFor();
			await expect.poll(() => brass.locator('[data-since]').count()).toBe(0);
		}
		expect(sent).toEqual(['always', null]);
		// A day that nobody understands is not sent; one that is, is meant from its beginning here.
		if (!(await right.isVisible())) await brass.locator('summary').click();
		await right.fill('0.3');
		await brass.getByLabel('since a time').check();
		await brass.getByLabel('Since when').fill('some day');
		await brass.getByRole('alert').filter({ hasText: 'Write the time as' }).waitFor();
		await brass.getByRole('button', { name: 'Save', exact: true }).click();
		expect(await brass.getByLabel('Since when').evaluate((el) => el === document.activeElement)).toBe(true);
		expect(sent.length).toBe(2);
		// Nor does it stand in the way of anything else once nothing is changed of which it is asked.
		await right.fill(before);
		await brass.getByLabel('Name').fill('Brass pen');
		await brass.getByRole('button', { name: 'Save', exact: true }).click();
		await expect.poll(() => sent).toEqual(['always', null, null]);
		await brass.getByRole('heading', { name: 'Brass pen' }).waitFor();
		if (!(await right.isVisible())) await brass.locator('summary').click();
		await right.fill('0.3');
		await brass.getByLabel('since a time').check();
		await brass.getByLabel('Since when').fill('1 nov');
		await brass.getByText('1 Nov, 00:00').waitFor();
		await brass.getByRole('button', { name: 'Save', exact: true }).click();
		await expect.poll(() => sent.at(-1)).toMatch(/-10-31T23:00:00(\.000)?Z$/);
		await expect.poll(() => brass.locator('[data-since]').count()).toBe(0);
		if (!(await right.isVisible())) await brass.locator('summary').click();
		await right.fill(before);
		await brass.getByLabel('Name').fill('Brass');
		await brass.getByLabel('it was always so').check();
		await brass.getByRole('button', { name: 'Save', exact: true }).click();
		await expect.poll(() => brass.locator('[data-since]').count()).toBe(0);
		const { instruments } = await (await fetch(`${app.base}/api/v1/instruments`)).json();
		expect(instruments.find((i: Answer) => i.code === 'brass').quantities.ph.accuracy).toBe(Number(before));
		await page.close();
	});
	it('the line is put in order by keys and by its arrows', async () => {
		const page = await open('/setup');
		const line = async (): Promise<string[]> =>
			(await (await fetch(`${app.base}/api/v1/stations`)).json()).stations.map((s: { code: string }) => s.code);
		const before = await line();
		await page.focus('[data-thing="station slabs"]');
		await page.keyboard.press('Alt+ArrowUp');
		await page.locator('[data-notice]', { hasText: 'new order' }).waitFor();
		const at = before.indexOf('slabs');
		expect((await line()).slice(at - 1, at + 1)).toEqual(['slabs', before[at - 1]]);
		await page.getByRole('button', { name: 'Slabs tank one place down' }).click();
		await page.waitForFunction(() => document.querySelector('[data-notice]')?.textContent?.includes('new order'));
		await expect.poll(line).toEqual(before);
		await page.close();
	});
	it('a pen is retired and brought back: lists forget it, its history stays', async () => {
		const page = await open('/setup');
		await page.click('[data-thing="instrument brass"]');
		await page.click('[data-retire]');
		await page.locator('[data-notice]', { hasText: 'Brass is retired' }).waitFor();
		await expectAccessible(page, ['limewash']);
		const bench = await open('/bench?station=pond');
		expect(await bench.locator('#instrument option').allTextContents()).not.toContain('Brass');
		await bench.goto(`${app.base}/ledger?station=pond`);
		await bench.locator('tr[data-row]', { hasText: 'Brass' }).first().waitFor();
		await bench.close();
		await page.getByRole('button', { name: 'Bring it back' }).click();
		await page.locator('[data-notice]', { hasText: 'back in use' }).waitFor();
		await page.close();
	});
	it('an event logged at Bench is in the record', async () => {
		const page = await open('/bench?station=pond');
		await page.locator('[data-event-form] summary').click();
		await page.locator('[data-event-form] select').first().selectOption('acid_added');
		await page.locator('[data-event-form]').filter({ hasText: 'acid into water, never the reverse' }).waitFor();
		await page.locator('[data-event-form] input').first().fill('12,5');
		await page.locator('[data-event-form] button').filter({ hasText: 'Log it' }).click();
		await page.locator('[data-saved]').filter({ hasText: 'acid added 12.5 mL: logged' }).waitFor();
		const { events } = await (
			await fetch(`${app.base}/api/v1/events?station=pond&from=${new Date(Date.now() - 60_000).toISOString()}`)
		).json();
		expect(events.at(-1)).toMatchObject({ kind: 'acid_added', amount: 12.5, unit: 'mL' });
		await page.close();
	});
});
