import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { wantedWait } from '@/core/judge/waits';
import { weighWitnesses } from '@/core/probe/agreement';
import { STEPS, skippedSteps, usualProtocol } from '@/core/reading/protocol';
import { settling } from '@/core/reading/settling';
import { meterSample, StreamIntake } from '@/core/reading/stream';
import { dueNow, usualRhythms } from '@/core/rhythm/due';
import { PLAIN_METER, SimulatedMeter } from '@/sim/meter';
import { seeded } from '@/sim/random';
import { printedInterval, USUAL_PRINTED } from '@/views/bench/DropKit';
import { stepsHere, stepWords } from '@/words/en/protocol';

/** Facts of the trade (common practice, no source) unless a source is named. */

describe('protocols', () => {
	it('run the tap at a source, catch the drip at a drain, EC before pH in pure water, no probe steps for a kit', () => {
		expect(usualProtocol('source', 'combined', false).slice(0, 3)).toEqual(['run', 'cup', 'rinse']);
		expect(usualProtocol('drain', 'ph', false)[0]).toBe('catch');
		expect(usualProtocol('source', 'ph', true)).toContain('ec-first');
		expect(usualProtocol('reservoir', 'drop_kit', false)).toEqual(['place', 'drops', 'daylight']);
		expect(STEPS.map(stepWords).every((s) => s.text.length > 10 && s.why.length > 20)).toBe(true);
		expect(stepsHere([{ code: 'own-1', text: 'Gloves on' }], STEPS)).toEqual([
			{ code: 'own-1', text: 'Gloves on', why: '' },
		]);
	});
	it('what was passed over on the way to the last step done is left out; nothing ticked says nothing', () => {
		const steps = usualProtocol('reservoir', 'combined', false).map((code) => ({ code }));
		expect(skippedSteps(steps, new Set(), new Set())).toBeUndefined();
		expect(skippedSteps(steps, new Set(['place', 'deep']), new Set())).toEqual(['rinse', 'shake']);
		expect(skippedSteps(steps, new Set(steps.map((s) => s.code)), new Set())).toEqual([]);
	});
	it('waits: 30 s in tap or nutrient, 180 s in water of few minerals, 8 s for an EC pen; the grower may change them', () => {
		expect([wantedWait('ph', 1800), wantedWait('ph', 30), wantedWait('ec', 30), wantedWait('temp', 30)]).toEqual([
			30,
			180,
			8,
			null,
		]);
		expect(wantedWait('ph', 30, { ph: 60, phLowMineral: 240, ec: 10 })).toBe(240);
	});
});

describe('a live meter is taken with suspicion', () => {
	it('text, impossible numbers, repeats, a clock that jumps back and floods are left out and counted', () => {
		const i = new StreamIntake();
		let now = 0;
		const take = (raw: unknown, ms = 250) => {
			now += ms;
			return i.take(raw, now) !== null;
		};
		expect(take({ s: 1, ph: 6.1, ec_us_cm: 1800, temp_c: 21 })).toBe(true);
		for (const raw of ['6.1', null, [], { s: 2 }, { s: 2, ph: 'six' }, { s: 2, ph: 99 }, { s: Number.NaN, ph: 6 }])
			expect(take(raw)).toBe(false);
		expect(take({ s: 1, ph: 6.2 })).toBe(false);
		expect(take({ s: 0.5, ph: 6.2 })).toBe(false);
		expect(take({ s: 2, ph: 6.2 })).toBe(true);
		for (let k = 1; k <= 50; k++) take({ s: 2 + k / 1000, ph: 6.2 }, 1);
		expect(i.refused).toEqual({ unreadable: 7, repeated: 1, 'back-in-time': 1, flood: 50 });
		expect(i.points('ph').map((p) => p.s)).toEqual([1, 2]);
		expect(i.points('ec')).toHaveLength(1);
	});
	it('says when it has gone quiet, and keeps ten minutes at most', () => {
		const i = new StreamIntake();
		expect(i.quietFor(1e9)).toBeNull();
		for (let s = 0; s < 3000; s++) i.take({ s, ph: 6 }, s * 500);
		expect(i.samples.length).toBe(1200);
		expect(i.quietFor(2999 * 500 + 4000)).toBeNull();
		expect(i.quietFor(2999 * 500 + 9000)).toBe(9000);
	});
	it('never lets anything but finite numbers through (property)', () => {
		fc.assert(
			fc.property(fc.anything(), (raw) => {
				const s = meterSample(raw);
				return s === null || [s.s, s.ph ?? 0, s.ecUsCm ?? 0, s.tempC ?? 0].every(Number.isFinite);
			}),
		);
	});
});

