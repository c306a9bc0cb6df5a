import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { compareWitnesses } from '@/core/probe/agreement';
import { evaluateCalibration } from '@/core/probe/calibration';
import { adviseInterval, driftUncertainty, learnDrift, TOLERANCE } from '@/core/probe/drift';
import { errorCurve } from '@/core/probe/error-curve';
import { estimateLife, runningSlopes } from '@/core/probe/life';
import { nernstSlopeMv } from '@/core/probe/nernst';
import { chanceInRange, normalCdf, zetaScore } from '@/core/probe/normal';
import { provisionalCalibrations } from '@/core/probe/provisional';
import { restate } from '@/core/probe/restate';
import { fromTable, likelyStandard, nominalValue, STANDARDS, standardNamed } from '@/core/probe/standards';
import { kclGrams } from '@/core/probe/storage-solution';
import { restateTimeline, type TimelineCalibration } from '@/core/probe/timeline';
import { turnedDecisions } from '@/core/probe/turned';
import { season } from '@/demo/season';
import { seeded } from '@/sim/random';

const DAY = 86_400_000;
const standard = (name: string) => standardNamed(name)!;

describe('electrode', () => {
	// CODATA 2018 constants; handbook values of the Nernst slope.
	it.each([
		[0, 54.2],
		[20, 58.17],
		[25, 59.16],
		[37, 61.54],
	])('Nernst slope at %d °C is %d mV', (t, mv) => expect(nernstSlopeMv(t)).toBeCloseTo(mv, 2));
	it('slope and offset from mV: an ideal electrode at 25 °C is 100 % and 0 mV', () => {
		const k = nernstSlopeMv(25);
		const r = evaluateCalibration(
			'ph',
			[
				{ nominal: 7, asFound: 7, mv: 0 },
				{ nominal: 4, asFound: 4, mv: 3 * k },
			],
			25,
		);
		expect(r).toMatchObject({ ok: true, value: { verdict: 'good', reasons: [] } });
		expect(r.ok && r.value.slopePct).toBeCloseTo(100, 9);
		expect(r.ok && r.value.offsetMv).toBeCloseTo(0, 9);
	});
	it('limits at their edges: slope 95–102 good, 85 and 105 watch, beyond fail; offset 15 and 30 mV (common practice)', () => {
		const k = nernstSlopeMv(25);
		const verdict = (slope: number, offset = 0) => {
			const r = evaluateCalibration(
				'ph',
				[
					{ nominal: 7, asFound: 7, mv: offset },
					{ nominal: 4, asFound: 4, mv: offset + 3 * k * slope },
				],
				25,
			);
			return r.ok ? r.value.verdict : r.problem;
		};
		expect([0.951, 1.019].map((s) => verdict(s))).toEqual(['good', 'good']);
		expect([0.949, 0.851, 1.021, 1.049].map((s) => verdict(s))).toEqual(['watch', 'watch', 'watch', 'watch']);
		expect([0.849, 1.051].map((s) => verdict(s))).toEqual(['fail', 'fail']);
		expect([14.9, 15.1, 29.9, 30.1].map((o) => verdict(1, o))).toEqual(['good', 'watch', 'watch', 'fail']);
	});
	it('a pen 0.24 wrong is not good because its electrode is healthy', () => {
		expect(
			evaluateCalibration(
				'ph',
				[
					{ nominal: 7.01, asFound: 7.25 },
					{ nominal: 4.01, asFound: 4.25 },
				],
				25,
			),
		).toMatchObject({ value: { verdict: 'fail' } });
		expect(evaluateCalibration('ph', [{ nominal: 7.01, asFound: 7.11 }], 25)).toMatchObject({
			value: { verdict: 'good', slopePct: null },
		});
	});
	it('slow settling is a sign of a dry bulb', () =>
		expect(evaluateCalibration('ph', [{ nominal: 7, asFound: 7 }], 25, 75)).toMatchObject({
			value: { verdict: 'watch' },
		}));
	it('EC cell factor: ±5 % good, ±20 % watch', () => {
		const verdict = (found: number) => {
			const r = evaluateCalibration('ec', [{ nominal: 1413, asFound: found }], 25);
			return r.ok && r.value.verdict;
		};
		expect([1413 / 1.049, 1413 / 1.051, 1413 / 1.199, 1413 / 1.201].map(verdict)).toEqual([
			'good',
			'watch',
			'watch',
			'fail',
		]);
	});
	it('refuses a slope from nothing', () => {
		expect(
			evaluateCalibration(
				'ph',
				[
					{ nominal: 7, asFound: 6.9 },
					{ nominal: 7, asFound: 7 },
				],
				25,
			),
		).toMatchObject({ ok: false, problem: 'same-standard-twice' });
		expect(
			evaluateCalibration(
				'ph',
				[
					{ nominal: 7, asFound: 6.9 },
					{ nominal: 4, asFound: 6.9 },
				],
				25,
			),
		).toMatchObject({ ok: false, problem: 'no-answer' });
		expect(
			evaluateCalibration(
				'ph',
				[
					{ nominal: 7, asFound: 4 },
					{ nominal: 4, asFound: 7 },
				],
				25,
			),
		).toMatchObject({ value: { verdict: 'fail' } });
		expect(evaluateCalibration('ec', [{ nominal: 1413, asFound: 0 }], 25)).toMatchObject({ ok: false });
		expect(evaluateCalibration('ph', [], 25)).toMatchObject({ ok: false });
	});
});

