import { describe, expect, it } from 'vitest';
import type { BelievedReading } from '@/core/reading/believed';
import { judgeDrains, pairDrains, poolDrains, type Run } from '@/core/rootzone/drains';
import { drainTarget, limitsOf, runVolumes } from '@/core/rootzone/watering';

/** Facts of the trade: pair each drain sample with the feed of its time; limits by school; common practice, no source. */
const HOUR = 3_600_000;
const DAY = 24 * HOUR;
const reading = (
	id: number,
	at: number,
	value: number,
	instrument: string | null = 'plum',
	u = 0.01 * value,
): BelievedReading => ({
	id,
	at,
	value,
	u,
	instrument,
});
const run = (at: number, appliedL: number, drainedL: number): Run => ({
	at,
	applied: { litres: appliedL, u: 0.03 * appliedL },
	drained: { litres: drainedL, u: 0.03 * drainedL },
	minutes: null,
	firstDrainMin: null,
});
const usual = { watchUsCm: 500, actUsCm: 1000 };

describe('drain beside feed', () => {
	it('each drain with the feed of its time; without one it is left out', () => {
		const pairs = pairDrains(
			{ ec: [reading(1, 0, 1900), reading(2, 3 * DAY, 2000), reading(3, 9 * DAY, 2100)], ph: [reading(9, 10, 6.1)] },
			{ ec: [reading(4, -2 * HOUR, 1400), reading(5, 3 * DAY + HOUR, 1420)], ph: [reading(8, -2 * HOUR, 5.8)] },
			[run(HOUR, 10, 2), run(6 * DAY, 10, 2)],
		);
		expect(pairs.map((p) => [p.drain.id, p.feed.id, p.run !== null])).toEqual([
			[1, 4, true],
			[2, 5, false],
		]);
		expect(judgeDrains(pairs, usual)[0]!.phDelta).toBeCloseTo(0.3, 9);
	});
	it('what one meter is off by does not make the difference uncertain; two meters do', () => {
		const of = (instrument: string) =>
			judgeDrains(
				pairDrains(
					{ ec: [reading(1, 0, 2000, 'plum', 60)], ph: [] },
					{ ec: [reading(2, 0, 1400, instrument, 42)], ph: [] },
					[],
				),
				usual,
			)[0]!;
		expect(of('plum').ecDeltaU).toBeLessThan(0.4 * of('minnow').ecDeltaU);
		expect(of('minnow').ecDeltaU).toBeCloseTo(Math.hypot(60, 42), 0);
		expect([of('plum').verdict, of('plum').close, of('minnow').close]).toEqual(['watch', false, true]);
	});
	it('more salt out than in after a build-up is a flush and keeps its actions; from nowhere it is measured again', () => {
		const pairs = (before: number) =>
			pairDrains(
				{ ec: [reading(1, 0, 1400 + before), reading(2, DAY, 2600)], ph: [] },
				{ ec: [reading(3, 0, 1400), reading(4, DAY, 1000)], ph: [] },
				[run(DAY, 100, 60)],
			);
		const flushed = judgeDrains(pairs(1300), usual)[1]!;
		expect(flushed).toMatchObject({ verdict: 'flushing' });
		expect(flushed.balance!.flushing).toBeGreaterThan(0.95);
		expect(flushed.actions.map((a) => a.code)).toEqual([
			'salt-leaves',
			'water-more-often',
			'run-until-drain',
			'feed-weaker',
			'flush',
			'runs-away',
		]);
		const nowhere = judgeDrains(pairs(100), usual)[1]!;
		expect(nowhere.verdict).toBe('check');
		expect(nowhere.actions[0]!.code).toBe('more-salt-out');
	});
	it('without volumes nothing is said of how much ran off', () => {
		const [found] = judgeDrains(
			pairDrains({ ec: [reading(1, 0, 2600)], ph: [] }, { ec: [reading(2, 0, 1400)], ph: [] }, []),
			usual,
		);
		expect(found).toMatchObject({ verdict: 'act', balance: null });
		expect(found!.actions.map((a) => a.code)).not.toContain('hardly-any-drain');
	});
	it('a balance that noise alone may turn is not called a bad measurement; a drain far above needs no volumes to be told', () => {
		const said = (feed: number, drain: number, runs: Run[]) =>
			judgeDrains(
				pairDrains({ ec: [reading(1, 0, drain)], ph: [] }, { ec: [reading(2, 0, feed)], ph: [] }, runs),
				usual,
			)[0]!;
		// (1400·100 − 1560·90)/10 is −40: half of the draws say otherwise.
		const near = said(1400, 1560, [run(0, 100, 90)]);
		expect(near.balance!.uptakeEcUsCm!.value).toBeLessThan(0);
		expect(near.verdict).toBe('good');
		expect(said(400, 2600, []).verdict).toBe('act');
		// Read off as more than was given, within what a jug is read to: the figures are asked for again.
		expect(said(1400, 1500, [run(0, 100, 101)])).toMatchObject({ verdict: 'check', balance: null });
	});
	it('pools by spans, volumes of those that were measured', () => {
		const pairs = pairDrains(
			{ ec: [reading(1, 0, 1800), reading(2, HOUR, 2000), reading(3, DAY, 1900)], ph: [] },
			{ ec: [reading(4, 0, 1400), reading(5, DAY, 1400)], ph: [] },
			[run(0, 100, 30)],
		);
		const days = poolDrains(pairs, (at) => Math.floor(at / DAY) * DAY);
		expect(days.map((d) => [d.samples, d.drainUsCm])).toEqual([
			[2, 1900],
			[1, 1900],
		]);
		expect(days[0]!.balance!.leachingFraction.value).toBeCloseTo(0.3, 9);
		expect(days[1]!.balance).toBeNull();
	});
});

