import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { enterCalibration, withdrawCalibration } from '@/service/calibrate';
import { correctReading } from '@/service/correct';
import { decide } from '@/service/decide';
import { enterSamples } from '@/service/enter';
import { enterEvent } from '@/service/events';
import { judgeWhatIsDue, judgingIsDue } from '@/service/judging';
import { saveSite } from '@/service/setup';
import { requireSite, siteForIntake } from '@/service/site';
import { markDue, setDue } from '@/store/judging';
import { PLAIN_INSTRUMENT, PLAIN_STATION, putInstrument, putStation } from '@/store/line';
import type { Pool } from '@/store/pool';
import { listReadings } from '@/store/readings';
import { writing } from '@/store/writing';
import { type Application, startApplication } from '../helpers/application';
import { withDatabase } from '../helpers/database';

const DAY = 86_400_000;
const NOW = Date.UTC(2026, 4, 1, 8);
const by = { source: 'api', who: 'grower', now: NOW };
const at = (daysAgo: number) => NOW - daysAgo * DAY;

async function pond(pool: Pool): Promise<void> {
	const site = await siteForIntake(pool);
	await putStation(pool, site.site.id, {
		...PLAIN_STATION,
		code: 'pond',
		name: 'Pond',
		kind: 'reservoir',
		volumeL: 600,
		position: 1,
	});
	await putInstrument(pool, site.site.id, {
		...PLAIN_INSTRUMENT,
		code: 'plum',
		name: 'Plum',
		kind: 'combined',
		quantities: { ph: { resolution: 0.01, accuracy: 0.05 }, ec: { resolution: 10, accuracyPct: 2 } },
	});
}
/** As a request does it: the site is looked at once nobody else writes. */
const enter = (pool: Pool, daysAgo: number, ec: string, ph = '5.90'): Promise<number> =>
	writing(pool, async (client) => {
		const [done] = await enterSamples(
			client,
			await requireSite(client),
			[
				{
					at: at(daysAgo),
					station: 'pond',
					readings: [
						{ quantity: 'ph', value: ph, unit: 'pH', instrument: 'plum' },
						{ quantity: 'ec', value: ec, unit: 'mS/cm', instrument: 'plum' },
					],
				},
			],
			by,
		);
		return done!.readings[1]!.id;
	});
const causes = async (pool: Pool, quantity: 'ph' | 'ec'): Promise<string[]> =>
	(await listReadings(pool, (await requireSite(pool)).site.id, { quantity, order: 'oldest', limit: 100 })).map(
		(r) => r.cause,
	);
const withPond = (work: (pool: Pool) => Promise<void>): Promise<void> =>
	withDatabase('empty', async (pool) => {
		await pond(pool);
		for (let d = 20; d > 4; d--) await enter(pool, d, (1.8 + 0.01 * (d % 3)).toFixed(2));
		await work(pool);
	});

