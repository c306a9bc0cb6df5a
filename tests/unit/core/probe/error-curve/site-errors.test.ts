import { describe, expect, it } from 'vitest';
import { pairsOf, type Sighting } from '@/core/probe/error-curve/pairs';
import { SiteErrors } from '@/core/probe/error-curve/site-errors';
import { slopeWander } from '@/core/probe/error-curve/slope';
import type { ProbeCalibration } from '@/core/probe/error-curve/visit';
import { restate } from '@/core/probe/restate';
import { errorBelief, isTold, restateAlone, restateReadings } from '@/core/probe/timeline';
import { seeded } from '@/sim/random';

const DAY = 86_400_000;
const calibration = (
	id: number,
	day: number,
	found: readonly (readonly [number, number])[],
	kind: 'adjust' | 'check' = 'adjust',
	left: number | null = 0,
): ProbeCalibration => ({
	id,
	at: day * DAY,
	kind,
	points: found.map(([nominal, asFound]) => ({
		nominal,
		asFound,
		asLeft: kind === 'adjust' && left !== null ? nominal + left : null,
		u: 0,
	})),
});
const probe = (code: string, calibrations: ProbeCalibration[] = [], jumps: { at: number; kind: string }[] = []) => ({
	code,
	calibrations,
	jumps,
});
let ids = 0;
const dip = (code: string, day: number, value: number, sample: string, uRepeat = 0.02): Sighting => ({
	id: ++ids,
	probe: code,
	continuous: false,
	station: 'pond',
	sample,
	at: day * DAY,
	value,
	uRepeat,
});
/** Both pens in one cup on these days; the water is 6, each is off by its own. */
const cups = (days: readonly number[], a: (day: number) => number, b: (day: number) => number, chance = seeded(5)) =>
	days.flatMap((d) => [
		dip('a', d, 6 + a(d) + 0.02 * chance.normal(), `s${d}`),
		dip('b', d, 6 + b(d) + 0.02 * chance.normal(), `s${d}`),
	]);
const never = () => false;
const errorsOf = (probes: Parameters<typeof probe>[], sightings: Sighting[]) =>
	new SiteErrors(
		'ph',
		probes.map((p) => probe(...p)),
		pairsOf('ph', sightings, never),
	);
const days = (from: number, to: number, step = 1) =>
	Array.from({ length: Math.floor((to - from) / step) + 1 }, (_, i) => from + i * step);

const slopePerRootDay = Math.sqrt(slopeWander('ph') * DAY);

