import { describe, expect, it } from 'vitest';
import { enterSamples } from '@/service/enter';
import { enterEvent } from '@/service/events';
import { judgeWhatIsDue, judgingIsDue } from '@/service/judging';
import { saveInstrument, saveStation, saveSystem } from '@/service/setup';
import { requireSite } from '@/service/site';
import { type Pool, transaction } from '@/store/pool';
import { listReadings } from '@/store/readings';
import { insertSite } from '@/store/site';
import { withDatabase } from '../helpers/database';

/** What was wanted in May is what May is judged by, whatever is wanted since (common practice of records, no source). */
const DAY = 86_400_000;
const ago = (days: number): number => Date.now() - days * DAY;
const by = { source: 'test', who: 'grower', now: Date.now() } as const;

/** A drain that nothing was read at: of a first reading the range alone says whether it is far from everything. */
async function tank(pool: Pool): Promise<void> {
	await transaction(pool, (client) => insertSite(client, { name: 'Yard', timezone: 'UTC', units: {}, settings: {} }));
	await saveInstrument(pool, await requireSite(pool), { code: 'plum', kind: 'combined' }, 'grower');
	await saveSystem(pool, await requireSite(pool), { code: 'raft', kind: 'raft_pond', volumeL: 100 }, 'grower');
	await saveStation(
		pool,
		await requireSite(pool),
		{ code: 'pond', kind: 'reservoir', system: 'raft', ranges: { ec: [1200, 1600] } },
		'grower',
	);
}
const enter = async (pool: Pool, at: number, ec: string): Promise<void> => {
	const readings = [{ quantity: 'ec' as const, value: ec, unit: 'mS/cm', instrument: 'plum' }];
	await enterSamples(pool, await requireSite(pool), [{ at, station: 'pond', readings }], by);
};
const causes = async (pool: Pool): Promise<string[]> =>
	(await listReadings(pool, 1, { order: 'oldest', limit: 100 })).map((r) => r.cause);
const ranges = async (pool: Pool, ec: [number, number], since?: 'now' | 'always'): Promise<void> => {
	await saveStation(
		pool,
		await requireSite(pool),
		{ code: 'pond', kind: 'reservoir', ranges: { ec } },
		'grower',
		since,
	);
};

describe('a range that was changed', () => {
	it('does not judge anew what was judged before; what is entered of then is judged by what was wanted then', () =>
		withDatabase('empty', async (pool) => {
			await tank(pool);
			await enter(pool, ago(30), '1.40');
			await ranges(pool, [4000, 4200]);
			const site = await requireSite(pool);
			expect(await judgingIsDue(pool, site)).toBe(false);
			expect(site.known.stations.get('pond')?.before).toMatchObject([{ ranges: { ec: { low: 1200, high: 1600 } } }]);
			// Late: at home in the range of then, and far from that of now.
			await enter(pool, ago(29), '1.45');
			expect(await causes(pool)).toEqual(['', '']);
		}));
	it('and, where it was always so, does', () =>
		withDatabase('empty', async (pool) => {
			await tank(pool);
			await enter(pool, ago(30), '1.40');
			await ranges(pool, [4000, 4200]);
			await ranges(pool, [4000, 4300], 'always');
			const site = await requireSite(pool);
			expect(site.known.stations.get('pond')?.before).toBeUndefined();
			expect(await judgingIsDue(pool, site)).toBe(true);
			await judgeWhatIsDue(pool, 1, Date.now());
			expect(await causes(pool)).not.toEqual(['']);
		}));
	it('leaves no version while nothing was read, nor where nothing of it was changed', () =>
		withDatabase('empty', async (pool) => {
			await tank(pool);
			await ranges(pool, [1000, 1500]);
			await enter(pool, ago(1), '1.40');
			await ranges(pool, [1000, 1500]);
			expect((await requireSite(pool)).versions).toEqual([]);
		}));
});

describe('a volume that was changed', () => {
	it('is that of then for what was poured then: of the station, or of its system', () =>
		withDatabase('empty', async (pool) => {
			await tank(pool);
			const pour = async (at: number) =>
				enterEvent(
					pool,
					await requireSite(pool),
					{ at, station: 'pond', kind: 'water_added', amount: 100, unitText: 'L', product: '', note: '' },
					by,
				);
			for (let d = 40; d > 31; d--) await enter(pool, ago(d), '1.40');
			// Twice the water is half the EC, in a system of 100 L; it is emptied and a larger one put up afterwards.
			await saveSystem(pool, await requireSite(pool), { code: 'raft', kind: 'raft_pond', volumeL: 10_000 }, 'grower');
			const before = (await requireSite(pool)).known.stations.get('pond')!;
			expect([before.volumeL, before.before?.map((v) => v.volumeL)]).toEqual([10_000, [100]]);
			await pour(ago(31));
			await enter(pool, ago(30.9), '0.70');
			expect((await causes(pool)).at(-1)).toBe('');
			// The same said of the present volume would be a doubt.
			await saveSystem(
				pool,
				await requireSite(pool),
				{ code: 'raft', kind: 'raft_pond', volumeL: 9_999 },
				'grower',
				'always',
			);
			await judgeWhatIsDue(pool, 1, Date.now());
			expect((await causes(pool)).at(-1)).not.toBe('');
		}));
	it('each of two that change is followed through the other’s changes', () =>
		withDatabase('empty', async (pool) => {
			await tank(pool);
			await enter(pool, ago(30), '1.40');
			const volumes = async () =>
				(await requireSite(pool)).known.stations.get('pond')!.before?.map((v) => v.volumeL) ?? [];
			await saveSystem(pool, await requireSite(pool), { code: 'raft', kind: 'raft_pond', volumeL: 200 }, 'grower');
			await saveStation(pool, await requireSite(pool), { code: 'pond', kind: 'reservoir', volumeL: 60 }, 'grower');
			await saveSystem(pool, await requireSite(pool), { code: 'raft', kind: 'raft_pond', volumeL: 300 }, 'grower');
			await saveStation(pool, await requireSite(pool), { code: 'pond', kind: 'reservoir', volumeL: null }, 'grower');
			expect(await volumes()).toEqual([100, 200, 60, 60]);
			expect((await requireSite(pool)).known.stations.get('pond')!.volumeL).toBe(300);
		}));
});
