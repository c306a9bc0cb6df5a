import { randomUUID } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import { database } from '@/server/database';
import { dispatch } from '@/server/dispatch';
import { routes } from '@/server/routes';
import { frameSite, undecidedCount } from '@/service/frame';
import { roundView } from '@/service/round';
import { requireSite } from '@/service/site';
import { queriesOf } from '../helpers/count-queries';
import { freshDatabase } from '../helpers/database';
import { DEMO_NOW } from '../helpers/global-setup';

vi.mock('@/server/keep-judged', () => ({ keepJudged: vi.fn(), judgingJob: () => null }));

beforeAll(async () => {
	vi.stubEnv('DATABASE_URL', await freshDatabase('demo'));
});
afterAll(async () => {
	await database().end();
	vi.unstubAllEnvs();
});

let minute = 0;
const sample = (station: string) => {
	const time = new Date(DEMO_NOW + 60_000 * ++minute).toISOString();
	const value = (quantity: string, v: string, unit: string) => ({
		time,
		station,
		instrument: 'plum',
		quantity,
		value: v,
		unit,
	});
	return [value('ph', '6.1', 'pH'), value('ec', '1.9', 'mS/cm'), value('temp', '21', 'C')];
};
async function post(body: unknown, path = '/readings'): Promise<void> {
	const request = new Request(`http://127.0.0.1/api/v1${path}`, {
		method: 'POST',
		headers: { 'idempotency-key': randomUUID() },
		body: JSON.stringify(body),
	});
	const response = await dispatch(routes, path.split('?')[0]!, request, { who: 'grower', device: randomUUID() });
	expect([response.status, await response.text()]).toEqual([201, expect.any(String)]);
}

/** What architecture asks: a page or an entry costs what it shows, not what is stored (common practice, no source). */
describe('asked of the database', () => {
	it('one sample of three values: at most twelve statements', async () => {
		await post(sample('pond'));
		const asked = await queriesOf(() => post(sample('pond')));
		expect(asked.length, asked.join('\n')).toBeLessThanOrEqual(12);
	});
	it('the same on a round', async () => {
		const start = new Request('http://127.0.0.1/api/v1/rounds', { method: 'POST' });
		const round = await (await dispatch(routes, '/rounds', start, { who: 'grower', device: null })).json();
		const asked = await queriesOf(() => post(sample('pond'), `/readings?round=${round.id}`));
		expect(asked.length, asked.join('\n')).toBeLessThanOrEqual(12);
	});
	it('twelve samples in one request: under forty', async () => {
		const twelve = Array.from({ length: 12 }, (_, i) => sample(['pond', 'slabs', 'mix'][i % 3]!)).flat();
		const asked = await queriesOf(() => post(twelve));
		expect(asked.length, asked.join('\n')).toBeLessThan(40);
	});
	it('the Round page: at most fourteen', async () => {
		const pool = database();
		const page = async () => {
			const context = await requireSite(pool);
			await frameSite(pool, context, DEMO_NOW);
			await undecidedCount(pool, context.site.id);
			await roundView(pool, context, DEMO_NOW);
		};
		await page();
		const asked = await queriesOf(page);
		expect(asked.length, asked.join('\n')).toBeLessThanOrEqual(14);
	});
});
