import { once } from 'node:events';
import { createServer, type Server } from 'node:http';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { signatureOf } from '@/server/watch/webhook';
import { createPool, type Pool } from '@/store/pool';
import { type Answer, type Application, freePort, postJson, startApplication } from '../helpers/application';

/** What is watched for: told once when it begins and once when it is over, by mail and webhook, over restarts and when nobody listens. */
let app: Application;
let pool: Pool;
let token = '';
let hook: Server;
let hookPort = 0;
let listening = true;
const heard: { body: string; time: string; signature: string }[] = [];
const MORE = { CORDWAIN_JOBS: 'on' };
let mailbox = 0;

beforeAll(async () => {
	hook = createServer((request, response) => {
		const chunks: Buffer[] = [];
		request.on('data', (c) => chunks.push(c));
		request.on('end', () => {
			if (listening)
				heard.push({
					body: Buffer.concat(chunks).toString(),
					time: String(request.headers['cordwain-time']),
					signature: String(request.headers['cordwain-signature']),
				});
			response.writeHead(listening ? 204 : 500).end();
		});
	}).listen(0, '127.0.0.1');
	await once(hook, 'listening');
	hookPort = (hook.address() as { port: number }).port;
	mailbox = await freePort();
	app = await startApplication('empty', undefined, { ...MORE, CORDWAIN_MAILBOX: String(mailbox) });
	pool = createPool(app.databaseUrl);
	await put('/site', { name: 'Yard', timezone: 'UTC' });
	await postJson(app.base, '/stations', { code: 'tank', name: 'Tank', kind: 'reservoir', ranges: { ph: [5.5, 6.5] } });
	await postJson(app.base, '/nodes', { code: 'post', station: 'tank' });
	token = (await postJson(app.base, '/nodes/post/token', {})).body.token;
	const mail = {
		host: 'mailbox',
		port: 25,
		secure: false,
		user: '',
		password: 'hush',
		from: 'yard@yard.example',
		to: 'grower@yard.example',
	};
	expect(
		(await put('/watch/settings', { mail, webhook: { url: `http://127.0.0.1:${hookPort}/in`, secret: 'salt' } }))
			.status,
	).toBe(200);
});
afterAll(async () => {
	await pool.end();
	await app.stop();
	hook.close();
});
const put = (path: string, body: unknown) =>
	fetch(`${app.base}/api/v1${path}`, { method: 'PUT', body: JSON.stringify(body) });
const ask = async (path: string): Promise<Answer> => (await fetch(`${app.base}/api/v1${path}`)).json();
const MINUTE = 60_000;
let clock = Date.now() - 120 * MINUTE;
/** Sends values a minute apart, up to now. */
async function send(quantity: string, values: number[], unit: string): Promise<void> {
	const from = clock;
	clock += values.length * MINUTE;
	const samples = values.map((value, i) => ({
		at: new Date(from + (i + 1) * MINUTE).toISOString(),
		quantity,
		value,
		unit,
	}));
	const response = await fetch(`${app.base}/api/v1/ingest`, {
		method: 'POST',
		headers: { authorization: `Bearer ${token}` },
		body: JSON.stringify({ samples }),
	});
	expect(response.status).toBe(202);
}
const mails = async (): Promise<string[]> => (await ask('/mailbox')).mails.map((m: Answer) => m.body as string);
const soon = { timeout: 15_000, interval: 100 };