describe('standards', () => {
	// IUPAC Recommendations 2002 / NIST primary buffers, from memory.
	it.each([
		[
			'phthalate 4.005',
			[
				[0, 4.0],
				[25, 4.005],
				[37.5, 4.0225],
				[50, 4.05],
			],
		],
		[
			'phosphate 6.865',
			[
				[0, 6.984],
				[20, 6.881],
				[25, 6.865],
				[40, 6.838],
			],
		],
		[
			'borax 9.180',
			[
				[0, 9.464],
				[25, 9.18],
				[50, 9.011],
			],
		],
		// Typical bottle tables, from memory.
		[
			'pH 4.01',
			[
				[5, 4.0],
				[20, 4.0],
				[22.5, 4.005],
				[25, 4.01],
				[40, 4.03],
			],
		],
		[
			'pH 7.00',
			[
				[5, 7.09],
				[20, 7.02],
				[25, 7.0],
				[40, 6.97],
			],
		],
		[
			'pH 7.01',
			[
				[20, 7.03],
				[25, 7.01],
			],
		],
		[
			'pH 10.01',
			[
				[5, 10.25],
				[25, 10.01],
				[40, 9.89],
			],
		],
		// 0.01 mol/L KCl, ISO 7888 by degree, from memory.
		[
			'KCl 1413',
			[
				[15, 1147],
				[20, 1278],
				[20.5, 1291.5],
				[25, 1413],
				[30, 1552],
			],
		],
	] as const)('%s by temperature', (name, values) => {
		for (const [t, v] of values)
			expect(fromTable(standard(name).table, t)).toEqual({ ok: true, value: expect.closeTo(v, 9) });
	});
	it('refuses outside every table', () => {
		for (const s of STANDARDS) {
			const low = s.table[0]![0];
			const high = s.table.at(-1)![0];
			expect(fromTable(s.table, low - 0.1).ok).toBe(false);
			expect(fromTable(s.table, high + 0.1).ok).toBe(false);
			expect(fromTable(s.table, high).ok).toBe(true);
		}
	});
	it('a compensating meter (2 %/°C) is right in 1413 at 20 °C when it shows 1420', () => {
		const at = nominalValue(standard('KCl 1413'), 20, { compensates: true, alphaPctPerC: 2 });
		expect(at.ok && Math.round(at.value)).toBe(1420);
		const exact = nominalValue(standard('KCl 1413'), 20, { compensates: true, alphaPctPerC: 1.91 });
		expect(exact.ok && Math.round(exact.value)).toBe(1413);
		expect(nominalValue(standard('KCl 1413'), 20, { compensates: false })).toEqual({ ok: true, value: 1278 });
	});
	it('recognises the wrong bottle', () => {
		expect(likelyStandard(standard('pH 7.00'), 4.1, 25)?.name).toMatch(/4\.0/);
		expect(likelyStandard(standard('pH 4.01'), 7, 25)?.name).toMatch(/7\.0|6\.8/);
		expect(likelyStandard(standard('pH 7.00'), 7.6, 25)).toBeNull();
	});
	it('storage solution: 3 mol/L is 22.37 g in 100 mL, 223.65 g in a litre (KCl 74.5513 g/mol)', () => {
		expect(kclGrams(3, 100)).toBeCloseTo(22.37, 2);
		expect(kclGrams(3, 1000)).toBeCloseTo(223.65, 2);
	});
});

