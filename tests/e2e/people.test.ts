import type { Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Answer, type Application, startApplication } from '../helpers/application';
import { awake, expectAccessible, openBrowser, openPage } from '../helpers/browser';

/** Two phones and a laptop: one goes away in the middle of a round, reads on, and comes back; everybody under their own name. */
let app: Application;
type Window = Awaited<ReturnType<typeof openBrowser>>;
let [laptop, phone, other]: Window[] = [];
const OWNER = 'copper kettle under snow';
const WORDS = 'seven herons on one leg';
beforeAll(async () => {
	const hand = { width: 390, height: 844 };
	[app, laptop, phone, other] = await Promise.all([
		startApplication('demo'),
		openBrowser(),
		openBrowser(hand, undefined, true),
		openBrowser(hand),
	]);
	// Passkeys belong to a name and not to an address in numbers.
	app.base = app.base.replace('127.0.0.1', 'localhost');
});
afterAll(async () => {
	await Promise.all([laptop!.close(), phone!.close(), other!.close()]);
	await app.stop();
});
async function token(name: string, passphrase: string): Promise<string> {
	const response = await fetch(`${app.base}/api/v1/sign-in`, {
		method: 'POST',
		body: JSON.stringify({ name, passphrase, as: 'token' }),
	});
	return (await response.json()).token;
}
async function code(page: Page, role: string): Promise<string> {
	await page.getByLabel('Join as').selectOption(role);
	await page.getByRole('button', { name: 'Show a code' }).click();
	await page.locator('[data-join-code]').waitFor();
	return (await page.locator('[data-code]').textContent())!;
}
async function joins(window: Window, joinCode: string, name: string): Promise<Page> {
	const page = await openPage(window.context, `${app.base}/join#${joinCode}`);
	await page.getByLabel('Your name, as it stands beside what you enter').fill(name);
	await page.getByLabel('Passphrase', { exact: true }).fill(WORDS);
	await page.getByRole('button', { name: 'Join' }).click();
	await page.waitForURL(`${app.base}/`);
	await awake(page);
	return page;
}
async function enter(page: Page, line: string): Promise<void> {
	await page.fill('#quick', line);
	await page.keyboard.press('Enter');
}

