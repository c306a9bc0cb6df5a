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
		expect(of('style-src')).not.toContain('unsafe');
		expect(policy).toContain("frame-ancestors 'none'");
		expect(policy).toContain("default-src 'self'");
		expect((await fetch(`${app.base}/api/v1/health`)).headers.get('content-security-policy')).toContain(
			"default-src 'none'",
		);
	});
	it('stands in the way of nothing that is ours: charts, strips, dialogs', async () => {
		const page = await browser.context.newPage();
		const against: string[] = [];
		page.on('console', (m) => {
			if (/Content Security Policy/.test(m.text())) against.push(m.text().slice(0, 200));
		});
		for (const path of [
			'/',
			'/bench?station=pond',
			'/trends?part=lines&days=365',
			'/probes/brass/ph',
			'/root-zone',
			'/people',
		]) {
			await page.goto(app.base + path);
			await awake(page);
			await page.waitForTimeout(100);
		}
		await page.goto(`${app.base}/probes/brass/ph`);
		await page.locator('.apexcharts-canvas').first().waitFor();
		expect(against).toEqual([]);
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
		await page.close();
	});
});
