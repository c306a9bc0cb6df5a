import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Application, startApplication } from '../helpers/application';
import { awake, openBrowser } from '../helpers/browser';

/** What a page may load and run (OWASP ASVS 4.0.3, 14.4; W3C Content Security Policy 3). */
let app: Application;
let browser: Awaited<ReturnType<typeof openBrowser>>;
beforeAll(async () => {
	[app, browser] = await Promise.all([startApplication('demo'), openBrowser()]);
});
afterAll(async () => {
	await browser.close();
	await app.stop();
});

describe('the policy of pages', () => {
	it('has no script but by hash, no frame, and says so with every answer', async () => {
		const page = (await fetch(`${app.base}/`)).headers;
		const policy = page.get('content-security-policy')!;
		const of = (name: string) =>
			policy
				.split(';')
				.find((p) => p.trim().startsWith(`${name} `))
				?.trim() ?? '';
		expect(of('script-src')).toMatch(/^script-src 'self'( 'sha256-[\w+/]{43}=')+$/);
		expect(of('style-src')).toMatch(/^style-src 'self'( 'sha256-[\w+/]{43}=')+$/);
		expect(policy).not.toContain('unsafe');
		expect(policy).toContain("frame-ancestors 'none'");
		expect(policy).toContain("default-src 'self'");
		expect((await fetch(`${app.base}/api/v1/health`)).headers.get('content-security-policy')).toContain(
			"default-src 'none'",
		);
	});
	it('stands in the way of nothing that is ours: charts and strips; dialogs and all pages are seen to by every other test', async () => {
		const page = await browser.context.newPage();
		for (const path of ['/trends?part=lines&lines=pond.ph,slabs.ec&days=365', '/probes/brass/ph']) {
			await page.goto(app.base + path);
			await page.locator('.apexcharts-canvas').first().waitFor();
		}
		expect(browser.wrong).toEqual([]);
		await page.close();
	});
	it('a page names in its head every script that it begins with', async () => {
		const page = await browser.context.newPage();
		const asked: string[] = [];
		page.on('request', (r) => {
			if (r.resourceType() === 'script') asked.push(new URL(r.url()).pathname);
		});
		await page.goto(app.base);
		await awake(page);
		const named = await page.evaluate(() =>
			[...document.querySelectorAll<HTMLLinkElement>('link[rel=modulepreload]')].map((l) => new URL(l.href).pathname),
		);
		expect(named.length).toBeGreaterThan(10);
		expect(asked.filter((path) => !named.includes(path))).toEqual(['/first.js']);
		await page.close();
	});
	it('runs no script that somebody put into a page', async () => {
		const page = await browser.context.newPage();
		await page.goto(`${app.base}/people`);
		await awake(page);
		await page.evaluate(() => {
			const script = document.createElement('script');
			script.textContent = 'window.ran = true';
			document.body.append(script);
			document.body.insertAdjacentHTML('beforeend', '<img src="/none.png" onerror="window.ran = true">');
		});
		await page.waitForTimeout(300);
		expect(await page.evaluate(() => (window as { ran?: boolean }).ran)).toBeUndefined();
		// The browser says what it did not run.
		expect(browser.wrong.splice(0).length).toBeGreaterThanOrEqual(2);
		await page.close();
	});
});
