import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import { closeDatabase, databaseOf } from '@/server/database';
import { enterSamples } from '@/service/enter';
import { errorsOf } from '@/service/errors';
import { frameSite, undecidedCount } from '@/service/frame';
import { Judging } from '@/service/judgement';
import { roundView } from '@/service/round';
import { requireSite } from '@/service/site';
import { transaction } from '@/store/pool';
import { lockSite } from '@/store/writing';
import { askHere } from '../helpers/ask-here';
import { queriesOf } from '../helpers/count-queries';
import { freshDatabase } from '../helpers/database';
import { DEMO_NOW } from '../helpers/global-setup';

vi.mock('@/server/keep-judged', () => ({ keepJudged: vi.fn(), judgingJob: () => null }));

beforeAll(async () => {
	vi.stubEnv('DATABASE_URL', await freshDatabase('demo'));
});
afterAll(async () => {
	await closeDatabase();
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
	const { status, body: answer } = await askHere('POST', path, body);
	expect([status, answer]).toEqual([201, expect.anything()]);
}

/** What architecture asks: a page or an entry costs what it shows, not what is stored (common practice, no source). */
describe('asked of the database', () => {
	it('one sample of three values: at most twelve statements', async () => {
		await post(sample('pond'));
		const asked = await queriesOf(() => post(sample('pond')));
		expect(asked.length, asked.join('\n')).toBeLessThanOrEqual(12);
	});
	it('the same on a round', async () => {
		const { body: round } = await askHere('POST', '/rounds');
		const asked = await queriesOf(() => post(sample('pond'), `/readings?round=${round.id}`));
		expect(asked.length, asked.join('\n')).toBeLessThanOrEqual(12);
	});
	it('a sample after an event in order: no more, nothing is loaded again', async () => {
		const time = new Date(DEMO_NOW + 60_000 * ++minute).toISOString();
		await post({ station: 'pond', kind: 'water_added', amount: 5, unit: 'L', time }, '/events');
		const asked = await queriesOf(() => post(sample('pond')));
		expect(asked.length, asked.join('\n')).toBeLessThanOrEqual(12);
	});
	it('a page that looked at the site before an entry: it loads nothing again, and neither does the next entry', async () => {
		const pool = await databaseOf(1);
		const before = await requireSite(pool);
		await post(sample('pond'));
		expect(await queriesOf(() => Judging.present(pool, before, DEMO_NOW))).toEqual([]);
		expect(await queriesOf(() => errorsOf(pool, before, 'ph'))).toEqual([]);
		const asked = await queriesOf(() => post(sample('pond')));
		expect(asked.length, asked.join('\n')).toBeLessThanOrEqual(12);
	});
	it('what was taken back with its transaction is known to nobody', async () => {
		const expected = async () => {
			const { engine } = await Judging.present(await databaseOf(1), await requireSite(await databaseOf(1)), DEMO_NOW);
			return engine.memory.lookHistory('pond', 'ph').lastAt;
		};
		const before = await expected();
		const [one] = sample('pond');
		const typed = { quantity: 'ph', value: '6.1', unit: 'pH', instrument: 'plum' } as const;
		const given = { at: Date.parse(one!.time), station: 'pond', readings: [typed] };
		const entered = transaction(await databaseOf(1), async (client) => {
			await lockSite(client);
			await enterSamples(client, await requireSite(client), [given], { source: 'test', who: 'grower', now: given.at });
			const { engine } = await Judging.present(client, await requireSite(client), given.at);
			expect(engine.memory.lookHistory('pond', 'ph').lastAt).toBe(given.at);
			throw new Error('taken back');
		});
		await expect(entered).rejects.toThrow('taken back');
		expect(await expected()).toBe(before);
	});
	it('twelve samples in one request: under forty', async () => {
		const twelve = Array.from({ length: 12 }, (_, i) => sample(['pond', 'slabs', 'mix'][i % 3]!)).flat();
		const asked = await queriesOf(() => post(twelve));
		expect(asked.length, asked.join('\n')).toBeLessThan(40);
	});
	it('the Round page: at most fourteen', async () => {
		const pool = await databaseOf(1);
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