describe('restatement (USGS Techniques and Methods 1–D3)', () => {
	const at = (d: number) => d * DAY;
	const point = (nominal: number, found: number) => ({ nominal, found });
	const drifted = (value: number, day: number) =>
		restate({
			quantity: 'ph',
			value,
			takenAt: at(day),
			from: { at: 0, kind: 'adjust', points: [point(7, 7)] },
			to: { at: at(20), points: [point(7, 7.4)] },
		});

	it('5.70 in the tank by a pen that reads 7.40 in 7.01 was 5.31; a second, 5.81 and 7.5, was 5.32 (common practice)', () => {
		const now = (value: number, found: number) =>
			restate({
				quantity: 'ph',
				value,
				takenAt: at(1),
				from: { at: 0, kind: 'adjust', points: [] },
				to: { at: at(1), points: [point(7.01, found)] },
			});
		const [a, b] = [now(5.7, 7.4), now(5.81, 7.5)];
		expect(a).toMatchObject({ value: { applied: true, value: expect.closeTo(5.31, 9) } });
		expect(b).toMatchObject({ value: { applied: true, value: expect.closeTo(5.32, 9) } });
		// With what fresh two-decimal pens are worth, 0.03, they agree after and not before.
		expect(zetaScore(5.7, 0.03, 5.81, 0.03)).toBeGreaterThan(2);
		expect(a.ok && b.ok && zetaScore(a.value.value, 0.03, b.value.value, 0.03)).toBeLessThan(1);
	});
	it('one EC standard corrects in proportion: 1300 found in 1413 makes 100 into 108.7', () => {
		const r = restate({
			quantity: 'ec',
			value: 100,
			takenAt: at(5),
			from: { at: 0, kind: 'check', points: [point(1413, 1300)] },
			to: { at: at(5), points: [point(1413, 1300)] },
		});
		expect(r.ok && r.value.value).toBeCloseTo(108.7, 1);
	});
	it('as left 0 on day 0, as found +0.40 on day 20: 6.20 of day 10 was 6.00', () => {
		expect(drifted(6.2, 10)).toMatchObject({ value: { value: expect.closeTo(6, 12), error: expect.closeTo(0.2, 12) } });
	});
	it('two standards: the error interpolates in value too, on the axis of found values', () => {
		const r = restate({
			quantity: 'ph',
			value: 5.6,
			takenAt: at(20),
			from: { at: 0, kind: 'adjust', points: [] },
			to: { at: at(20), points: [point(7, 7.2), point(4, 4)] },
		});
		expect(r.ok && r.value.error).toBeCloseTo(0.2 * (1.6 / 3.2), 12);
	});
	it('after a mere check the error starts as found, not at nothing', () => {
		const r = restate({
			quantity: 'ph',
			value: 6,
			takenAt: at(5),
			from: { at: 0, kind: 'check', points: [point(7, 7.2)] },
			to: { at: at(10), points: [point(7, 7.4)] },
		});
		expect(r.ok && r.value.error).toBeCloseTo(0.3, 12);
	});
	it('a second after the adjustment hardly anything; outside the interval nothing', () => {
		const r = drifted(6.2, 1 / 86_400);
		expect(r.ok && Math.abs(r.value.value - 6.2)).toBeLessThan(1e-6);
		expect(drifted(6.2, 21)).toMatchObject({ value: { applied: false, value: 6.2 } });
		expect(drifted(6.2, -1)).toMatchObject({ value: { applied: false, value: 6.2 } });
	});
	it('thresholds: small errors are left alone, beyond 2 pH rejected', () => {
		const run = (found: number) =>
			restate({
				quantity: 'ph',
				value: 6,
				takenAt: at(20),
				from: { at: 0, kind: 'adjust', points: [] },
				to: { at: at(20), points: [point(7, found)] },
				thresholds: { leaveAlone: 0.2, reject: 2 },
			});
		expect(run(7.19)).toMatchObject({ value: { applied: false, why: 'leave-alone', value: 6 } });
		expect(run(7.21)).toMatchObject({ value: { applied: true } });
		expect(run(9.01)).toMatchObject({ value: { applied: false, why: 'rejected', value: 6 } });
	});
	it('never divides by a vanishing gain', () => {
		expect(errorCurve('ph', [point(7, 6.9), point(4, 6.9)])).toEqual({ ok: false, problem: 'vanishing-gain' });
		expect(errorCurve('ph', [point(7, 4), point(4, 7)])).toEqual({ ok: false, problem: 'wrong-way' });
		expect(errorCurve('ec', [point(1413, 0)])).toEqual({ ok: false, problem: 'vanishing-gain' });
		fc.assert(
			fc.property(
				fc.double({ min: 0, max: 14, noNaN: true }),
				fc.double({ min: 0, max: 14, noNaN: true }),
				fc.double({ min: 0, max: 14, noNaN: true }),
				(a, b, v) => {
					const r = restate({
						quantity: 'ph',
						value: v,
						takenAt: 5,
						from: { at: 0, kind: 'adjust', points: [] },
						to: { at: 10, points: [point(7, a), point(4, b)] },
					});
					return !r.ok || (Number.isFinite(r.value.value) && Math.abs(r.value.error) < 300);
				},
			),
		);
	});
	it('what was found in a standard is put back to that standard (property)', () => {
		const found = fc.double({ min: -0.8, max: 0.8, noNaN: true });
		fc.assert(
			fc.property(found, found, (e7, e4) => {
				const points = [point(7, 7 + e7), point(4, 4 + e4)];
				const r = restate({
					quantity: 'ph',
					value: 7 + e7,
					takenAt: 10,
					from: { at: 0, kind: 'adjust', points: [] },
					to: { at: 10, points },
				});
				return r.ok && Math.abs(r.value.value - 7) < 1e-9;
			}),
		);
	});
});