describe('what is learned of the past is in every verdict since', () => {
	it('a change of solution that is logged late explains what was doubted', () =>
		withPond(async (pool) => {
			await enter(pool, 3, '1.10');
			expect((await causes(pool, 'ec')).at(-1)).not.toBe('');
			await enterEvent(
				pool,
				await requireSite(pool),
				{
					at: at(3.5),
					station: 'pond',
					kind: 'solution_changed',
					amount: 600,
					unitText: 'L',
					product: '',
					note: '',
				},
				by,
			);
			expect((await causes(pool, 'ec')).at(-1)).toBe('');
		}));
	it('what a person kept teaches, what was discarded does not', () =>
		withPond(async (pool) => {
			const id = await enter(pool, 3, '1.10');
			await enter(pool, 2, '1.11');
			await enter(pool, 1, '1.10');
			const last = async () => (await causes(pool, 'ec')).slice(-2).map((c) => c === '');
			// Two that agree are the new level, in which the third is at home.
			expect(await last()).toEqual([false, true]);
			await decide(pool, await requireSite(pool), [{ id }], { kind: 'discard', reason: 'it was the drain' }, by);
			expect(await last()).toEqual([false, false]);
			await decide(pool, await requireSite(pool), [{ id, after: 'discard' }], { kind: 'keep', reason: '' }, by);
			expect(await last()).toEqual([true, true]);
		}));
	it('a corrected value teaches in the place of the slip', () =>
		withPond(async (pool) => {
			const id = await enter(pool, 3, '18.2');
			expect((await causes(pool, 'ec')).at(-1)).toBe('decimal-slip');
			const done = await correctReading(
				pool,
				await requireSite(pool),
				id,
				{ value: '1.82', unit: 'mS/cm', reason: 'mark forgotten' },
				by,
			);
			expect(done.readings[0]!.verdict.flag).toBe(1);
			expect((await causes(pool, 'ec')).at(-1)).toBe('');
		}));
	it('a calibration entered of the past, and its withdrawal', () =>
		withPond(async (pool) => {
			const site = await requireSite(pool);
			expect(new Set(await causes(pool, 'ph'))).toEqual(new Set(['']));
			// Two weeks after a calibration a probe that wants one weekly is overdue.
			const { id } = await enterCalibration(
				pool,
				site,
				{
					instrument: 'plum',
					quantity: 'ph',
					at: at(19.5),
					kind: 'adjust',
					tempC: 25,
					settleS: null,
					note: '',
					acceptDoubts: true,
					points: [
						{ standard: 'pH 7.00', lot: '', nominal: 7, asFound: 7.02, asLeft: 7, mv: null },
						{ standard: 'pH 4.01', lot: '', nominal: 4.01, asFound: 4.03, asLeft: 4.01, mv: null },
					],
				},
				by,
			);
			const overdue = (await causes(pool, 'ph')).map((c) => c === 'calibration-overdue');
			expect(overdue.indexOf(true)).toBeGreaterThan(12);
			expect(overdue.at(-1)).toBe(true);
			await withdrawCalibration(pool, site, id, true, { reason: 'wrong pen', who: 'grower', now: NOW });
			expect(new Set(await causes(pool, 'ph'))).toEqual(new Set(['']));
		}));
	it('people who enter at once, in whatever order, go on from one another', async () => {
		const said: string[][] = [];
		for (const order of [
			[3, 2, 1],
			[2, 3, 1],
			[1, 2, 3],
		])
			await withPond(async (pool) => {
				await Promise.all(order.map((d) => enter(pool, d, d === 2 ? '1.11' : '1.10')));
				said.push(await causes(pool, 'ec'));
			});
		await withPond(async (pool) => {
			for (const d of [3, 2, 1]) await enter(pool, d, d === 2 ? '1.11' : '1.10');
			const alone = await causes(pool, 'ec');
			expect(said).toEqual([alone, alone, alone]);
		});
	});
	it('what becomes due while readings are judged waits for its turn and is not lost', () =>
		withPond(async (pool) => {
			const site = await requireSite(pool);
			let marked: Promise<unknown> | null = null;
			await writing(pool, async (client) => {
				marked = writing(pool, (other) => markDue(other, site.site.id, at(10)));
				await new Promise((resolve) => setTimeout(resolve, 100));
				await setDue(client, site.site.id, null);
			});
			await marked;
			expect(await judgingIsDue(pool, site)).toBe(true);
		}));
	it('another sensitivity waits for the job, which changes only what differs', () =>
		withPond(async (pool) => {
			const site = await requireSite(pool);
			await enter(pool, 3, '1.98');
			expect(await judgingIsDue(pool, site)).toBe(false);
			await saveSite(pool, { ...site.site, settings: { sensitivity: 'keen' } }, 'grower');
			expect(await judgingIsDue(pool, site)).toBe(true);
			const done = await judgeWhatIsDue(pool, site.site.id, NOW);
			expect(done.judged).toBe(34);
			expect(done.changed).toBeLessThan(5);
			expect(await judgingIsDue(pool, site)).toBe(false);
			await saveSite(pool, { ...site.site, settings: { sensitivity: 'keen' } }, 'grower');
			expect(await judgingIsDue(pool, site)).toBe(false);
		}));
});

describe('over HTTP', () => {
	let app: Application;
	beforeAll(async () => {
		app = await startApplication('demo');
	});
	afterAll(() => app.stop());
	const get = async (path: string) => (await fetch(`${app.base}/api/v1${path}`)).json();
	it('a changed sensitivity begins a job that is told, can be followed, and ends', async () => {
		expect(await get('/judging')).toEqual({ waits: false, job: null });
		const { site } = await get('/site');
		const answer = await fetch(`${app.base}/api/v1/site`, {
			method: 'PUT',
			headers: { 'content-type': 'application/json' },
			body: JSON.stringify({
				name: site.name,
				timezone: site.timezone,
				units: site.units,
				settings: { ...site.settings, sensitivity: 'calm' },
			}),
		});
		expect(answer.status).toBe(200);
		let seen: string | null = null;
		for (let i = 0; i < 200; i++) {
			const { waits, job } = await get('/judging');
			seen ??= job;
			if (!waits && job === null && seen) break;
			await new Promise((resolve) => setTimeout(resolve, 20));
		}
		const job = await get(`/jobs/${seen}`);
		expect(job).toMatchObject({ kind: 'judging', state: 'done' });
		expect(job.result.judged).toBeGreaterThan(2500);
		expect(job.result.changed).toBeLessThan(200);
	});
});