describe('the simulated meter behaves as meters do', () => {
	const meter = (more = {}) => new SimulatedMeter({ ...PLAIN_METER, ...more }, seeded(1));
	const TANK = { ph: 5.8, ecUsCm: 1900, tempC: 20 };
	const RO = { ph: 6.2, ecUsCm: 28, tempC: 15 };
	const settled = (m: SimulatedMeter, seconds: number) => {
		for (let s = 0; s < seconds; s++) m.after(1);
		return m.after(1);
	};
	it('ends at the water it is in, after a rinse', () => {
		const m = meter();
		m.store();
		m.rinse();
		m.dip(TANK);
		const shown = settled(m, 60);
		expect(Math.abs(shown.ph - 5.8)).toBeLessThan(0.02);
		expect(Math.abs(shown.ecUsCm / 1900 - 1)).toBeLessThan(0.02);
	});
	it('brings salt from the storage cap when it is not rinsed, many times what pure water has', () => {
		const m = meter();
		m.store();
		m.dip(RO);
		expect(settled(m, 200).ecUsCm).toBeGreaterThan(200);
		m.store();
		m.rinse();
		m.dip(RO);
		expect(settled(m, 200).ecUsCm).toBeLessThan(40);
	});
	it('without compensation reads about 2 % low for each °C below 25', () => {
		const m = meter({ compensates: false });
		m.store();
		m.rinse();
		m.dip({ ...TANK, tempC: 15 });
		expect(settled(m, 100).ecUsCm / 1900).toBeCloseTo(0.805, 2);
	});
	it('is still moving after 20 s in pure water and has settled after a minute in nutrient', () => {
		const m = meter();
		const ph = (water: typeof RO, seconds: number) => {
			m.store();
			m.rinse();
			m.dip(water);
			return settling(
				'ph',
				Array.from({ length: seconds }, (_, s) => ({ s, value: m.after(1).ph })),
			).state;
		};
		expect(ph(TANK, 60)).toBe('settled');
		expect(ph(RO, 20)).not.toBe('settled');
	});
	it('a bubble reads low until it is swirled away', () => {
		const m = meter({ bubbleChance: 1 });
		m.store();
		m.rinse();
		m.dip(TANK);
		expect(settled(m, 30).ecUsCm).toBeLessThan(1400);
		m.swirl();
		expect(settled(m, 30).ecUsCm).toBeGreaterThan(1850);
	});
});

describe('what was most likely true', () => {
	const w = (name: string, value: number, u: number, lastCheckedAt: number | null = 0) => ({
		name,
		value,
		u,
		lastCheckedAt,
	});
	it('witnesses that agree are weighed by their certainty, worked by hand', () => {
		// Weights 100, 25, 12: mean (590 + 150 + 69) / 137 = 5.905, u = 1/√137.
		const all = [w('plum', 5.9, 0.1), w('brass', 6.0, 0.2), w('kit', 5.75, 1 / Math.sqrt(12))];
		const r = weighWitnesses(all)!;
		expect(r.consistent).toBe(true);
		expect(r.combined!.value).toBeCloseTo(809 / 137, 9);
		expect(r.combined!.u).toBeCloseTo(1 / Math.sqrt(137), 9);
	});
	it('two pens at 5.70 and 5.81 that stand 0.4 too high are contradicted by a fresh one; the odd one is named', () => {
		const r = weighWitnesses([w('a', 5.3, 0.05), w('b', 5.32, 0.05), w('c', 5.81, 0.08)])!;
		expect(r).toMatchObject({ consistent: false, combined: null, odd: 'c' });
	});
	it('the one never checked is dipped first; repeats of one instrument are one witness', () => {
		expect(weighWitnesses([w('a', 5, 0.05, 100), w('b', 6, 0.05, null)])).toMatchObject({ dip: 'b', odd: null });
		expect(weighWitnesses([w('a', 5, 0.05), w('a', 5.02, 0.05)])).toBeNull();
		const repeated = weighWitnesses([w('a', 5.0, 0.1), w('a', 5.1, 0.1), w('b', 5.05, 0.1)])!;
		expect(repeated.combined!.value).toBeCloseTo(5.05, 9);
		expect(repeated.combined!.u).toBeCloseTo(0.1 / Math.SQRT2, 9);
	});
});

