import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { type BrowserContext, chromium } from 'playwright-core';

const FLAGS = [
	'--headless',
	'--no-sandbox',
	'--disable-gpu',
	'--disable-quic',
	'--no-first-run',
	'--disable-background-networking',
	'--disable-component-update',
	'--disable-sync',
];

/** Debian's Chromium with an empty profile of its own. */
export async function openBrowser(
	size = { width: 1280, height: 800 },
): Promise<{ context: BrowserContext; close: () => Promise<void> }> {
	const profile = await mkdtemp(join(tmpdir(), 'cordwain-browser-'));
	const context = await chromium.launchPersistentContext(profile, {
		executablePath: '/usr/bin/chromium',
		args: FLAGS,
		viewport: size,
		acceptDownloads: true,
	});
	context.setDefaultTimeout(15_000);
	return {
		context,
		close: async () => {
			await context.close();
			await rm(profile, { recursive: true, force: true });
		},
	};
}