describe('with calibrations alone', () => {
	it('the curve is the straight line of USGS TM 1–D3, and its variance the bridge’s σ²·(t − t1)(t2 − t)/(t2 − t1); away from the usual value that of its slope beside it', () => {
		const cs = [
			calibration(1, 0, [
				[7, 7],
				[4, 4],
			]),
			calibration(2, 20, [
				[7, 7.4],
				[4, 4.16],
			]),
			calibration(3, 34, [
				[7, 6.8],
				[4, 3.85],
			]),
		];
		const errors = errorsOf([['a', cs]], []).of('a')!;
		for (const [from, to, span] of [
			[0, 1, 20],
			[1, 2, 14],
		] as const)
			for (const share of [0.05, 0.25, 0.5, 0.9])
				for (const value of [4.3, 5.8, 6, 6.9, 7.6]) {
					const at = cs[from]!.at + share * span * DAY;
					const points = (c: ProbeCalibration, left: boolean) =>
						c.points.map((p) => ({ nominal: p.nominal, found: left ? p.asLeft! : p.asFound! }));
					const line = restate({
						quantity: 'ph',
						value,
						takenAt: at,
						from: { at: cs[from]!.at, kind: 'adjust', points: points(cs[from]!, true) },
						to: { at: cs[to]!.at, points: points(cs[to]!, false) },
					});
					const belief = errorBelief('ph', errors, at, value);
					expect(line.ok && line.value.error).toBeCloseTo(belief.error, 10);
					const sigma = errors.stretches.find((s) => at >= s.from && at < s.to)!.driftAtEnd.bridgePerRootDay;
					const d = share * span;
					expect(belief.u).toBeCloseTo(
						Math.hypot(sigma, slopePerRootDay * (value - 6)) * Math.sqrt((d * (span - d)) / span),
						8,
					);
				}
	});
	it('probes that never met do not know of one another', () => {
		const cs = [calibration(1, 0, [[7, 7]]), calibration(2, 20, [[7, 7.4]])];
		const together = errorsOf(
			[
				['a', cs],
				['b', [calibration(3, 3, [[7, 6.5]])]],
			],
			[],
		);
		const alone = errorsOf([['a', cs]], []);
		for (const d of days(0, 30, 0.7))
			expect(together.of('a')!.deviationAt(d * DAY, 6)).toEqual(alone.of('a')!.deviationAt(d * DAY, 6));
	});
	it('a check that nobody adjusted after is carried on: found +0.30, an hour later 6.00 was 5.70', () => {
		const [o] = restateAlone(
			'ph',
			[{ id: 1, at: 10 * DAY + 3_600_000, value: 6, u: 0.03 }],
			[calibration(1, 0, [[7, 7]]), calibration(2, 10, [[7, 7.3]], 'check')],
		).outcomes;
		expect(o).toMatchObject({ status: 'restated', value: expect.closeTo(5.7, 10), from: 2, to: null });
		// Of which 0.03 is the slope, of which one standard says nothing.
		expect(o!.u).toBeLessThan(0.05);
	});
	it('a check that found it beyond 2 pH off is not carried on: what it shows cannot be put right (TM 1–D3)', () => {
		const [o] = restateAlone(
			'ph',
			[{ id: 1, at: 11 * DAY, value: 6, u: 0.03 }],
			[calibration(1, 0, [[7, 7]]), calibration(2, 10, [[7, 9.4]], 'check')],
		).outcomes;
		expect(o).toMatchObject({ status: 'rejected', value: 6 });
		expect(o!.u).toBeLessThan(1);
	});
	it('what is put right is settled at the visit for the whole stretch: no step within a season', () => {
		const readings = days(0, 20, 0.5).map((d, i) => ({ id: i, at: d * DAY, value: 6, u: 0.03 }));
		const { outcomes } = restateAlone('ph', readings, [calibration(1, 0, [[7, 7]]), calibration(2, 20.1, [[7, 7.4]])]);
		expect(new Set(outcomes.map((o) => o.status))).toEqual(new Set(['restated']));
		for (let i = 1; i < outcomes.length; i++)
			expect(Math.abs(outcomes[i]!.value - outcomes[i - 1]!.value)).toBeLessThan(0.011);
		// Found within what may be left alone, all of it is left alone.
		const fine = restateAlone('ph', readings, [calibration(1, 0, [[7, 7]]), calibration(2, 20.1, [[7, 7.09]])]);
		expect(new Set(fine.outcomes.map((o) => o.status))).toEqual(new Set(['left-alone']));
	});
	it('what no electrode shows is left as it was typed: 66 for 6.6 is no reading of a pen that is 0.3 off', () => {
		const cs = [calibration(1, 0, [[7, 7]]), calibration(2, 20, [[7, 7.3]])];
		const [slip, reading] = restateAlone(
			'ph',
			[66, 6.6].map((value, id) => ({ id, at: 10 * DAY, value, u: 0.03 })),
			cs,
		).outcomes;
		expect(slip).toMatchObject({ status: 'left-alone', value: 66 });
		expect(reading).toMatchObject({ status: 'restated', value: expect.closeTo(6.45, 10) });
	});
	it('fouling with a check in between: what the check found holds the fouling grown until then (TM 1–D3)', () => {
		// Drift 0.01 a day and fouling 0.02 a day; checked on day 10 (found +0.3), cleaned on day 20, adjusted on day 30.
		const cs = [calibration(1, 0, [[7, 7]]), calibration(2, 10, [[7, 7.3]], 'check'), calibration(3, 30, [[7, 7.3]])];
		const cleaned = [{ at: 20 * DAY, kind: 'cleaned', before: 6.4, after: 6 }];
		for (const d of [3, 8, 12, 19, 24, 28]) {
			const error = 0.01 * d + (d <= 20 ? 0.02 * d : 0);
			const [o] = restateAlone('ph', [{ id: 1, at: d * DAY, value: 6 + error, u: 0.03 }], cs, cleaned).outcomes;
			expect([d, o!.value]).toEqual([d, expect.closeTo(6, 6)]);
		}
	});
});

