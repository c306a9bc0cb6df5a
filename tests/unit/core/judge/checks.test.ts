import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { Engine } from '@/core/judge/engine';
import { type Quantity, toCanonical, type Unit } from '@/core/quantity';
import type { InstrumentInfo, Reading, StationInfo, Verdict } from '@/core/reading/model';

/** Facts of the trade (common practice, no source) unless a source is named. */

const DAY = 86_400_000;
const START = Date.UTC(2026, 2, 1, 7);
const NOW = Date.UTC(2026, 6, 1);
const stationInfo = (
	code: string,
	kind: StationInfo['kind'] = 'reservoir',
	ranges: StationInfo['ranges'] = {},
): StationInfo => ({ code, kind, system: null, volumeL: 100, ranges });
const plum: InstrumentInfo = {
	code: 'plum',
	quantities: { ph: { resolution: 0.01, accuracy: 0.05 }, ec: { resolution: 10, accuracyPct: 2 } },
	ppmScale: null,
	compensates: true,
	alphaPctPerC: 2,
	continuous: false,
};

function reading(
	station: string,
	quantity: Quantity,
	digits: string,
	unit: Unit,
	day: number,
	instrument = 'plum',
): Reading {
	return {
		at: START + day * DAY,
		station,
		instrument,
		quantity,
		unit,
		digits,
		value: toCanonical(Number(digits), unit),
		halfWidth: 0,
		tempC: null,
		waitS: null,
	};
}
/** A pond near pH 5.9 and EC 1.8, and a source near 7.4 and 0.78, with two weeks behind them. */
function practised(): Engine {
	const stations = new Map(
		[stationInfo('pond'), stationInfo('borehole', 'source'), stationInfo('rain', 'source')].map((s) => [s.code, s]),
	);
	const engine = new Engine({ stations, instruments: new Map([[plum.code, plum]]) }, () => NOW);
	for (let d = 0; d < 14; d++) {
		const wobble = [0, 0.03, -0.02, 0.05, -0.04][d % 5]!;
		const verdicts = [
			...engine.take([
				reading('pond', 'ph', (5.9 + wobble).toFixed(2), 'pH', d),
				reading('pond', 'ec', (1.8 + wobble).toFixed(2), 'mS/cm', d),
				reading('pond', 'temp', (21 + 10 * wobble).toFixed(1), 'C', d),
			]),
			...engine.take([
				reading('borehole', 'ph', (7.4 + wobble).toFixed(2), 'pH', d),
				reading('borehole', 'ec', (0.78 + wobble / 10).toFixed(2), 'mS/cm', d),
			]),
			...engine.take([reading('rain', 'ec', String(60 + Math.round(100 * wobble)), 'uS/cm', d)]),
		];
		if (verdicts.some((v) => v.flag !== 1)) throw new Error('the ordinary days must pass');
	}
	return engine;
}
const one = (engine: Engine, quantity: Quantity, digits: string, unit: Unit, station = 'pond'): Verdict =>
	engine.judge([reading(station, quantity, digits, unit, 14)])[0]!;