describe('drop kits by printed value', () => {
	it('one match reaches half-way to its neighbours, two neighbours span between them, others are refused', () => {
		expect(printedInterval(USUAL_PRINTED, [5.5])).toEqual([5.25, 5.75]);
		expect(printedInterval(USUAL_PRINTED, [6, 5.5])).toEqual([5.5, 6]);
		expect(printedInterval(USUAL_PRINTED, [5, 6])).toBeNull();
		expect(printedInterval(USUAL_PRINTED, [4])).toEqual([3.75, 4.25]);
		expect(printedInterval([5, 6, 8], [6])).toEqual([5.5, 7]);
		expect(printedInterval(USUAL_PRINTED, [])).toBeNull();
	});
});

describe('what is due', () => {
	const zone = 'Europe/Amsterdam';
	const at = (text: string) => Date.parse(text);
	it('daily means each calendar day of the site, not each 24 hours', () => {
		const evening = at('2026-07-13T21:30:00+02:00');
		expect(dueNow('daily', evening, at('2026-07-13T23:50:00+02:00'), zone)).toEqual({ due: false, inDays: 1 });
		expect(dueNow('daily', evening, at('2026-07-14T00:10:00+02:00'), zone)).toEqual({ due: true, sinceDays: 0 });
		// The day that has 23 hours.
		expect(dueNow('daily', at('2026-03-28T23:59:00+01:00'), at('2026-03-29T00:01:00+01:00'), zone)).toEqual({
			due: true,
			sinceDays: 0,
		});
	});
	it('weekly and monthly count days; never is never; what was never done is due', () => {
		const now = at('2026-07-14T08:00:00+02:00');
		expect(dueNow('weekly', at('2026-07-08T20:00:00+02:00'), now, zone)).toEqual({ due: false, inDays: 1 });
		expect(dueNow('weekly', at('2026-07-07T20:00:00+02:00'), now, zone)).toEqual({ due: true, sinceDays: 0 });
		expect(dueNow('weekly', at('2026-07-04T20:00:00+02:00'), now, zone)).toEqual({ due: true, sinceDays: 3 });
		expect(dueNow('monthly', at('2026-06-20T20:00:00+02:00'), now, zone)).toEqual({ due: false, inDays: 6 });
		expect(dueNow('never', null, now, zone)).toEqual({ due: false, inDays: null });
		expect(dueNow('daily', null, now, zone)).toEqual({ due: true, sinceDays: null });
	});
	it('each visit: due until read on this round', () => {
		const now = at('2026-07-14T08:00:00+02:00');
		expect(dueNow('visit', now - 60_000, now, zone, now - 600_000).due).toBe(false);
		expect(dueNow('visit', now - 3_600_000, now, zone, now - 600_000).due).toBe(true);
		expect(dueNow('visit', now - 3_600_000, now, zone).due).toBe(false);
	});
	it('tanks daily, mixes each visit, sources monthly and without the pH of pure water', () => {
		expect(usualRhythms('reservoir', false).ph).toBe('daily');
		expect(usualRhythms('mix', false).ec).toBe('visit');
		expect(usualRhythms('source', false).ph).toBe('monthly');
		expect(usualRhythms('source', true).ph).toBeUndefined();
	});
});