describe('watching', () => {
	it('refuses what cannot be watched', async () => {
		const refused = async (body: unknown) => (await postJson(app.base, '/watch/conditions', body)).status;
		expect(await refused({ station: 'tank', kind: 'out-of-range' })).toBe(422);
		expect(await refused({ station: 'tank', kind: 'out-of-range', quantity: 'ec' })).toBe(422);
		expect(await refused({ station: 'heron', kind: 'silent', minutes: 5 })).toBe(422);
		expect(await refused({ station: 'tank', kind: 'below-level', quantity: 'level' })).toBe(422);
		expect((await put('/watch/settings', { webhook: { url: 'file:///etc/passwd', secret: '' } })).status).toBe(422);
		expect((await put('/watch/settings', { quiet: { from: 5000, to: 0 } })).status).toBe(422);
	});
	it('tells of a value out of its range once, by mail and signed by webhook, and once when it is over', async () => {
		const { status } = await postJson(app.base, '/watch/conditions', {
			station: 'tank',
			kind: 'out-of-range',
			quantity: 'ph',
			minutes: 10,
			by_mail: true,
			by_webhook: true,
		});
		expect(status).toBe(201);
		await send('ph', [5.9, 5.91, 5.92, 5.9, 5.91, 5.9], 'pH');
		// Too short to be told.
		for (let v = 5.95; v < 6.75; v += 0.05) await send('ph', [Number(v.toFixed(2))], 'pH');
		await send(
			'ph',
			Array.from({ length: 30 }, (_, i) => 6.75 + 0.01 * (i % 3)),
			'pH',
		);
		await expect.poll(async () => (await mails()).length, soon).toBe(1);
		await send(
			'ph',
			Array.from({ length: 10 }, (_, i) => 6.76 + 0.01 * (i % 3)),
			'pH',
		);
		for (let v = 6.7; v > 6; v -= 0.05) await send('ph', [Number(v.toFixed(2))], 'pH');
		await expect.poll(async () => (await mails()).length, soon).toBe(2);
		await expect.poll(() => heard.length, soon).toBe(2);
		const [over, begun] = await mails();
		expect(begun).toMatch(/Tank: pH has been out of its range since .*; it is pH 6\.[5-8]\d*, the limit pH 6\.5/);
		expect(over).toBe('Tank: pH is back in its range.');
		for (const h of heard) expect(h.signature).toBe(signatureOf('salt', Number(h.time), h.body));
		expect(heard.map((h) => JSON.parse(h.body)).map((b) => [b.says, b.station, b.kind])).toEqual([
			['begun', 'tank', 'out-of-range'],
			['ended', 'tank', 'out-of-range'],
		]);
		const { alerts, unseen } = await ask('/watch');
		expect(alerts).toHaveLength(1);
		expect([alerts[0].ended_at === null, unseen]).toEqual([false, 1]);
		await postJson(app.base, '/watch/seen', {});
		expect((await ask('/watch')).unseen).toBe(0);
	});
	it('never shows a password again, and keeps it when it is sent back as it is shown', async () => {
		const { settings } = await ask('/watch');
		expect(JSON.stringify(settings)).not.toMatch(/hush|salt/);
		const kept = async () => (await pool.query('SELECT mail, webhook FROM watch_settings')).rows[0];
		const before = await kept();
		expect(JSON.stringify(before)).not.toMatch(/hush|salt/);
		expect((await put('/watch/settings', settings)).status).toBe(200);
		expect(await kept()).toEqual(before);
	});
	it('goes on after the server was killed, and tries an address that was away again', async () => {
		listening = false;
		heard.length = 0;
		await postJson(app.base, '/watch/conditions', {
			station: 'tank',
			kind: 'below-level',
			quantity: 'level',
			least: 200,
			by_webhook: true,
		});
		await send('level', [250, 251, 250, 249], 'mm');
		await send('level', [180, 181, 180, 180, 179, 180, 181, 180], 'mm');
		// Kept in the database, and tried in vain.
		await expect.poll(async () => (await ask('/watch')).failed.length, { timeout: 15_000, interval: 100 }).toBe(1);
		const url = app.databaseUrl;
		await app.kill();
		listening = true;
		app = await startApplication({ databaseUrl: url }, undefined, { ...MORE, CORDWAIN_MAILBOX: String(mailbox) });
		await ask('/watch');
		await expect.poll(() => heard.length, { timeout: 30_000, interval: 200 }).toBe(1);
		const told = JSON.parse(heard[0]!.body);
		expect(told).toMatchObject({ says: 'begun', kind: 'below-level' });
		// The mean of the newest five minutes.
		expect(Math.abs(told.value - 180)).toBeLessThan(2);
	}, 45_000);
	it('holds its tongue while it is snoozed, with a reason', async () => {
		const { alerts } = await ask('/watch');
		const low = alerts.find((a: Answer) => a.kind === 'below-level');
		expect((await postJson(app.base, `/watch/alerts/${low.id}/snooze`, { minutes: 60 })).status).toBe(422);
		expect(
			(await postJson(app.base, `/watch/alerts/${low.id}/snooze`, { minutes: 60, reason: 'it is being filled' }))
				.status,
		).toBe(200);
		heard.length = 0;
		await send('level', [240, 250, 251, 250, 250, 251, 249, 250], 'mm');
		await expect
			.poll(async () => (await ask('/watch')).alerts.find((a: Answer) => a.id === low.id).ended_at, soon)
			.not.toBeNull();
		expect(heard).toEqual([]);
	});
});
