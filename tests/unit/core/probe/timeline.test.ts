import { describe, expect, it } from 'vitest';
import { pairsOf } from '@/core/probe/error-curve/pairs';
import { SiteErrors } from '@/core/probe/error-curve/site-errors';
import type { ProbeCalibration } from '@/core/probe/error-curve/visit';
import { provisionalCalibrations } from '@/core/probe/provisional';
import { restateAlone, restateReadings } from '@/core/probe/timeline';
import { turnedDecisions } from '@/core/probe/turned';
import { season } from '@/demo/season';
import { type FleetKind, simulateFleet } from '../../../evaluate/fleet-worlds';

const DAY = 86_400_000;

describe('a probe’s timeline', () => {
	const calibration = (
		id: number,
		day: number,
		found: number,
		left = 7,
		kind: 'adjust' | 'check' = 'adjust',
	): ProbeCalibration => ({
		id,
		at: day * DAY,
		kind,
		points: [{ nominal: 7, asFound: found, asLeft: kind === 'adjust' ? left : null }],
	});
	const reading = (id: number, day: number, value: number) => ({ id, at: day * DAY, value, u: 0.03 });
	const one = (
		calibrations: ProbeCalibration[],
		day: number,
		value = 6.2,
		jumps: Parameters<typeof restateAlone>[3] = [],
	) => restateAlone('ph', [reading(1, day, value)], calibrations, jumps).outcomes[0]!;

	it('restates between, leaves alone before the first and after the last', () => {
		const cs = [calibration(1, 0, 7), calibration(2, 20, 7.4)];
		expect(one(cs, 10)).toMatchObject({ status: 'restated', value: expect.closeTo(6, 12), from: 1, to: 2 });
		expect(one(cs, 25)).toMatchObject({ status: 'not-yet', value: 6.2 });
		expect(one(cs, -5)).toMatchObject({ status: 'before-first', value: 6.2 });
	});
	it('recomputing twice changes nothing, and the order of calibrations does not matter', () => {
		const cs = [calibration(1, 0, 7), calibration(2, 20, 7.4), calibration(3, 40, 6.7)];
		const readings = Array.from({ length: 50 }, (_, i) => reading(i, i, 6 + (i % 5) / 10));
		const a = restateAlone('ph', readings, cs);
		expect(restateAlone('ph', readings, cs)).toEqual(a);
		expect(restateAlone('ph', readings, [...cs].reverse())).toEqual(a);
	});
	it('withdrawing a calibration brings the originals back', () => {
		expect(one([calibration(1, 0, 7)], 10)).toMatchObject({ status: 'not-yet', value: 6.2, error: 0 });
	});
	it('a jump splits: before it nothing is known and it is wider, after it the next as-found counts whole', () => {
		const cs = [calibration(1, 0, 7), calibration(2, 20, 7.4)];
		const jump = [{ at: 12 * DAY, kind: 'dropped' }];
		const before = one(cs, 10, 6.2, jump);
		expect(before).toMatchObject({ status: 'before-jump', value: 6.2 });
		expect(before.u).toBeGreaterThan(0.1);
		expect(one(cs, 15, 6.2, jump)).toMatchObject({ status: 'restated', value: expect.closeTo(5.8, 12) });
	});
	it('a new probe has a drift history of its own', () => {
		const cs = [
			calibration(1, 0, 7),
			calibration(2, 10, 7.6),
			calibration(3, 20, 7.7),
			calibration(4, 30, 7),
			calibration(5, 40, 7.02),
			calibration(6, 50, 7.01),
		];
		expect(restateAlone('ph', [], cs).drift.from).toBe(5);
		const fresh = restateAlone('ph', [], cs, [{ at: 29 * DAY, kind: 'new_probe' }]).drift;
		expect(fresh.from).toBe(2);
		expect(Math.abs(fresh.ratePerDay)).toBeLessThan(0.002);
	});
	it('cleaning with the same water before and after tells fouling from drift, each put right in its own way', () => {
		const cs = [calibration(1, 0, 7), calibration(2, 20, 7.2)];
		const cleaned = [{ at: 10 * DAY, kind: 'cleaned', before: 6.5, after: 6.3 }];
		const half = one(cs, 5, 6.4, cleaned);
		// Fouling 0.2 at the cleaning, half of it halfway; drift 0.2 at day 20, a quarter of it at day 5: the visit found it, so all of its stretch is put right.
		expect(half.fouling).toBeCloseTo(0.1, 12);
		expect(half.value).toBeCloseTo(6.4 - 0.1 - 0.05, 12);
		expect(one(cs, 16, 6.4, cleaned)).toMatchObject({
			fouling: 0,
			status: 'restated',
			value: expect.closeTo(6.4 - 0.16, 12),
		});
	});
	it('standards that do not bracket the value widen it', () => {
		const two = (found7: number, found10: number): ProbeCalibration => ({
			id: 2,
			at: 20 * DAY,
			kind: 'adjust',
			points: [
				{ nominal: 7, asFound: found7, asLeft: 7 },
				{ nominal: 10, asFound: found10, asLeft: 10 },
			],
		});
		const outside = one([calibration(1, 0, 7), two(7.4, 10.4)], 10, 5.5);
		const inside = one([calibration(1, 0, 7), two(7.4, 10.4)], 10, 7.5);
		expect(outside).toMatchObject({ partial: true, status: 'restated' });
		expect(inside.partial).toBe(false);
		expect(outside.u).toBeGreaterThan(inside.u);
	});
	it('two meters that err alike in one bottle are provisional until a second lot agrees', () => {
		const finding = (calibration: number, instrument: string, lot: string, error: number) => ({
			calibration,
			instrument,
			quantity: 'ph' as const,
			at: 0,
			lot,
			error,
		});
		const limits = { ph: 0.1, ec: 3 };
		const alike = [finding(1, 'plum', 'A', 0.39), finding(2, 'brass', 'A', 0.49)];
		expect(provisionalCalibrations(alike, limits)).toEqual(new Set([1, 2]));
		expect(provisionalCalibrations([...alike, finding(3, 'plum', 'B', 0.4)], limits)).toEqual(new Set());
		expect(provisionalCalibrations([finding(1, 'plum', 'A', 0.39), finding(2, 'brass', 'A', -0.1)], limits)).toEqual(
			new Set(),
		);
	});
	it('a year of a thousand readings and fifty calibrations is done in well under a second', () => {
		const cs = Array.from({ length: 50 }, (_, i) => calibration(i, i * 7.3, 7 + ((i * 37) % 11) / 20));
		const readings = Array.from({ length: 1000 }, (_, i) => reading(i, i * 0.365, 6));
		const start = performance.now();
		for (let k = 0; k < 5; k++) restateAlone('ph', readings, cs);
		// Generous: it takes milliseconds; a wrong order of growth would take minutes.
		expect((performance.now() - start) / 5).toBeLessThan(1000);
	});
	it('names the decisions that the true value would have turned, with the doses in between', () => {
		const range = { low: 5.5, high: 6.5 };
		const turned = turnedDecisions(
			[
				{ id: 1, at: 0, station: 'pond', value: 5.8, restated: 5.3, range, nextAt: DAY },
				{ id: 2, at: 0, station: 'pond', value: 6, restated: 5.9, range, nextAt: null },
			],
			[{ at: 3600_000, station: 'pond', kind: 'acid_added', words: 'acid added 20 mL' }],
		);
		expect(turned).toMatchObject([
			{ id: 1, was: 'in range', truly: 'too low', doses: [{ words: 'acid added 20 mL' }] },
		]);
	});
});