describe('how a system is watered', () => {
	it('bags watered many times a day are judged tightly; own limits come first', () => {
		expect(limitsOf({}, '')).toEqual({ preset: 'usual', watchUsCm: 500, actUsCm: 1000 });
		expect(limitsOf({ runsADay: 8, bags: 20 }, 'coir bags')).toEqual({ preset: 'tight', watchUsCm: 200, actUsCm: 500 });
		expect(limitsOf({ runsADay: 8 }, 'coir').preset).toBe('usual');
		expect(limitsOf({ preset: 'loose', watchUsCm: 800 }, 'stone wool')).toEqual({
			preset: 'loose',
			watchUsCm: 800,
			actUsCm: 2000,
		});
		// By the medium: what follows its feed tightly, what holds salts itself loosely (common practice, no source).
		for (const [medium, runs, preset] of [
			['stone wool slabs', 10, 'tight'],
			['Perlite', 6, 'tight'],
			['perlite', 2, 'usual'],
			['peat and bark', 1, 'loose'],
			['peat', 6, 'usual'],
			['coir', 1, 'usual'],
		] as const)
			expect([medium, limitsOf({ runsADay: runs }, medium).preset]).toEqual([medium, preset]);
		expect(drainTarget({}, '2026-07-01')).toEqual([15, 30]);
	});
	it('volumes as typed, else by cups, else by the clock, which is less sure', () => {
		const none = { minutes: null, appliedL: null, appliedCups: [], drainedL: null, drainedCups: [] };
		const w = { drippers: 60, bags: 15, dripperMlMin: 17 };
		const by = (more: object) => runVolumes({ ...none, ...more }, w);
		expect(by({ minutes: 6, appliedL: 7 }).applied!.litres).toBe(7);
		expect(by({ minutes: 6, appliedCups: [100, 104] }).applied!.litres).toBeCloseTo(6.12, 9);
		const clock = by({ minutes: 6 }).applied!;
		expect(clock.litres).toBe(6.12);
		expect(clock.u / clock.litres).toBeCloseTo(0.1, 9);
		expect(by({ drainedCups: [80, 100] }).drained!.litres).toBeCloseTo(1.35, 9);
		expect(by({ minutes: 6 }).drained).toBeNull();
		expect(runVolumes({ ...none, minutes: 6 }, {}).applied).toBeNull();
	});
});
