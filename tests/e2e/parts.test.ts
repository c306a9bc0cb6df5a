import { readFile } from 'node:fs/promises';
import { fileURLToPath } from 'node:url';
import { build, type Plugin } from 'esbuild';
import type { Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openBrowser } from '../helpers/browser';

/** The shared parts of the views, each by itself in the browser: by keyboard, and as a reader of the screen is told. WAI-ARIA Authoring Practices. */
const BASE = 'http://parts.test';
/** The chart library is written for require(); the bundler of the pages hands out its default, as this does. */
const asPagesSeeIt: Plugin = {
	name: 'as-pages-see-it',
	setup(b) {
		b.onResolve({ filter: /^react-apexcharts$/ }, ({ pluginData, resolveDir }) =>
			pluginData === 'own' ? undefined : { path: 'react-apexcharts', namespace: 'own', pluginData: resolveDir },
		);
		b.onLoad({ filter: /.*/, namespace: 'own' }, ({ pluginData }) => ({
			contents: `const c = require('react-apexcharts'); export default c.default ?? c;`,
			resolveDir: pluginData,
			pluginData: 'own',
		}));
	},
};
let browser: Awaited<ReturnType<typeof openBrowser>>;
let script = '';
beforeAll(async () => {
	const root = fileURLToPath(new URL('../..', import.meta.url));
	const [opened, built] = await Promise.all([
		openBrowser(),
		build({
			entryPoints: [`${root}/tests/helpers/parts.tsx`],
			bundle: true,
			write: false,
			jsx: 'automatic',
			format: 'esm',
			alias: { '@': `${root}/src` },
			define: { 'process.env.NODE_ENV': '"production"' },
			plugins: [asPagesSeeIt],
		}),
	]);
	browser = opened;
	script = built.outputFiles[0]!.text;
	await browser.context.route(`${BASE}/**`, (route) => {
		const { pathname } = new URL(route.request().url());
		if (pathname === '/parts.js') return route.fulfill({ contentType: 'text/javascript', body: script });
		if (pathname.startsWith('/api/')) return route.fallback();
		return route.fulfill({
			contentType: 'text/html',
			body: '<!doctype html><html lang="en" style="--soft:#555"><title>parts</title><div id="root"></div><script type="module" src="/parts.js"></script>',
		});
	});
});
afterAll(() => browser.close());

const part = async (name: string): Promise<Page> => {
	const page = await browser.context.newPage();
	await page.goto(`${BASE}/#${name}`);
	await page.locator('main').waitFor();
	return page;
};
const told = async (page: Page): Promise<unknown> =>
	JSON.parse((await page.locator('main').getAttribute('data-told'))!);

describe('fields', () => {
	it('a day is understood as one says it; what is not changes nothing, and says what to write', async () => {
		const page = await part('day');
		const field = page.getByLabel('Day');
		await field.fill('14 Jul 2026');
		expect(await told(page)).toBe('2026-07-14');
		await field.fill('14 Ju');
		await field.fill('soonish');
		await page.getByRole('alert').filter({ hasText: 'Write a day' }).waitFor();
		expect(await field.getAttribute('aria-invalid')).toBe('true');
		expect(await told(page)).toBe('2026-07-14');
		await field.fill('');
		expect(await told(page)).toBe('');
		await page.close();
	});
	it('a number keeps what is typed, says below how it was understood, and is given with Enter', async () => {
		const page = await part('number');
		const field = page.getByLabel('pH');
		expect(await field.getAttribute('placeholder')).toBe('6.1');
		await field.fill('5,8');
		const described = await field.getAttribute('aria-describedby');
		expect(await page.locator(`#${described}`).textContent()).toBe('5,8 it is');
		await field.press('Enter');
		expect(await told(page)).toBe('5,8');
		await field.fill('x');
		expect(await field.getAttribute('aria-invalid')).toBe('true');
		await page.close();
	});
	it('a name is typed, or chosen by keys among those that are known; another is as good', async () => {
		const page = await part('name');
		const box = page.getByRole('combobox', { name: 'Of what' });
		await box.fill('sil');
		await page.getByRole('option', { name: 'silicate' }).waitFor();
		expect(await page.getByRole('option').count()).toBe(1);
		await page.keyboard.press('ArrowDown');
		await page.keyboard.press('Enter');
		expect(await told(page)).toBe('silicate');
		await box.fill('rain of the roof');
		await box.blur();
		expect(await box.inputValue()).toBe('rain of the roof');
		expect(await told(page)).toBe('rain of the roof');
		await page.close();
	});
});