describe('people', () => {
	let grower: Page;
	let away: Page;
	it('the first grower names themselves by keyboard, and shows a code', async () => {
		grower = await openPage(laptop!.context, `${app.base}/people`);
		await grower.getByLabel('Your name').fill('Wren');
		await grower.keyboard.press('Tab');
		await grower.keyboard.type(OWNER);
		await grower.keyboard.press('Enter');
		await grower.locator('[data-person="Wren"]').waitFor();
		await expectAccessible(grower, ['limewash']);
		await grower.setViewportSize({ width: 1280, height: 800 });
	});
	it('a helper joins on a phone, a visitor on another', async () => {
		away = await joins(phone!, await code(grower, 'helper'), 'Linnet');
		await grower.reload();
		await awake(grower);
		const visitor = await joins(other!, await code(grower, 'visitor'), 'Dunlin');
		// Whoever only looks cannot write: the form says so, and nothing waits to be sent.
		await enter(visitor, 'pond ph 6.3');
		await visitor.getByText('Only a helper or a grower may do this').first().waitFor();
		expect(await visitor.locator('[data-kept]').count()).toBe(0);
		await visitor.close();
	});
	it('the phone goes away in the middle of a round, is loaded anew, reads on, and comes back: each reading once, under its name', async () => {
		const from = Date.now() - 1000;
		// What a walk wants is there some seconds after the first page.
		await expect
			.poll(
				() =>
					away.evaluate(async () => {
						const cache = await caches.open('cordwain-pages');
						return (await cache.keys()).some((k) => k.url.includes('/memory?') && k.url.includes('bench'));
					}),
				{ timeout: 20_000 },
			)
			.toBe(true);
		await phone!.context.setOffline(true);
		await enter(away, 'pond ph 6.21');
		await away.locator('[data-said]', { hasText: 'Nothing is lost' }).waitFor();
		await enter(grower, 'mix ph 5.81');
		await grower.locator('[data-said]', { hasText: 'Saved' }).waitFor();
		await away.reload();
		await awake(away);
		await away.locator('[data-kept="1"]', { hasText: 'pond pH 6.21' }).waitFor();
		// A station whose page was never opened on it, and the checks with what they last remembered.
		await away.goto(`${app.base}/bench?station=slabs`);
		await awake(away);
		await away.fill('#f-ph', '58');
		await away.locator('[data-verdict]').first().waitFor();
		await away.fill('#f-ph', '5.9');
		await away.getByRole('button', { name: /^Save/ }).first().click();
		await away.locator('[data-kept="2"]').waitFor();
		await phone!.context.setOffline(false);
		await expect.poll(() => away.locator('[data-kept]').count()).toBe(0);
		const auth = { authorization: `Bearer ${await token('Wren', OWNER)}` };
		const { readings } = await (await fetch(`${app.base}/api/v1/readings?limit=60`, { headers: auth })).json();
		const fresh = (readings as Answer[])
			.filter((r) => Date.parse(r.time) >= from)
			.map((r) => `${r.station} ${r.value} ${r.entered_by}`)
			.sort();
		expect(fresh).toEqual(['mix 5.81 Wren', 'pond 6.21 Linnet', 'slabs 5.9 Linnet']);
	});
	it('a helper decides nothing, by the page as little as by the API', async () => {
		await away.goto(`${app.base}/review`);
		await awake(away);
		await away.keyboard.press('y');
		await away.getByText('Only a grower may do this').first().waitFor();
		await away.close();
	});
	it('signs in by a passkey that the browser keeps', async () => {
		const cdp = await laptop!.context.newCDPSession(grower);
		await cdp.send('WebAuthn.enable');
		await cdp.send('WebAuthn.addVirtualAuthenticator', {
			options: {
				protocol: 'ctap2',
				transport: 'internal',
				hasResidentKey: true,
				hasUserVerification: true,
				isUserVerified: true,
				automaticPresenceSimulation: true,
			},
		});
		await grower.goto(`${app.base}/people`);
		await awake(grower);
		await grower.getByRole('button', { name: 'Make a passkey on this device' }).click();
		await grower.getByText('The passkey is kept.').waitFor();
		await grower.getByRole('button', { name: 'Sign out' }).click();
		await grower.waitForURL(/\/sign-in/);
		await grower.goto(`${app.base}/trends?station=pond`);
		expect(grower.url()).toContain('/sign-in?to=');
		await awake(grower);
		await expectAccessible(grower, ['limewash']);
		await grower.getByRole('button', { name: 'By passkey' }).click();
		await grower.waitForURL(`${app.base}/trends?station=pond`);
		expect(await grower.locator('[data-me]').textContent()).toBe('Wren');
	});
	it('a device is shared: tap a name, type a PIN, measure; somebody else next', async () => {
		const auth = { authorization: `Bearer ${await token('Linnet', WORDS)}` };
		await fetch(`${app.base}/api/v1/me`, {
			method: 'PUT',
			headers: auth,
			body: JSON.stringify({ so_far: WORDS, pin: '2468' }),
		});
		await grower.goto(`${app.base}/people`);
		await awake(grower);
		await grower.getByLabel(/Call it/).fill('phone at the tank');
		await grower.getByRole('button', { name: 'Share this device' }).click();
		await grower.waitForURL(`${app.base}/`);
		await awake(grower);
		await enter(grower, 'pond ph 6.22');
		await grower.getByText('Say who measures first').first().waitFor();
		await grower.getByRole('button', { name: 'Linnet' }).click();
		await grower.getByLabel('PIN of Linnet').fill('2468');
		await grower.getByRole('button', { name: 'I measure' }).click();
		await grower.locator('[data-measures="Linnet"]').waitFor();
		// What waited for a name is sent under it.
		const newest = async () => {
			const asked = `${app.base}/api/v1/readings?station=pond&quantity=ph&limit=1`;
			const { readings } = await (await fetch(asked, { headers: auth })).json();
			return `${readings[0].value} ${readings[0].entered_by}`;
		};
		await expect.poll(newest).toBe('6.22 Linnet');
	});
});
