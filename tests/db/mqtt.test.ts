import mqtt from 'mqtt';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { openBroker } from '@/server/ingest/broker';
import { Outbox } from '@/sim/outbox';
import { createPool, type Pool } from '@/store/pool';
import { type Application, freePort, postJson, startApplication } from '../helpers/application';
import { differingRollups, rawOf } from '../helpers/streams';

/** Over a broker: every message once, whoever is away meanwhile. */
let app: Application;
let pool: Pool;
let port = 0;
let closeBroker: () => Promise<void>;

beforeAll(async () => {
	port = await freePort();
	closeBroker = await openBroker(port);
	app = await startApplication('empty', undefined, { MQTT_URL: `mqtt://127.0.0.1:${port}` });
	pool = createPool(app.databaseUrl);
	await fetch(`${app.base}/api/v1/site`, { method: 'PUT', body: JSON.stringify({ name: 'Yard', timezone: 'UTC' }) });
	await postJson(app.base, '/stations', { code: 'tank', kind: 'reservoir' });
	await postJson(app.base, '/nodes', { code: 'post', station: 'tank' });
});
afterAll(async () => {
	await pool.end();
	await app.stop();
	await closeBroker();
});

const BEGIN = Date.parse('2026-07-01T00:00:00Z');
const sample = (i: number) => ({
	at: new Date(BEGIN + i * 60_000).toISOString(),
	quantity: 'ph',
	value: Number((5.9 + 0.01 * Math.sin(i)).toFixed(3)),
	unit: 'pH',
});

it('a broker that was away, a message that is none, a node nobody knows: what a node kept arrives, once', async () => {
	const client = mqtt.connect(`mqtt://127.0.0.1:${port}`, { reconnectPeriod: 200, connectTimeout: 2000 });
	client.on('error', () => {});
	await new Promise<void>((connected) => client.once('connect', () => connected()));
	const box = new Outbox();
	const attempt = async (batch: readonly ReturnType<typeof sample>[]) => {
		if (!client.connected) return { againInS: 0.2 };
		try {
			for (const { quantity, ...s } of batch)
				await Promise.race([
					client.publishAsync(`cordwain/post/${quantity}`, JSON.stringify(s), { qos: 1 }),
					new Promise((_, fail) => setTimeout(() => fail(new Error('no answer')), 1500)),
				]);
			return 'sent' as const;
		} catch {
			return { againInS: 0.2 };
		}
	};
	for (const [topic, payload] of [
		['cordwain/heron/ph', '5.9'],
		['cordwain/post/ph', 'low'],
		['cordwain/post/acidity', '1'],
		['cordwain/post/ph/more', '1'],
		['cordwain/post/ph', '{"value":"5.9"}'],
	])
		await client.publishAsync(topic!, payload!, { qos: 1 });
	const until = async (from: number, to: number) => {
		for (let i = from; i < to; i++) box.put([sample(i)]);
		while (box.size > 0) {
			await box.send(Date.now(), attempt);
			await new Promise((r) => setTimeout(r, 50));
		}
	};
	await until(0, 40);
	await expect.poll(async () => (await rawOf(pool, 'post')).length).toBe(40);
	await closeBroker();
	for (let i = 40; i < 80; i++) box.put([sample(i)]);
	await box.send(Date.now(), attempt);
	expect(box.size).toBe(40);
	closeBroker = await openBroker(port);
	// This broker forgets its sessions when it ends: the application has to be back before what waits is sent.
	await new Promise((r) => setTimeout(r, 2600));
	await until(80, 100);
	await expect.poll(async () => (await rawOf(pool, 'post')).length).toBe(100);
	const raw = await rawOf(pool, 'post');
	expect(raw.map((r) => r.value)).toEqual(Array.from({ length: 100 }, (_, i) => sample(i).value));
	expect(await differingRollups(pool, 'post')).toEqual([]);
	// A bare number is of now, in the canonical unit.
	await client.publishAsync('cordwain/post/ec', '1712', { qos: 1 });
	await expect
		.poll(async () => (await rawOf(pool, 'post')).filter((r) => r.quantity === 'ec').map((r) => r.value))
		.toEqual([1712]);
	// Two sites with a node of one name: each is told by its number, and what names none is nobody's.
	const second = (await postJson(app.base, '/sites', { name: 'Hill Yard', timezone: 'Europe/Dublin' })).body.id;
	const there = { 'x-cordwain-site': String(second) };
	expect((await postJson(app.base, '/stations', { code: 'tank', kind: 'reservoir' }, there)).status).toBe(201);
	expect((await postJson(app.base, '/nodes', { code: 'post', station: 'tank' }, there)).status).toBe(201);
	for (const [topic, value] of [
		['cordwain/post/temp', '11'],
		['cordwain/99/post/temp', '12'],
		[`cordwain/${second}/post/temp`, '13'],
		['cordwain/1/post/temp', '14'],
	])
		await client.publishAsync(topic!, value!, { qos: 1 });
	const temps = async () =>
		(
			await pool.query(
				"SELECT s.site_id AS site, s.value FROM sensor_sample s JOIN series x ON x.site_id = s.site_id AND x.id = s.series_id WHERE x.quantity = 'temp' ORDER BY s.value",
			)
		).rows;
	const each = [
		{ site: second, value: 13 },
		{ site: 1, value: 14 },
	];
	await expect.poll(temps).toEqual(each);
	await client.endAsync(true);
}, 60_000);
