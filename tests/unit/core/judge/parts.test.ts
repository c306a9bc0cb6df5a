import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { amendEarlier, isOpen } from '@/core/judge/amend';
import { eventsBetween, insertEvent } from '@/core/judge/events-between';
import type { Prediction } from '@/core/judge/history';
import { bestSlip, undoneSlips } from '@/core/judge/slips';
import { displayStep, instrumentUncertainty, repeatability } from '@/core/judge/uncertainty';
import { fromWorking, toWorking } from '@/core/judge/working-scale';
import type { Quantity, Unit } from '@/core/quantity';
import { readingFromText } from '@/core/reading/from-text';
import type { InstrumentInfo, Reading, Verdict, WaterEvent } from '@/core/reading/model';

/** Parts that the engine is made of, each by itself. */
const read = (quantity: Quantity, value: string, unit: Unit, more: Partial<Reading> = {}): Reading => {
	const got = readingFromText({ quantity, value, unit, tempC: null, waitS: null }, null);
	if (!got.ok) throw new Error(got.problem.code);
	return { ...got.value, at: 0, station: 'pond', instrument: 'plum', ...more };
};
const pen = (quantities: InstrumentInfo['quantities']): InstrumentInfo => ({
	code: 'plum',
	quantities,
	ppmScale: null,
	compensates: true,
	alphaPctPerC: 2,
	continuous: false,
});

describe('the uncertainty of one reading (JCGM 100, 4.3.7: a rectangle of half width a has u = a/√3)', () => {
	it('a display of 0.01 and an accuracy of ±0.1 pH: √(0.01²/12 + 0.1²/3)', () => {
		const u = instrumentUncertainty(read('ph', '6.10', 'pH'), pen({ ph: { resolution: 0.01, accuracy: 0.1 } }));
		expect(u).toBeCloseTo(Math.sqrt(0.01 ** 2 / 12 + 0.1 ** 2 / 3), 12);
	});
	it('an accuracy in percent goes with the value, in canonical units', () => {
		const ec = pen({ ec: { resolution: 10, accuracyPct: 2 } });
		expect(instrumentUncertainty(read('ec', '2.00', 'mS/cm'), ec)).toBeCloseTo(
			Math.hypot(10 / Math.sqrt(12), 40 / Math.sqrt(3)),
			9,
		);
	});
	it('an interval of a drop kit is its own rectangle, whatever the kit says of itself', () => {
		expect(instrumentUncertainty(read('ph', '5.5..6.5', 'pH'), pen({ ph: { accuracy: 0.01 } }))).toBeCloseTo(
			1 / Math.sqrt(12),
			12,
		);
	});
	it('nobody said: the digits that were typed are the step, a pen is good to 0.1 pH and 2 %', () => {
		expect(displayStep(read('ec', '1.9', 'mS/cm'), undefined)).toBeCloseTo(100, 9);
		expect(displayStep(read('ph', '5.80', 'pH'), undefined)).toBeCloseTo(0.01, 9);
		expect(instrumentUncertainty(read('ph', '5.80', 'pH'), undefined)).toBeCloseTo(
			Math.hypot(0.01 / Math.sqrt(12), 0.1 / Math.sqrt(3)),
			9,
		);
	});
	it('two readings of one water differ by less than both are uncertain: half of an accuracy is constant', () => {
		fc.assert(
			fc.property(fc.double({ min: 0.01, max: 0.5, noNaN: true }), (accuracy) => {
				const r = read('ph', '6.10', 'pH');
				const i = pen({ ph: { resolution: 0.01, accuracy } });
				expect(repeatability(r, i)).toBeLessThan(instrumentUncertainty(r, i));
			}),
		);
	});
});

describe('ordinary slips, undone', () => {
	const values = (r: Reading, q: 'ph' | 'ec' | 'temp') => undoneSlips(q, r).map((s) => Number(s.value.toPrecision(6)));
	it('1850 written in mS/cm, and 1.85 written in µS/cm', () => {
		expect(values(read('ec', '1850', 'mS/cm'), 'ec')).toContain(1850);
		expect(values(read('ec', '1.85', 'uS/cm'), 'ec')).toContain(1850);
	});
	it('the mark one place off, left out, two places off', () => {
		expect(values(read('ph', '59', 'pH'), 'ph')).toEqual(expect.arrayContaining([5.9, 590, 0.59]));
	});
	it('°F written as °C and the other way: 68 °F are 20 °C', () => {
		expect(values(read('temp', '68', 'C'), 'temp')).toContain(20);
		expect(values(read('temp', '20', 'F'), 'temp').some((v) => Math.abs(v - 20) < 1e-3)).toBe(true);
	});
	it('the other ppm scales: 900 on the 500 scale is 1260 of the 700 one, so 1286 µS/cm instead of 1800', () => {
		const r = read('tds', '900', 'ppm500');
		const other = undoneSlips('ec', r).filter((s) => s.cause === 'scale-mismatch');
		expect(other.map((s) => Math.round(s.value))).toEqual([Math.round(900 / 0.64), Math.round(900 / 0.7)]);
		expect(other[1]!.how).toEqual({ code: 'other-scale', scale: 700, named: 500 });
	});
	it('an interval is no slip of typing', () => {
		expect(undoneSlips('ph', read('ph', '5.0..6.0', 'pH'))).toEqual([]);
	});
	const prediction = (level: number): Prediction => ({
		level,
		spread: 0.05,
		from: 10,
		seen: 10,
		event: { kinds: [], direction: 0, reach: 0, shift: 0, widen: 0, dose: null } as unknown as Prediction['event'],
	});
	it('the one that fits is proposed; the commoner of two that fit alike; none where none does', () => {
		const slips = undoneSlips('ph', read('ph', '59', 'pH'));
		const found = bestSlip(slips, 'ph', prediction(5.9), 0.05, 100, [0, 14]);
		expect(found?.slip).toMatchObject({ cause: 'decimal-slip', value: 5.9, how: { code: 'mark-one-off' } });
		expect(bestSlip(slips, 'ph', prediction(8.5), 0.05, 60, [0, 14])).toBeNull();
	});
	it('nothing beyond what a meter shows is proposed', () => {
		expect(
			bestSlip(
				[{ cause: 'decimal-slip', value: 59, how: { code: 'mark-one-off' }, handicap: 0 }],
				'ph',
				prediction(59),
				0.05,
				100,
				[0, 14],
			),
		).toBeNull();
	});
});