describe('against the simulated truth', () => {
	// The world knows what the water was; the demo's pen Brass drifts and is checked when somebody thinks of it.
	it('Brass restated: RMS error at most a third of the original’s, 95 % intervals cover the truth 90–98 % of the time', () => {
		let original = 0;
		let after = 0;
		let covered = 0;
		let n = 0;
		for (let seed = 101; seed <= 125; seed++) {
			const world = season(Date.UTC(2026, 6, 14, 5, 30), seed);
			const taken = world.readings.filter((r) => r.instrument === 'brass' && r.quantity === 'ph' && r.fault === '');
			const calibrations = world.calibrations
				.filter((c) => c.instrument === 'brass')
				.map((c, i) => ({
					id: i + 1,
					at: c.at,
					kind: c.kind,
					points: c.points.map((p) => ({
						nominal: p.nominal,
						asFound: p.asFound,
						asLeft: p.asLeft,
						u: 0.02 / Math.sqrt(3),
					})),
				}));
			const resolution = 0.1 / Math.sqrt(12);
			const readings = taken.map((r, i) => ({
				id: i,
				at: r.at,
				value: Number(r.digits),
				u: Math.hypot(resolution, 0.1 / Math.sqrt(3)),
				uRepeat: Math.hypot(resolution, 0.1 / (2 * Math.sqrt(3))),
			}));
			for (const [i, o] of restateAlone('ph', readings, calibrations).outcomes.entries()) {
				if (o.status !== 'restated') continue;
				const truth = taken[i]!.truth;
				original += (readings[i]!.value - truth) ** 2;
				after += (o.value - truth) ** 2;
				covered += Math.abs(o.value - truth) <= 1.96 * o.u ? 1 : 0;
				n++;
			}
		}
		expect(n).toBeGreaterThan(2000);
		expect(Math.sqrt(after / original)).toBeLessThan(1 / 3);
		expect(covered / n).toBeGreaterThan(0.9);
		expect(covered / n).toBeLessThan(0.98);
		console.log(
			`restatement over 25 seasons: RMS ${Math.sqrt(original / n).toFixed(3)} → ${Math.sqrt(after / n).toFixed(3)} pH, cover ${((100 * covered) / n).toFixed(1)} % of ${n}`,
		);
	});
});

