import { gzipSync } from 'node:zlib';
import { chromium } from 'playwright-core';

/** The first view of Round on a phone: a processor four times slower, 1.6 Mbit/s with 150 ms to and fro, nothing kept. */
const SLOWER = 4;
const BYTES_S = 1_600_000 / 8;
const LATENCY_MS = 150;
const TIMES = 5;

export async function phone(say: (name: string, text: string) => void, base: string): Promise<void> {
	const browser = await chromium.launch({
		executablePath: '/usr/bin/chromium-headless-shell',
		args: ['--no-sandbox', '--disable-gpu'],
	});
	const drawn: number[] = [];
	const awake: number[] = [];
	let [scripts, weight] = [0, 0];
	for (let n = 0; n < TIMES; n++) {
		const context = await browser.newContext({ viewport: { width: 390, height: 844 }, serviceWorkers: 'block' });
		const page = await context.newPage();
		const cdp = await context.newCDPSession(page);
		await cdp.send('Network.enable');
		await cdp.send('Network.emulateNetworkConditions', {
			offline: false,
			latency: LATENCY_MS,
			downloadThroughput: BYTES_S,
			uploadThroughput: BYTES_S,
		});
		await cdp.send('Emulation.setCPUThrottlingRate', { rate: SLOWER });
		const bodies: Promise<number>[] = [];
		page.on('response', (r) => {
			if (r.request().resourceType() === 'script')
				bodies.push(
					r.body().then(
						(b) => gzipSync(b).length,
						() => 0,
					),
				);
		});
		const begin = performance.now();
		await page.goto(base, { waitUntil: 'commit' });
		await page.locator('a[data-station]').first().waitFor();
		drawn.push(performance.now() - begin);
		await page.locator('[data-ready=true]').first().waitFor({ timeout: 60_000 });
		await page.waitForFunction(() => !document.querySelector('astro-island[ssr]'));
		awake.push(performance.now() - begin);
		const sizes = await Promise.all(bodies);
		[scripts, weight] = [sizes.length, sizes.reduce((a, b) => a + b, 0)];
		await context.close();
	}
	await browser.close();
	const middle = (list: number[]) => [...list].sort((a, b) => a - b)[Math.floor(list.length / 2)]!;
	say(
		'first view of Round on a slow phone',
		`drawn after ${(middle(drawn) / 1000).toFixed(1)} s, listens after ${(middle(awake) / 1000).toFixed(1)} s; ${scripts} scripts, ${(weight / 1024).toFixed(0)} kB gzipped`,
	);
}