describe('with pairs', () => {
	const fresh = [calibration(1, 0, [[7, 7]])];
	it('drift that begins halfway is put right where it began, not from the start', () => {
		const drift = (d: number) => (d < 20 ? 0 : 0.03 * (d - 20));
		const cs = [calibration(1, 0, [[7, 7]]), calibration(2, 40, [[7, 7.6]])];
		const weekly = days(0, 42, 7).map((d, i) => calibration(10 + i, d, [[7, 7]]));
		const errors = errorsOf(
			[
				['a', cs],
				['b', weekly],
			],
			cups(days(0.3, 39.3), drift, () => 0),
		);
		const worst = (of: SiteErrors) =>
			Math.max(...days(1, 39).map((d) => Math.abs(errorBelief('ph', of.of('a')!, d * DAY, 6).error - drift(d))));
		expect(worst(errorsOf([['a', cs]], []))).toBeGreaterThan(0.25);
		expect(worst(errors)).toBeLessThan(0.08);
	});
	it('an error of 0.3 that begins between calibrations is told within five samples, of the pen that is checked less', () => {
		const b = days(0, 60, 4).map((d, i) => calibration(20 + i, d, [[7, 7]]));
		const toldAfter = (() => {
			for (let n = 1; n <= 6; n++) {
				const errors = errorsOf(
					[
						['a', fresh],
						['b', b.filter((c) => c.at <= (30 + n) * DAY)],
					],
					cups(
						[...days(1.2, 30.2), ...days(31.2, 30.2 + n)],
						(d) => (d > 31 ? 0.3 : 0),
						() => 0,
					),
				);
				if (isTold(errorBelief('ph', errors.of('a')!, (30.3 + n) * DAY, 6), 0.1)) return n;
			}
			return 99;
		})();
		expect(toldAfter).toBeLessThanOrEqual(5);
	});
	it('one slip among them bends nothing; two alike are a jump that nobody wrote down', () => {
		const b = days(0, 60, 4).map((d, i) => calibration(20 + i, d, [[7, 7]]));
		const readings = cups(
			days(1.2, 30.2),
			() => 0,
			() => 0,
		);
		const slip = readings.map((s) => (s.probe === 'a' && s.sample === 's15.2' ? { ...s, value: s.value + 1 } : s));
		const belief = (sightings: Sighting[], d: number) =>
			errorBelief(
				'ph',
				errorsOf(
					[
						['a', fresh],
						['b', b],
					],
					sightings,
				).of('a')!,
				d * DAY,
				6,
			);
		// As if that cup had not been.
		const without = readings.filter((s) => s.sample !== 's15.2');
		expect(belief(slip, 15.3).error).toBeCloseTo(belief(without, 15.3).error, 10);
		expect(belief(slip, 15.3).u).toBeCloseTo(belief(without, 15.3).u, 10);
		expect(Math.abs(belief(slip, 20.3).error - belief(readings, 20.3).error)).toBeLessThan(0.01);
		const errors = errorsOf(
			[
				['a', fresh],
				['b', b],
			],
			slip,
		).of('a')!;
		expect(errors.pairsIn(errors.stretches.at(-1)!).filter((p) => p.weight === 0)).toHaveLength(1);
		const jumped = readings.map((s) => (s.probe === 'a' && s.at > 15 * DAY ? { ...s, value: s.value + 1 } : s));
		expect(belief(jumped, 20).error).toBeCloseTo(1, 1);
	});
	it('who is believed follows from evidence: yesterday’s check moves last month’s, not the reverse', () => {
		const errors = errorsOf(
			[
				['a', [calibration(1, 0, [[7, 7]])]],
				['b', [calibration(2, 30, [[7, 7]])]],
			],
			cups(
				[31],
				() => 0.3,
				() => 0,
			),
		);
		const a = errorBelief('ph', errors.of('a')!, 31.1 * DAY, 6);
		const b = errorBelief('ph', errors.of('b')!, 31.1 * DAY, 6);
		expect(a.error).toBeGreaterThan(0.2);
		expect(Math.abs(b.error)).toBeLessThan(0.06);
	});
	it('with no calibration at all, disagreement is shared and both stay unsure', () => {
		const errors = errorsOf(
			[['a'], ['b']],
			cups(
				[1, 2, 3],
				() => 0.3,
				() => -0.1,
			),
		);
		const a = errorBelief('ph', errors.of('a')!, 3.1 * DAY, 6);
		const b = errorBelief('ph', errors.of('b')!, 3.1 * DAY, 6);
		expect(a.error - b.error).toBeCloseTo(0.4, 1);
		expect(a.error).toBeCloseTo(-b.error, 1);
		expect(Math.min(a.u, b.u)).toBeGreaterThan(0.12);
	});
	it('a drop kit is a witness with its interval: it never moves a pen by more than its step allows', () => {
		const kit = { code: 'kit', calibrations: [], jumps: [], kit: { halfStep: 0.25 } };
		const sightings = days(1, 20).flatMap((d) => [dip('a', d, 6.4, `s${d}`), dip('kit', d, 6, `s${d}`, 0.144)]);
		const site = (cs: ProbeCalibration[]) =>
			new SiteErrors('ph', [probe('a', cs), kit], pairsOf('ph', sightings, never)).of('a')!;
		const known = errorBelief('ph', site([calibration(1, 19, [[7, 7]])]), 20.1 * DAY, 6.4);
		expect(Math.abs(known.error)).toBeLessThan(0.06);
		const unknown = errorBelief('ph', site([]), 20.1 * DAY, 6.4);
		expect(unknown.error).toBeGreaterThan(0.1);
		expect(unknown.u).toBeGreaterThan(0.1);
	});
	it('what is settled stays settled, whatever is learned later', () => {
		const cs = [calibration(1, 0, [[7, 7]]), calibration(2, 20, [[7, 7.3]])];
		const before = errorsOf(
			[
				['a', cs],
				['b', fresh],
			],
			cups(
				days(1.2, 22.2),
				(d) => 0.015 * d,
				() => 0.1,
			),
		);
		const later = errorsOf(
			[
				['a', [...cs, calibration(3, 40, [[7, 6.6]])]],
				['b', [...fresh, calibration(9, 35, [[7, 7.9]])]],
			],
			[
				...cups(
					days(1.2, 22.2),
					(d) => 0.015 * d,
					() => 0.1,
				),
				...cups(
					days(23.2, 39.2),
					() => 0.5,
					() => 0.9,
				),
			],
		);
		for (const d of days(0.1, 19.9, 0.6))
			expect(later.of('a')!.deviationAt(d * DAY, 6.3)).toEqual(before.of('a')!.deviationAt(d * DAY, 6.3));
	});
	it('one after the other gives the same as all at once', () => {
		const cs = [calibration(1, 0, [[7, 7]]), calibration(2, 20, [[7, 7.3]])];
		const pairs = pairsOf(
			'ph',
			cups(
				days(1.2, 60.2),
				(d) => (d > 40 ? 0.6 : 0),
				() => 0,
			),
			never,
		);
		const probes = [probe('a', cs), probe('b', fresh)];
		const whole = new SiteErrors('ph', probes, pairs);
		let grown = new SiteErrors('ph', probes, pairs.slice(0, 25));
		for (const p of pairs.slice(25)) {
			grown = grown.fork();
			expect(grown.add([p])).toBe(true);
		}
		for (const d of days(0.1, 62, 0.37))
			expect(grown.of('a')!.deviationAt(d * DAY, 6.3)).toEqual(whole.of('a')!.deviationAt(d * DAY, 6.3));
		// Two that had not met, or one that comes late: it says that all has to be followed anew.
		expect(grown.add([pairs[3]!])).toBe(false);
	});
	it('EC errors are shares: 5 % high at 1,000 is 5 % high at 2,000', () => {
		const sightings = days(1, 12).flatMap((d): Sighting[] => [
			{ ...dip('a', d, d % 2 ? 1050 : 2100, `s${d}`), uRepeat: 5 },
			{ ...dip('b', d, d % 2 ? 1000 : 2000, `s${d}`), uRepeat: 5 },
		]);
		const b: ProbeCalibration = {
			id: 1,
			at: 11.5 * DAY,
			kind: 'adjust',
			points: [{ nominal: 1413, asFound: 1413, asLeft: 1413, u: 0 }],
		};
		const errors = new SiteErrors('ec', [probe('a'), probe('b', [b])], pairsOf('ec', sightings, never)).of('a')!;
		const [o] = restateReadings('ec', [{ id: 1, at: 12.1 * DAY, value: 1575, u: 10 }], errors).outcomes;
		expect(o!.status).toBe('restated');
		expect(o!.value / 1500).toBeCloseTo(1, 2);
	});
});