describe('ordinary slips are found and undone', () => {
	it.each([
		['ec', '1850', 'mS/cm', 'unit-slip', 1850],
		['ec', '1.85', 'uS/cm', 'unit-slip', 1850],
		['ec', '18.5', 'mS/cm', 'decimal-slip', 1850],
		['ec', '185', 'mS/cm', 'decimal-slip', 1850],
		['ec', '0.18', 'mS/cm', 'decimal-slip', 1800],
		['ec', '910', 'mS/cm', 'unit-slip', 1820], // ppm500 in an EC field
		['tds', '1.82', 'ppm500', 'unit-slip', 1820], // EC in a ppm field
		['tds', '1270', 'ppm500', 'scale-mismatch', 1814], // 700-scale number logged as 500
		['ph', '59', 'pH', 'decimal-slip', 5.9],
		['ph', '592', 'pH', 'decimal-slip', 5.92],
		['ph', '0.59', 'pH', 'decimal-slip', 5.9],
		['temp', '70.2', 'C', 'unit-slip', 21.2],
		['temp', '214', 'C', 'decimal-slip', 21.4],
	] as const)('%s %s %s: %s', (quantity, digits, unit, cause, suggested) => {
		const v = one(practised(), quantity, digits, unit);
		expect(v.flag).toBeGreaterThanOrEqual(3);
		expect(v.deciding).toMatchObject({ cause });
		expect(v.deciding!.suggested!).toBeCloseTo(suggested, quantity === 'ec' || quantity === 'tds' ? -1 : 1);
	});
	it('finds pH and EC exchanged, and gives both back', () => {
		const [ph, ec] = practised().judge([
			reading('pond', 'ph', '1.82', 'pH', 14),
			reading('pond', 'ec', '5.91', 'mS/cm', 14),
		]);
		expect(ph!.deciding).toMatchObject({ cause: 'swapped', suggested: 5.91 });
		expect(ec!.deciding).toMatchObject({ cause: 'swapped', suggested: 1820 });
	});
	it('finds a sample entered at the wrong station', () => {
		const sample = practised().judge([
			reading('pond', 'ph', '7.41', 'pH', 14),
			reading('pond', 'ec', '0.78', 'mS/cm', 14),
		]);
		for (const v of sample)
			expect(v.deciding).toMatchObject({ cause: 'wrong-station', evidence: { station: 'borehole' } });
	});
	it('every slip of a plausible value is found and undone (property)', () => {
		const engine = practised();
		const undo = (quantity: Quantity, typed: string, unit: Unit, truth: number, tolerance: number) => {
			const v = one(engine, quantity, typed, unit);
			return v.flag >= 3 && v.deciding!.suggested !== null && Math.abs(v.deciding!.suggested - truth) <= tolerance;
		};
		fc.assert(
			fc.property(
				fc.integer({ min: 575, max: 605 }),
				(n) => undo('ph', String(n), 'pH', n / 100, 0.01) && undo('ph', (n / 10).toFixed(1), 'pH', n / 100, 0.01),
			),
		);
		fc.assert(
			fc.property(
				fc.integer({ min: 170, max: 190 }),
				(n) =>
					undo('ec', String(n * 10), 'mS/cm', n * 10, 1) &&
					undo('ec', (n / 10).toFixed(1), 'mS/cm', n * 10, 1) &&
					undo('ec', (n / 100).toFixed(2), 'uS/cm', n * 10, 1),
			),
		);
	});
	it('a plausible value is never “fixed” (property)', () => {
		const engine = practised();
		fc.assert(
			fc.property(
				fc.double({ min: 5.7, max: 6.1, noNaN: true }),
				(v) => one(engine, 'ph', v.toFixed(2), 'pH').deciding === null,
			),
		);
		fc.assert(
			fc.property(
				fc.double({ min: 1.65, max: 1.95, noNaN: true }),
				(v) => one(engine, 'ec', v.toFixed(2), 'mS/cm').deciding === null,
			),
		);
	});
});

describe('what does not fit and is no slip', () => {
	it('asks about an unexplained rise of EC instead of failing it', () =>
		expect(one(practised(), 'ec', '2.60', 'mS/cm')).toMatchObject({
			flag: 3,
			deciding: { cause: 'unlogged-addition', suggested: null },
		}));
	it('a logged addition explains it', () => {
		const engine = practised();
		engine.note({ at: START + 13.5 * DAY, station: 'pond', kind: 'nutrient_added', amount: 500, unit: 'mL' });
		expect(one(engine, 'ec', '2.60', 'mS/cm').flag).toBe(1);
	});
	it('takes a second agreeing reading for a new level', () => {
		const engine = practised();
		expect(engine.take([reading('pond', 'ec', '2.60', 'mS/cm', 14)])[0]!.flag).toBe(3);
		engine.take([reading('pond', 'ec', '2.58', 'mS/cm', 15)]);
		expect(engine.take([reading('pond', 'ec', '2.61', 'mS/cm', 16)])[0]!.flag).toBe(1);
	});
	it('a source that shifts is asked to be confirmed', () =>
		expect(one(practised(), 'ec', '1.01', 'mS/cm', 'borehole')).toMatchObject({
			flag: 3,
			deciding: { cause: 'source-shift' },
		}));
});