/** Fleets richer than the model (see there), on seeds that nothing was tuned on; all worlds and figures are in docs/measurement.md. */
function measure(kind: FleetKind, seeds: readonly number[]) {
	let [n, alone, joint, covered] = [0, 0, 0, 0];
	for (const seed of seeds) {
		const fleet = simulateFleet(kind, 'ph', seed);
		const kindOf = new Map(fleet.probes.map((p) => [p.code, p.kind]));
		const probes = fleet.probes.map((p) => ({
			code: p.code,
			calibrations: fleet.calibrations.filter((c) => c.probe === p.code),
			jumps: fleet.jumps.filter((j) => j.probe === p.code),
		}));
		const sightings = fleet.readings.map((r) => ({
			...r,
			continuous: kindOf.get(r.probe) === 'continuous',
			sample: r.sample < 0 ? null : String(r.sample),
		}));
		const met = new SiteErrors(
			'ph',
			probes,
			pairsOf('ph', sightings, () => false),
		);
		const never = new SiteErrors('ph', probes, []);
		for (const { code } of probes) {
			const own = fleet.readings.filter((r) => r.probe === code);
			const a = restateReadings('ph', own, never.of(code)!).outcomes;
			const j = restateReadings('ph', own, met.of(code)!).outcomes;
			for (const [i, r] of own.entries()) {
				if (j[i]!.status === 'rejected') continue;
				n++;
				alone += (a[i]!.value - r.truth) ** 2;
				joint += (j[i]!.value - r.truth) ** 2;
				covered += Math.abs(j[i]!.value - r.truth) <= 1.96 * j[i]!.u ? 1 : 0;
			}
		}
	}
	return { n, ratio: Math.sqrt(joint / alone), covered: covered / n };
}

describe('fleets whose errors are known', () => {
	it.each([
		['pens that share cups', 3, 0.8],
		['unlogged jumps', 8, 0.85],
		['one never calibrated', 3, 0.5],
		['drift that begins halfway', 8, 0.8],
	] as const)('%s: pairs bring the error down, and 95 % intervals hold 90 % at least', (kind, count, most) => {
		const seeds = Array.from({ length: count }, (_, i) => 7001 + i);
		const { n, ratio, covered } = measure(kind, seeds);
		expect(n).toBeGreaterThan(1000);
		expect(ratio).toBeLessThan(most);
		expect(covered).toBeGreaterThan(0.9);
	});
	it('where probes never meet, nothing changes', () => {
		expect(measure('never meet', [7001, 7002]).ratio).toBe(1);
	});
});
