import { describe, expect, it } from 'vitest';
import { pairsOf, type Sighting } from '@/core/probe/error-curve/pairs';
import { SiteErrors } from '@/core/probe/error-curve/site-errors';
import type { ProbeCalibration } from '@/core/probe/error-curve/visit';
import { apartToday, cheapestDip, errorToday } from '@/core/probe/today';

const DAY = 86_400_000;
const at = (day: number, found: number, kind: 'adjust' | 'check' = 'adjust'): ProbeCalibration => ({
	id: day + 1,
	at: day * DAY,
	kind,
	points: [{ nominal: 7, asFound: found, asLeft: kind === 'adjust' ? 7 : null, u: 0.01 }],
});
const cup = (day: number, a: number, b: number): Sighting[] =>
	[
		['a', a],
		['b', b],
	].map(([probe, value], i) => ({
		id: day * 10 + i,
		probe: probe as string,
		continuous: false,
		station: 'pond',
		sample: String(day),
		at: day * DAY,
		value: value as number,
		uRepeat: 0.02,
	}));
const site = (a: ProbeCalibration[], b: ProbeCalibration[], sightings: Sighting[] = []) =>
	new SiteErrors(
		'ph',
		[
			{ code: 'a', calibrations: a, jumps: [] },
			{ code: 'b', calibrations: b, jumps: [] },
		],
		pairsOf('ph', sightings, () => false),
	);

describe('a probe’s error today', () => {
	it('found by a check and not adjusted: carried, told, and by nobody else', () => {
		const today = errorToday('ph', site([at(0, 7.3, 'check')], []).of('a')!, 1 * DAY);
		expect(today).toMatchObject({ error: expect.closeTo(0.3, 10), told: true, carried: true, met: [] });
		// A check that found it right is no reason for what others tell later.
		expect(errorToday('ph', site([at(0, 7.02, 'check')], []).of('a')!, 1 * DAY).carried).toBe(false);
	});
	it('adjusted it is nothing, and less sure from day to day: √(σ²·days) at least', () => {
		const errors = site([at(0, 7.3)], []).of('a')!;
		const [soon, later] = [1, 16].map((d) => errorToday('ph', errors, d * DAY));
		expect(soon).toMatchObject({ error: 0, told: false, carried: false });
		// The prior of a pen nobody knows: 0.04 pH per root day (what weekly calibration at ±0.2 implies).
		expect(later!.u ** 2 - soon!.u ** 2).toBeGreaterThanOrEqual(0.04 ** 2 * 15);
		expect(later!.u / soon!.u).toBeGreaterThan(3);
	});
	it('told by those it met, and how many of them said the same', () => {
		const sightings = [20, 21, 22, 23, 24].flatMap((d) => cup(d, d === 22 ? 5.98 : 6.3, 6));
		const today = errorToday('ph', site([at(0, 7)], [at(19, 7), at(23, 7)], sightings).of('a')!, 24.1 * DAY);
		expect(today.told).toBe(true);
		expect(today.error).toBeGreaterThan(0.2);
		expect(today.met).toEqual([{ other: 'b', times: 5, alike: 4 }]);
	});
	it('of a probe that was never in a standard is not known', () => {
		expect(errorToday('ph', site([], []).of('a')!, DAY)).toMatchObject({ error: 0, told: false });
		expect(errorToday('ph', site([], []).of('a')!, DAY).u).toBeGreaterThan(0.2);
	});
});

describe('two that cannot both be right', () => {
	const apart = [27, 28, 29].flatMap((d) => cup(d, 6.4, 6));
	it('of the same age: one of them is off, and it is not known which', () => {
		const both = site([at(0, 7)], [at(0, 7)], apart);
		expect(errorToday('ph', both.of('a')!, 29.1 * DAY).told).toBe(false);
		expect(apartToday('ph', both, ['a', 'b'], 29.1 * DAY, new Set())).toEqual([
			{ a: 'a', b: 'b', by: expect.closeTo(0.4, 1), u: expect.any(Number) },
		]);
	});
	it('not where one of them is told already, where they agree, or where they never met', () => {
		const one = site([at(0, 7)], [at(26, 7)], apart);
		expect(errorToday('ph', one.of('a')!, 29.1 * DAY).told).toBe(true);
		expect(apartToday('ph', one, ['a', 'b'], 29.1 * DAY, new Set(['a']))).toEqual([]);
		const agree = [27, 28, 29].flatMap((d) => cup(d, 6.05, 6));
		expect(apartToday('ph', site([at(0, 7)], [at(0, 7)], agree), ['a', 'b'], 29.1 * DAY, new Set())).toEqual([]);
		expect(apartToday('ph', site([at(0, 7)], [at(0, 7)]), ['a', 'b'], 29.1 * DAY, new Set())).toEqual([]);
	});
});

describe('the dip that tells most', () => {
	it('is the one that is least known', () => {
		const dip = cheapestDip('ph', site([at(0, 7)], [at(29, 7)]), ['a', 'b'], 30 * DAY, 0.2)!;
		expect(dip.code).toBe('a');
		expect(dip.takes / dip.whole).toBeGreaterThan(0.9);
	});
	it('counts what it tells of those that it met', () => {
		// Both unknown, but held against one another a moment ago: one dip tells of both (covariance close to the variance).
		const apart = cheapestDip('ph', site([], []), ['a', 'b'], 30 * DAY, 0.2)!;
		const met = cheapestDip('ph', site([], [], cup(30, 6, 6.1)), ['a', 'b'], 30 * DAY, 0.2)!;
		expect(apart.takes / apart.whole).toBeCloseTo(0.5, 1);
		expect(met.takes / met.whole).toBeGreaterThan(0.9);
	});
	it('is none among probes that cannot be dipped', () => {
		expect(cheapestDip('ph', site([], []), [], 30 * DAY, 0.2)).toBeNull();
	});
});