describe('the other checks of an entry', () => {
	it('sensor span: pH −1 and EC beyond any meter fail', () => {
		expect(one(practised(), 'ph', '-1', 'pH').flag).toBe(4);
		expect(one(practised(), 'ec', '900', 'mS/cm').flag).toBe(4);
	});
	it('user range: without a history, far outside what was set', () => {
		const engine = new Engine(
			{
				stations: new Map([
					['t', stationInfo('t', 'reservoir', { ec: { low: 1200, high: 1800 }, ph: { low: 5.5, high: 6.5 } })],
				]),
				instruments: new Map(),
			},
			() => NOW,
		);
		const judge = (q: Quantity, d: string, u: Unit) => engine.judge([reading('t', q, d, u, 0)])[0]!;
		expect(judge('ph', '8.1', 'pH')).toMatchObject({ flag: 3, deciding: { cause: 'out-of-range' } });
		// Just outside its target is a fact about the water, not a doubt about the reading.
		expect(judge('ph', '6.8', 'pH')).toMatchObject({ flag: 1, inRange: false });
	});
	it('EC against ppm of one meter names the scale it is really on', () => {
		const engine = practised();
		const sample = (ppm: string, unit: Unit) =>
			engine.judge([reading('pond', 'ec', '1.80', 'mS/cm', 14), reading('pond', 'tds', ppm, unit, 14)])[1]!;
		expect(sample('1260', 'ppm700').flag).toBe(1);
		expect(sample('1260', 'ppm500')).toMatchObject({ flag: 3, deciding: { cause: 'scale-mismatch', suggested: 1800 } });
		expect(sample('1050', 'ppm500')).toMatchObject({ flag: 3, deciding: { cause: 'disagreement' } });
	});
	it('low ionic strength: a pH in rain water is not telling', () =>
		expect(one(practised(), 'ph', '6.1', 'pH', 'rain')).toMatchObject({
			flag: 3,
			deciding: { cause: 'low-ionic-strength' },
		}));
	it('clock: the future, 1970, out of order, a year off', () => {
		const at = (time: number) => practised().judge([{ ...reading('pond', 'ph', '5.90', 'pH', 14), at: time }])[0]!;
		expect(at(NOW + 3_600_000)).toMatchObject({ flag: 4, deciding: { cause: 'clock' } });
		expect(at(0)).toMatchObject({ flag: 4, deciding: { cause: 'clock' } });
		expect(at(START + 5 * DAY)).toMatchObject({ flag: 3, deciding: { cause: 'clock' } });
		expect(at(START - 365 * DAY)).toMatchObject({ deciding: { cause: 'clock' } });
		expect(at(NOW)).toMatchObject({ flag: 1 });
	});
	it('duplicates: the same again, and another value for the same moment', () => {
		const engine = practised();
		engine.take([reading('pond', 'ph', '5.90', 'pH', 14)]);
		expect(engine.judge([reading('pond', 'ph', '5.90', 'pH', 14)])[0]).toMatchObject({
			flag: 3,
			deciding: { cause: 'duplicate' },
		});
		expect(engine.judge([reading('pond', 'ph', '5.95', 'pH', 14)])[0]!.deciding!.said).toEqual({
			code: 'duplicate-other',
		});
		expect(engine.judge([reading('pond', 'ph', '5.95', 'pH', 14, 'brass')])[0]!.flag).toBe(1);
	});
	it('an interval of a drop kit is judged by its middle and is as uncertain as it is wide', () => {
		const v = practised().judge([{ ...reading('pond', 'ph', '5.5', 'pH', 14), value: 5.75, halfWidth: 0.25 }])[0]!;
		expect(v.flag).toBe(1);
		expect(v.u).toBeCloseTo(0.5 / Math.sqrt(12), 12); // JCGM 100, 4.3.7
	});
});

