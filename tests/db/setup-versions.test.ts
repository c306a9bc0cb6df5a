import { describe, expect, it } from 'vitest';
import { stationThen } from '@/core/judge/context';
import { instrumentAt } from '@/core/reading/instrument-at';
import { enterCalibration } from '@/service/calibrate';
import { enterSamples } from '@/service/enter';
import { enterEvent } from '@/service/events';
import { judgeWhatIsDue, judgingIsDue } from '@/service/judging';
import { Refusal } from '@/service/refusal';
import { type Since, saveInstrument, saveStation, saveSystem } from '@/service/setup';
import { requireSite } from '@/service/site';
import { dueFrom } from '@/store/judging';
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
const ranges = async (pool: Pool, ec: [number, number], since?: Since): Promise<void> => {
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
			await ranges(pool, [4000, 4200], 'always');
			const site = await requireSite(pool);
			expect(site.known.stations.get('pond')?.before).toBeUndefined();
			expect(await judgingIsDue(pool, site)).toBe(true);
			await judgeWhatIsDue(pool, 1, Date.now());
			expect(await causes(pool)).not.toEqual(['']);
		}));
	it('since a time that is past judges what was read since then again, and that before by what was wanted before', () =>
		withDatabase('empty', async (pool) => {
			await tank(pool);
			await enter(pool, ago(30), '1.40');
			await ranges(pool, [4000, 4200], ago(20));
			const site = await requireSite(pool);
			expect(site.known.stations.get('pond')?.before).toMatchObject([{ ranges: { ec: { low: 1200, high: 1600 } } }]);
			expect(await dueFrom(pool, 1)).toBeGreaterThan(ago(20.1));
			await judgeWhatIsDue(pool, 1, Date.now());
			await enter(pool, ago(25), '1.41');
			expect(await causes(pool)).toEqual(['', '']);
			expect(stationThen(site.known, 'pond', ago(19)).ranges.ec).toEqual({ low: 4000, high: 4200 });
			expect(stationThen(site.known, 'pond', ago(21)).ranges.ec).toEqual({ low: 1200, high: 1600 });
		}));
	it('is said afterwards to have been since a time: what was changed in between is gone, what was before stays', () =>
		withDatabase('empty', async (pool) => {
			await tank(pool);
			await enter(pool, ago(30), '1.40');
			await ranges(pool, [1300, 1700], ago(25));
			await ranges(pool, [1350, 1750], ago(5));
			await ranges(pool, [1400, 1800]);
			expect((await requireSite(pool)).versions.map((v) => v.ranges?.ec?.[0])).toEqual([1200, 1300, 1350]);
			// Nothing is changed but since when.
			await ranges(pool, [1400, 1800], ago(10));
			const { versions, known } = await requireSite(pool);
			expect(versions.map((v) => v.ranges?.ec?.[0])).toEqual([1200, 1300]);
			const low = [26, 24, 11, 9, 0].map((days) => stationThen(known, 'pond', ago(days)).ranges.ec?.low);
			expect(low).toEqual([1200, 1300, 1300, 1400, 1400]);
			await expect(ranges(pool, [1000, 1800], Date.now() + DAY)).rejects.toThrow(Refusal);
			expect((await requireSite(pool)).known.stations.get('pond')?.ranges.ec?.low).toBe(1400);
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

describe('an instrument that was changed', () => {
	const pen = { code: 'brass', kind: 'ec', ppmScale: 500 } as const;
	type Pen = Omit<Parameters<typeof saveInstrument>[2], 'code' | 'kind'>;
	const set = async (pool: Pool, change: Pen, since?: Since) =>
		void (await saveInstrument(pool, await requireSite(pool), { ...pen, ...change }, 'grower', since));
	const ppm = async (pool: Pool, at: number, value: string, tempC?: number): Promise<void> => {
		const readings = [{ quantity: 'tds' as const, value, unit: 'ppm', instrument: 'brass', ...(tempC && { tempC }) }];
		await enterSamples(pool, await requireSite(pool), [{ at, station: 'pond', readings }], by);
	};
	/** What each was understood as, and what it is shown as where that differs, µS/cm. */
	const shown = async (pool: Pool) =>
		(await listReadings(pool, 1, { order: 'oldest', limit: 100 })).map((r) => [
			Math.round(r.value),
			r.restatedStatus === 'restated' ? Math.round(r.restated!) : null,
		]);

	it('to another scale showed on the first what it showed before, entered then or late', () =>
		withDatabase('empty', async (pool) => {
			await tank(pool);
			await set(pool, {});
			await ppm(pool, ago(30), '700');
			await set(pool, { ppmScale: 700 });
			await ppm(pool, ago(29), '700');
			expect(await shown(pool)).toEqual([
				[1400, null],
				[1400, null],
			]);
			await ppm(pool, Date.now(), '700');
			expect((await shown(pool)).at(-1)).toEqual([1000, null]);
			// It had been on the second all the time: said afterwards, of a change that was saved already.
			await set(pool, { ppmScale: 700 }, 'always');
			expect((await requireSite(pool)).versions).toEqual([]);
			expect(await shown(pool)).toEqual([
				[1400, 1000],
				[1400, 1000],
				[1000, null],
			]);
		}));

	it('to another scale since a time showed on the first until then', () =>
		withDatabase('empty', async (pool) => {
			await tank(pool);
			await set(pool, {});
			await ppm(pool, ago(30), '700');
			await ppm(pool, ago(10), '700');
			await set(pool, { ppmScale: 700 }, ago(20));
			expect(await shown(pool)).toEqual([
				[1400, null],
				[1400, 1000],
			]);
			// It was earlier.
			await set(pool, { ppmScale: 700 }, ago(31));
			expect(await shown(pool)).toEqual([
				[1400, 1000],
				[1400, 1000],
			]);
		}));

	it('that nobody had named a scale of has the one that is named now all along', () =>
		withDatabase('empty', async (pool) => {
			await tank(pool);
			await set(pool, { ppmScale: null });
			const readings = [{ quantity: 'tds' as const, value: '700', unit: 'ppm500', instrument: 'brass' }];
			await enterSamples(pool, await requireSite(pool), [{ at: ago(3), station: 'pond', readings }], by);
			await set(pool, { ppmScale: 700 });
			expect(await shown(pool)).toEqual([[1400, 1000]]);
			expect((await requireSite(pool)).versions).toEqual([]);
		}));

	it('compensated before as it did before', () =>
		withDatabase('empty', async (pool) => {
			await tank(pool);
			await set(pool, {});
			await ppm(pool, ago(3), '500', 15);
			await set(pool, { compensates: false });
			await ppm(pool, Date.now(), '500', 15);
			// 2 % for each of ten degrees: 1000 µS/cm at 15 °C are 1250 at 25.
			expect(await shown(pool)).toEqual([
				[1000, null],
				[1000, 1250],
			]);
		}));

	it('that counts drops has for each time what a drop stood for then', () =>
		withDatabase('empty', async (pool) => {
			await tank(pool);
			const drop = (value: number) => ({ perDrop: { alkalinity: { value, unit: 'dKH' as const } } });
			await set(pool, drop(0.5));
			await ppm(pool, ago(3), '700');
			await set(pool, drop(1));
			const kit = (await requireSite(pool)).known.instruments.get('brass')!;
			const stoodFor = (at: number) => instrumentAt(kit, at).perDrop?.alkalinity?.value;
			expect([stoodFor(ago(2)), stoodFor(Date.now() + DAY)]).toEqual([0.5, 1]);
		}));

	it('was overdue by the interval that was chosen then', () =>
		withDatabase('empty', async (pool) => {
			await tank(pool);
			await set(pool, { calibrateBy: 'weekly' });
			await enterCalibration(
				pool,
				await requireSite(pool),
				{
					at: ago(60),
					instrument: 'brass',
					quantity: 'ec',
					kind: 'check',
					tempC: 25,
					settleS: null,
					note: '',
					acceptDoubts: true,
					points: [{ standard: 'KCl 1413', nominal: 1413, asFound: 1413, asLeft: null, mv: null, lot: '' }],
				},
				by,
			);
			const judged = async () => {
				await judgeWhatIsDue(pool, 1, Date.now());
				return causes(pool);
			};
			await ppm(pool, ago(40), '700');
			expect(await judged()).toEqual(['calibration-overdue']);
			await set(pool, { calibrateBy: 'monthly' });
			await ppm(pool, ago(39), '701');
			expect(await judged()).toEqual(['calibration-overdue', 'calibration-overdue']);
			await set(pool, { calibrateBy: 'maker', makerDays: 45 }, 'always');
			expect(await judged()).toEqual(['', '']);
		}));
});

describe('a station that was changed', () => {
	it('was of the kind, and of the system, that it was of', () =>
		withDatabase('empty', async (pool) => {
			await tank(pool);
			await saveSystem(pool, await requireSite(pool), { code: 'tower', kind: 'tower', volumeL: 30 }, 'grower');
			await enter(pool, ago(30), '1.40');
			await saveStation(pool, await requireSite(pool), { code: 'pond', kind: 'mix', system: 'tower' }, 'grower');
			// What the first system holds is changed afterwards: it is no longer this one’s.
			await saveSystem(pool, await requireSite(pool), { code: 'raft', kind: 'raft_pond', volumeL: 200 }, 'grower');
			const site = await requireSite(pool);
			expect(await judgingIsDue(pool, site)).toBe(false);
			expect([stationThen(site.known, 'pond', ago(1)), stationThen(site.known, 'pond', Date.now() + 1)]).toMatchObject([
				{ kind: 'reservoir', system: 'raft', volumeL: 100, ranges: { ec: { low: 1200, high: 1600 } } },
				{ kind: 'mix', system: 'tower', volumeL: 30 },
			]);
			await saveStation(pool, await requireSite(pool), { code: 'pond', kind: 'drain' }, 'grower', 'always');
			const after = await requireSite(pool);
			expect(await judgingIsDue(pool, after)).toBe(true);
			expect(stationThen(after.known, 'pond', ago(1)).kind).toBe('drain');
		}));
});