describe('the working scale', () => {
	it.each(['ph', 'ec', 'temp', 'alkalinity', 'level'] as const)('%s goes there and back (property)', (q) => {
		fc.assert(
			fc.property(fc.double({ min: 0, max: 1e5, noNaN: true }), (v) => {
				expect(fromWorking(q, toWorking(q, v))).toBeCloseTo(v, 4);
			}),
		);
	});
	it('keeps the order of values, and a sensor in the air is not minus infinity', () => {
		expect(toWorking('ec', 0)).toBeGreaterThan(Number.NEGATIVE_INFINITY);
		expect(toWorking('ec', 100)).toBeLessThan(toWorking('ec', 101));
	});
});

describe('events in order of time', () => {
	const event = (at: number, kind: WaterEvent['kind'] = 'note'): WaterEvent => ({
		at,
		station: 'pond',
		kind,
		amount: null,
		unit: null,
	});
	it('between two times: after the first, up to and with the second (property against filter)', () => {
		fc.assert(
			fc.property(
				fc.array(fc.integer({ min: 0, max: 50 })),
				fc.integer({ min: -1, max: 51 }),
				fc.nat(20),
				(times, after, span) => {
					const list: WaterEvent[] = [];
					for (const t of times) insertEvent(list, event(t));
					expect(list.map((e) => e.at)).toEqual([...times].sort((a, b) => a - b));
					expect(eventsBetween(list, after, after + span)).toEqual(
						list.filter((e) => e.at > after && e.at <= after + span),
					);
				},
			),
		);
	});
	it('of two at one time the one given later stands last', () => {
		const list = [event(1), event(2)];
		insertEvent(list, event(1, 'sampled'));
		expect(list.map((e) => e.kind)).toEqual(['note', 'sampled', 'note']);
	});
	it('of no list there are none', () => {
		expect(eventsBetween(undefined, 0, 10)).toEqual([]);
	});
});

describe('what has become sure explains what was before', () => {
	const verdict = (cause: string | null, more: Partial<Verdict> = {}): Verdict => ({
		flag: cause === null ? 1 : 3,
		deciding:
			cause === null
				? null
				: { check: cause, flag: 3, cause, suggested: null, said: { code: 'mixing' }, evidence: {}, weight: 1 },
		findings: [],
		expected: null,
		u: 0,
		inRange: null,
		...more,
	});
	const line = (at: number, cause: string | null, station = 'pond') => ({
		reading: read('ec', '1.90', 'mS/cm', { at, station }),
		verdict: verdict(cause),
	});
	it('back to its beginning, in its own series, and only what was sound or only begun', () => {
		const earlier = [
			line(1, null),
			line(2, null),
			line(3, 'spike'),
			line(4, 'span'),
			line(5, null, 'mix'),
			line(6, null),
		];
		amendEarlier(earlier, { reading: read('ec', '1.90', 'mS/cm', { at: 7 }), verdict: verdict('stuck', { since: 2 }) });
		expect(earlier.map((e) => e.verdict.deciding?.cause ?? '')).toEqual(['', 'stuck', 'stuck', 'span', '', 'stuck']);
		expect(earlier[1]!.verdict.flag).toBe(3);
	});
	it('nothing, where nothing is sure', () => {
		const earlier = [line(1, null)];
		amendEarlier(earlier, { reading: read('ec', '1.90', 'mS/cm', { at: 2 }), verdict: verdict('stuck') });
		expect(earlier[0]!.verdict.deciding).toBeNull();
	});
	it.each([
		[null, true],
		['', true],
		['gap', true],
		['unit-slip', false],
	])('a line that is %s may be explained later: %s', (cause, open) => {
		expect(isOpen(cause)).toBe(open);
	});
});