describe('what is opened and said', () => {
	it('a dialog keeps the focus, hides what lies beneath, and gives the focus back', async () => {
		const page = await part('dialog');
		await page.locator('#opens').press('Enter');
		const dialog = page.getByRole('dialog', { name: 'A reading' });
		await dialog.waitFor();
		expect(await dialog.getAttribute('data-here')).toBe('7');
		for (let i = 0; i < 4; i++) {
			await page.keyboard.press('Tab');
			expect(await page.evaluate(() => document.activeElement?.closest('[role=dialog]') !== null)).toBe(true);
		}
		expect(await page.locator('#beneath').evaluate((el) => el.closest('[inert], [aria-hidden=true]') !== null)).toBe(
			true,
		);
		await page.keyboard.press('Escape');
		await dialog.waitFor({ state: 'detached' });
		expect(await told(page)).toBe('closed');
		// The focus is given back with the next frame.
		await page.waitForFunction(() => document.activeElement?.id === 'opens');
		await page.close();
	});
	it('a problem is said instead of what would have been done', async () => {
		const page = await part('notice');
		expect(await page.locator('[data-notice]').allTextContents()).toEqual(['Saved. ']);
		expect(await page.getByRole('alert').allTextContents()).toEqual(['It was not.']);
		await page.close();
	});
	it('a reading and an event open by the same means; what has none behind it is plain text', async () => {
		const page = await part('opens');
		await page.getByRole('button', { name: '6.1' }).click();
		expect(await told(page)).toEqual({ what: 'reading', id: 3 });
		await page.getByRole('button', { name: 'acid' }).click();
		expect(await told(page)).toEqual({ what: 'event', id: 4 });
		expect(await page.getByRole('button').count()).toBe(2);
		await page.close();
	});
});

describe('tables, charts and photos', () => {
	const order = (page: Page) =>
		page.locator('tbody tr[data-row]').evaluateAll((rows) => rows.map((r) => r.textContent));
	it('a table is sorted by its heads, walked by keys, opened and chosen from', async () => {
		const page = await part('table');
		expect(await order(page)).toEqual(['slabs5.8', 'mix6.1', 'pond6.4']);
		await page.getByRole('button', { name: 'station' }).click();
		expect(await order(page)).toEqual(['mix6.1', 'pond6.4', 'slabs5.8']);
		await page.locator('body').click({ position: { x: 2, y: 2 } });
		await page.keyboard.press('j');
		await page.keyboard.press('x');
		expect(await told(page)).toEqual(['pond']);
		await page.keyboard.press('Enter');
		await page.locator('em', { hasText: 'all of pond' }).waitFor();
		await page.close();
	});
	it('a chart is named for who does not see it, has no stock toolbar, and is saved as numbers', async () => {
		const page = await part('chart');
		await page
			.getByRole('figure', { name: 'pH over time, two points' })
			.locator('.apexcharts-series path')
			.first()
			.waitFor();
		expect(await page.locator('.apexcharts-toolbar *').count()).toBe(0);
		const download = page.waitForEvent('download');
		await page.getByRole('button', { name: 'CSV' }).click();
		const file = await download;
		expect(file.suggestedFilename()).toBe('ph.csv');
		expect((await readFile(await file.path(), 'utf8')).split('\r\n')).toEqual([
			'series,x,y,y2',
			'pH,1000000000000,6.1',
			'pH,1100000000000,6.4',
		]);
		await page.close();
	});
	it('a file that cannot be sent now is kept on the device, and says so', async () => {
		const page = await browser.context.newPage();
		await page.route('**/api/v1/attachments?*', (route) => route.fulfill({ json: { attachments: [] } }));
		await page.route('**/api/v1/attachments', (route) => route.abort());
		await page.goto(`${BASE}/#attached`);
		await page.locator('[data-attached="0"]').waitFor();
		await page
			.locator('input[type=file]')
			.setInputFiles({ name: 'leaf.txt', mimeType: 'text/plain', buffer: Buffer.from('yellow') });
		await page.locator('[data-attached-said]', { hasText: /[Kk]ept on this device/ }).waitFor();
		await page.close();
	});
});