describe('a glass that loses its slope', () => {
	/** Right at pH 7, and by a share of the distance wrong away from it: E = E0 − s·k(T)·(pH − 7), so it shows 7 + s·(pH − 7). */
	const shows = (slope: number, water: number) => 7 + slope * (water - 7);
	const chance = seeded(11);
	const waters = [5.8, 8.1];
	const sightings = days(1, 30).flatMap((d) =>
		waters.flatMap((water, i) => [
			{ ...dip('a', d + i / 10, shows(0.88, water) + 0.02 * chance.normal(), `s${d} ${i}`) },
			{ ...dip('b', d + i / 10, water + 0.02 * chance.normal(), `s${d} ${i}`) },
		]),
	);
	const sevens = days(0, 30, 10).map((d, i) => calibration(i + 1, d, [[7, 7]], 'check'));
	const both = days(0, 30, 10).map((d, i) =>
		calibration(i + 10, d, [
			[7, 7],
			[4, 4],
		]),
	);

	it('is told by whom it met: too high in the tank, too low in the source, though each check in the 7 found it right', () => {
		const a = errorsOf(
			[
				['a', sevens],
				['b', both],
			],
			sightings,
		).of('a')!;
		for (const water of waters) {
			const { error, u } = errorBelief('ph', a, 30.5 * DAY, shows(0.88, water));
			expect(error).toBeCloseTo(shows(0.88, water) - water, 1);
			expect(Math.abs(error - (shows(0.88, water) - water))).toBeLessThan(2 * u);
			expect(u).toBeLessThan(0.03);
		}
		// And no pair is taken for a slip.
		const open = a.pairsIn(a.stretches.find((s) => s.from === 10 * DAY)!);
		expect(open.length).toBe(20);
		expect(open.filter((p) => p.weight < 1).length).toBeLessThanOrEqual(2);
	});
	it('two standards say of the slope what one leaves open', () => {
		const away = (points: [number, number][]) =>
			errorBelief('ph', errorsOf([['a', [calibration(1, 0, points)]]], []).of('a')!, DAY, 9).u;
		const one = away([[7, 7]]);
		const two = away([
			[7, 7],
			[4, 4],
		]);
		expect(one).toBeGreaterThan(1.3 * two);
	});
});