describe('one engine, three uses', () => {
	it('judges the same after its state travelled as data', () => {
		const engine = practised();
		const site = {
			stations: new Map([
				['pond', stationInfo('pond')],
				['borehole', stationInfo('borehole', 'source')],
				['rain', stationInfo('rain', 'source')],
			]),
			instruments: new Map([[plum.code, plum]]),
		};
		const copy = new Engine(site, () => NOW);
		copy.recall(JSON.parse(JSON.stringify(engine.memory.snapshot())));
		for (const digits of ['5.90', '59', '6.4', '7.41'])
			expect(one(copy, 'ph', digits, 'pH')).toEqual(one(engine, 'ph', digits, 'pH'));
	});
	it('a fork learns by itself: what it was forked from stays as it was', () => {
		const site = { stations: new Map([['pond', stationInfo('pond')]]), instruments: new Map([[plum.code, plum]]) };
		const base = practised();
		const before = JSON.stringify(base.memory.snapshot());
		const fork = new Engine(site, () => NOW, base.memory.fork());
		fork.note({ at: NOW, station: 'pond', kind: 'acid_added', amount: 20, unit: null });
		for (const digits of ['5.2', '5.21', '5.19']) fork.take([{ ...reading('pond', 'ph', digits, 'pH', 0), at: NOW }]);
		fork.take([{ ...reading('attic', 'ec', '500', 'uS/cm', 0), at: NOW }]);
		expect(JSON.stringify(base.memory.snapshot())).toBe(before);
		expect(JSON.stringify(fork.memory.snapshot())).not.toBe(before);
		// What it did not touch is the very same data.
		expect(fork.memory.look('rain')).toBe(base.memory.look('rain'));
		expect(fork.memory.look('pond')).not.toBe(base.memory.look('pond'));
	});
	it('holds a bounded number of readings', () => {
		const engine = new Engine({ stations: new Map(), instruments: new Map() }, () => NOW);
		for (let i = 0; i < 5000; i++)
			engine.take([{ ...reading('pond', 'ph', (5.9 + (i % 7) / 100).toFixed(2), 'pH', 0), at: START + i * 60_000 }]);
		expect(JSON.stringify(engine.memory.snapshot()).length).toBeLessThan(1500);
	});
});

describe('a display of coarse steps', () => {
	/** Rain water on a meter of the 700 scale that counts by tens, every week. */
	const coarse = (...shown: string[]): Verdict[] => {
		const minnow: InstrumentInfo = {
			code: 'minnow',
			quantities: { tds: { resolution: 14.3, accuracyPct: 2 } },
			ppmScale: 700,
			compensates: true,
			alphaPctPerC: 2,
			continuous: false,
		};
		const engine = new Engine(
			{ stations: new Map([['rain', stationInfo('rain', 'source')]]), instruments: new Map([[minnow.code, minnow]]) },
			() => NOW,
		);
		return shown.map(
			(v, i) => engine.take([reading('rain', 'tds', v, 'ppm700', 7 * (i - shown.length), 'minnow')])[0]!,
		);
	};
	const usual = '60 60 50 50 60 60 50 50 50 60 40 60 60 60 60 60 60 60 60'.split(' ');
	it('one step down from the one before it is no miss, and no other scale (a count is ±1, common practice)', () => {
		const [fifty, forty, again] = coarse(...usual, '50', '40', '40').slice(-3);
		expect([fifty!.flag, forty!.flag, again!.flag]).toEqual([1, 1, 1]);
	});
	it('several steps at once are', () => {
		expect(coarse(...usual, '20').at(-1)!.flag).toBe(3);
		expect(coarse(...usual, '120').at(-1)!.flag).toBe(3);
	});
});
