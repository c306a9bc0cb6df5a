import { afterAll, beforeAll, expect, it } from 'vitest';
import { type Answer, type Application, startApplication } from '../helpers/application';

/** Two sensors in one water, of which one wanders off (common practice: each within ±0.1 pH is sound). */
let app: Application;
beforeAll(async () => {
	app = await startApplication('demo');
});
afterAll(() => app.stop());
const HOUR = 3_600_000;
const NOW = Math.floor(Date.now() / HOUR) * HOUR;
const call = async (method: string, path: string, body?: unknown, token?: string): Promise<Answer> => {
	const response = await fetch(`${app.base}/api/v1${path}`, {
		method,
		...(body === undefined ? {} : { body: JSON.stringify(body) }),
		...(token ? { headers: { authorization: `Bearer ${token}` } } : {}),
	});
	expect([path, response.status < 300]).toEqual([path, true]);
	return response.json();
};
/** A node that has told an hour's pH for twelve days. */
async function node(code: string, ph: (hour: number) => number): Promise<void> {
	await call('POST', '/nodes', { code, station: 'mix' });
	const { token } = await call('POST', `/nodes/${code}/token`);
	const samples = Array.from({ length: 288 }, (_, h) => ({
		at: new Date(NOW - (287 - h) * HOUR).toISOString(),
		quantity: 'ph',
		value: Number((ph(h) + 0.01 * Math.sin(h * 12.9898)).toFixed(3)),
		unit: 'pH',
	}));
	await call('POST', '/ingest', { samples }, token);
}

it('is told of, with since when and by how much; which of them is off is known once hands have read beside them', async () => {
	await node('rail', () => 5.8);
	expect((await call('GET', '/sensors/apart')).apart).toEqual([]);
	await node('weir', (h) => 5.8 + Math.max(h - 96, 0) * 0.003);
	const [found, ...others] = (await call('GET', '/sensors/apart')).apart;
	expect(others).toEqual([]);
	expect(found).toMatchObject({ station: 'mix', quantity: 'ph', off: null });
	expect(Math.abs(found.by)).toBeGreaterThan(0.25);
	for (const hours of [40, 20])
		await call('POST', '/readings', {
			time: new Date(NOW - hours * HOUR).toISOString(),
			station: 'mix',
			instrument: 'plum',
			quantity: 'ph',
			value: '5.82',
			unit: 'pH',
			wait_s: 60,
		});
	const [known] = (await call('GET', '/sensors/apart')).apart;
	expect(known.off).toBe([known.first, known.second].find((code: string) => code.includes('weir')));
});
it('what a sensor told last stands on the line, and nothing older than a day', async () => {
	const { stations } = await call('GET', '/rounds/line');
	const of = (code: string) => stations.find((s: Answer) => s.station === code).told;
	expect(of('mix')).toEqual([
		expect.objectContaining({ quantity: 'ph', at: new Date(NOW).toISOString().replace('.000', '') }),
	]);
	// The posts of the demo ended in July.
	expect(of('pond')).toEqual([]);
});
