import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import { closeDatabase } from '@/server/database';
import { askHere } from '../helpers/ask-here';
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

const DAY = 86_400_000;
/** A pH that was written down after four seconds: doubted, whatever it says. */
const hasty = async (day: number, value = '6.1'): Promise<number> => {
	const time = new Date(DEMO_NOW + day * DAY).toISOString();
	const reading = { time, station: 'pond', instrument: 'plum', quantity: 'ph', value, unit: 'pH', wait_s: 4 };
	const { body } = await askHere('POST', '/readings', reading);
	expect(body.samples[0].readings[0]).toMatchObject({ cause: 'not-settled' });
	return body.samples[0].readings[0].id;
};
const episodesHere = async () =>
	(await askHere('GET', '/episodes')).body.episodes.filter(
		(e: { station: string; cause: string; from: string }) =>
			e.station === 'pond' && e.cause === 'not-settled' && Date.parse(e.from) > DEMO_NOW,
	);

describe('what happened to many readings', () => {
	const ids: number[] = [];
	it('is one line of Review: from when to when, and how many; three days without it end it', async () => {
		for (const day of [1, 2, 3]) ids.push(await hasty(day));
		for (const day of [6, 7]) ids.push(await hasty(day));
		expect(await episodesHere()).toMatchObject([
			{ readings: 2, newest: ids[4], flag: 3, instrument: 'plum', quantity: 'ph' },
			{ readings: 3, newest: ids[2], from: new Date(DEMO_NOW + DAY).toISOString().replace('.000', '') },
		]);
	});
	it('is decided in one go, up to the reading that was seen: a later one waits on', async () => {
		expect(await askHere('POST', `/episodes/${ids[1]}/decision`, { kind: 'keep' })).toMatchObject({
			body: { decided: 2 },
		});
		expect(await episodesHere()).toMatchObject([{ newest: ids[4] }, { readings: 1, newest: ids[2] }]);
	});
	it('is discarded with a reason, which stays with each', async () => {
		expect(await askHere('POST', `/episodes/${ids[4]}/decision`, { kind: 'discard' })).toMatchObject({ status: 422 });
		const body = { kind: 'discard', reason: 'in a hurry' };
		expect(await askHere('POST', `/episodes/${ids[4]}/decision`, body)).toMatchObject({ body: { decided: 2 } });
		for (const id of [ids[3], ids[4]]) {
			const { decisions } = (await askHere('GET', `/readings/${id}/history`)).body;
			expect(decisions).toMatchObject([body]);
		}
	});
	it('that somebody decided meanwhile is not decided again', async () => {
		const again = await askHere('POST', `/episodes/${ids[4]}/decision`, { kind: 'keep' });
		expect(again).toMatchObject({ status: 409, body: { type: expect.stringContaining('decided-meanwhile') } });
	});
	it('slips are lines of their own: each has its own value to be put right', async () => {
		const time = (day: number) => new Date(DEMO_NOW + day * DAY).toISOString();
		for (const day of [9, 10])
			await askHere('POST', '/readings', {
				time: time(day),
				station: 'pond',
				instrument: 'plum',
				quantity: 'ph',
				value: '612',
				unit: 'pH',
			});
		const { episodes } = (await askHere('GET', '/episodes')).body;
		const slips = episodes.filter(
			(e: { cause: string; from: string }) => e.cause === 'decimal-slip' && Date.parse(e.from) > DEMO_NOW,
		);
		expect(slips.map((e: { readings: number }) => e.readings)).toEqual([1, 1]);
	});
});