describe('a probe’s timeline', () => {
	const calibration = (
		id: number,
		day: number,
		found: number,
		left = 7,
		kind: 'adjust' | 'check' = 'adjust',
	): TimelineCalibration => ({
		id,
		at: day * DAY,
		kind,
		points: [{ nominal: 7, asFound: found, asLeft: kind === 'adjust' ? left : null }],
	});
	const reading = (id: number, day: number, value: number) => ({ id, at: day * DAY, value, u: 0.03 });
	const one = (
		calibrations: TimelineCalibration[],
		day: number,
		value = 6.2,
		jumps: Parameters<typeof restateTimeline>[3] = [],
	) => restateTimeline('ph', [reading(1, day, value)], calibrations, jumps).outcomes[0]!;

	it('restates between, leaves alone before the first and after the last', () => {
		const cs = [calibration(1, 0, 7), calibration(2, 20, 7.4)];
		expect(one(cs, 10)).toMatchObject({ status: 'restated', value: expect.closeTo(6, 12), from: 1, to: 2 });
		expect(one(cs, 25)).toMatchObject({ status: 'not-yet', value: 6.2 });
		expect(one(cs, -5)).toMatchObject({ status: 'before-first', value: 6.2 });
	});
	it('recomputing twice changes nothing, and the order of calibrations does not matter', () => {
		const cs = [calibration(1, 0, 7), calibration(2, 20, 7.4), calibration(3, 40, 6.7)];
		const readings = Array.from({ length: 50 }, (_, i) => reading(i, i, 6 + (i % 5) / 10));
		const a = restateTimeline('ph', readings, cs);
		expect(restateTimeline('ph', readings, cs)).toEqual(a);
		expect(restateTimeline('ph', readings, [...cs].reverse())).toEqual(a);
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
		expect(restateTimeline('ph', [], cs).drift.from).toBe(5);
		const fresh = restateTimeline('ph', [], cs, [{ at: 29 * DAY, kind: 'new_probe' }]).drift;
		expect(fresh.from).toBe(2);
		expect(Math.abs(fresh.ratePerDay)).toBeLessThan(0.002);
	});
	it('cleaning with the same water before and after tells fouling from drift, each put right in its own way', () => {
		const cs = [calibration(1, 0, 7), calibration(2, 20, 7.2)];
		const cleaned = [{ at: 10 * DAY, kind: 'cleaned', before: 6.5, after: 6.3 }];
		const half = one(cs, 5, 6.4, cleaned);
		// Fouling 0.2 at the cleaning, half of it halfway; drift 0.2 at day 20, a quarter of it at day 5, below the threshold.
		expect(half.fouling).toBeCloseTo(0.1, 12);
		expect(half.value).toBeCloseTo(6.3, 12);
		expect(one(cs, 16, 6.4, cleaned)).toMatchObject({
			fouling: 0,
			status: 'restated',
			value: expect.closeTo(6.4 - 0.16, 12),
		});
	});
	it('standards that do not bracket the value widen it', () => {
		const two = (found7: number, found10: number): TimelineCalibration => ({
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
		for (let k = 0; k < 5; k++) restateTimeline('ph', readings, cs);
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

describe('two instruments on one sample', () => {
	const witness = (name: string, value: number, u: number, lastCheckedAt: number | null) => ({
		name,
		value,
		u,
		lastCheckedAt,
	});
	it('ζ above 2 is questionable, above 3 unacceptable (ISO 13528); the one checked longer ago is to be dipped', () => {
		const plum = witness('Plum', 5.8, 0.03, 10 * DAY);
		expect(compareWitnesses(plum, witness('Brass', 5.899, 0.04, 5 * DAY))).toMatchObject({
			grade: 'agree',
			zeta: expect.closeTo(1.98, 9),
		});
		expect(compareWitnesses(plum, witness('Brass', 5.92, 0.04, 5 * DAY))).toMatchObject({
			grade: 'questionable',
			dip: 'Brass',
			combined: null,
		});
		expect(compareWitnesses(plum, witness('Brass', 6.2, 0.04, null))).toMatchObject({
			grade: 'unacceptable',
			dip: 'Brass',
		});
		expect(compareWitnesses(plum, witness('Brass', 6.2, 0.04, 11 * DAY))).toMatchObject({ dip: 'Plum' });
	});
	it('agreeing values combine by inverse variance: equal ones halve the variance', () => {
		expect(compareWitnesses(witness('a', 5.8, 0.04, 0), witness('b', 5.82, 0.04, 0)).combined).toEqual({
			value: expect.closeTo(5.81, 12),
			u: expect.closeTo(0.04 / Math.SQRT2, 12),
		});
	});
});

describe('uncertainty and intervals', () => {
	it('normal distribution at tabled points (handbook tables)', () => {
		expect(normalCdf(0)).toBeCloseTo(0.5, 6);
		expect(normalCdf(1.96)).toBeCloseTo(0.975, 4);
		expect(normalCdf(-1)).toBeCloseTo(0.158655, 5);
		expect(chanceInRange(6, 0.1, { low: 5.804, high: 6.196 })).toBeCloseTo(0.95, 3);
	});
	it('the prior is what weekly calibration implies: 95 % within 0.2 pH and 3 % after seven days', () => {
		for (const q of ['ph', 'ec'] as const)
			expect(1.96 * driftUncertainty(learnDrift(q, []), 7)).toBeCloseTo(TOLERANCE[q], q === 'ph' ? 1 : 0);
	});
	/** Simulated probe histories, as the random walk the model assumes. */
	const history = (seed: number, sigma: number, count: number, days = 14, rate = 0) => {
		const chance = seeded(seed);
		return Array.from({ length: count }, () => ({
			days,
			grown: rate * days + sigma * Math.sqrt(days) * chance.normal(),
		}));
	};
	it('an advised interval keeps the error within tolerance at least 95 times in 100', () => {
		let kept = 0;
		let all = 0;
		for (let seed = 1; seed <= 400; seed++) {
			const sigma = 0.02 + (seed % 5) * 0.01;
			const advice = adviseInterval(learnDrift('ph', history(seed, sigma, 12)), 0.2);
			const chance = seeded(seed + 10_000);
			for (let k = 0; k < 20; k++) {
				all++;
				if (Math.abs(sigma * Math.sqrt(advice.days) * chance.normal()) <= 0.2) kept++;
			}
		}
		expect(kept / all).toBeGreaterThanOrEqual(0.95);
	});
	it('half the drift per root day gives four times the interval, as (tolerance/σ)² says, within sampling', () => {
		const days = (sigma: number) => {
			const all = Array.from(
				{ length: 201 },
				(_, i) => adviseInterval(learnDrift('ph', history(i + 1, sigma, 16)), 0.2).days,
			).sort((a, b) => a - b);
			return all[100]!;
		};
		const ratio = days(0.04) / days(0.08);
		expect(ratio).toBeGreaterThan(2);
		expect(ratio).toBeGreaterThan(3.2);
		expect(ratio).toBeLessThan(4.8);
	});
	it('stays weekly until three intervals are known, and between 1 and 60 days', () => {
		expect(adviseInterval(learnDrift('ph', history(1, 0.001, 2)), 0.2)).toMatchObject({
			days: 7,
			reason: 'few-calibrations',
		});
		expect(adviseInterval(learnDrift('ph', history(1, 0.0001, 30)), 0.2).days).toBeLessThanOrEqual(60);
		expect(adviseInterval(learnDrift('ph', history(1, 2, 30)), 0.2).days).toBeGreaterThanOrEqual(1);
	});
	it('end of life: a slope falling 10 % a year from 100 reaches 85 in a year and a half, given as a window', () => {
		const points = Array.from({ length: 12 }, (_, i) => ({
			at: i * 30 * DAY,
			slopePct: 100 - (10 * i * 30) / 365.25 + (i % 3) * 0.2,
		}));
		const life = estimateLife(points);
		if (!life.known) throw new Error(life.reason);
		const when = 1.5 * 365.25 * DAY;
		expect(life.earliest).toBeLessThan(when * 1.1);
		expect(life.latest!).toBeGreaterThan(when * 0.9);
		expect(estimateLife(points.slice(0, 3))).toEqual({ known: false, reason: 'too-few' });
		expect(
			runningSlopes([
				{ at: 0, gain: 0.98 },
				{ at: 1, gain: 0.98 },
			])[1]!.slopePct,
		).toBeCloseTo(96.04, 9);
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
			for (const [i, o] of restateTimeline('ph', readings, calibrations).outcomes.entries()) {
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
