import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { z } from 'zod';
import { byId, code, day, finite, flag, instant, ph, tempC, unit } from '@/contract/fields';
import { camelCase, camelKeys } from '@/contract/names';
import { storedReading } from '@/contract/readings';
import { onWire } from '@/contract/wire';

describe('an instant', () => {
	it('is text with its offset on the wire and milliseconds here, both ways (property)', () => {
		fc.assert(
			fc.property(fc.integer({ min: 0, max: Date.UTC(2199, 11, 31) }), (at) => {
				expect(instant.parse(z.encode(instant, at))).toBe(at);
			}),
		);
	});
	it.each([
		['2026-03-29T01:30:00+01:00', Date.UTC(2026, 2, 29, 0, 30)],
		['2026-03-29 00:30Z', Date.UTC(2026, 2, 29, 0, 30)],
		['2026-03-29', Date.UTC(2026, 2, 29)],
	])('%s', (text, at) => {
		expect(instant.parse(text)).toBe(at);
	});
	it.each(['2026-03-29T01:30', 'yesterday', '', '2026-02-30T00:00Z'])('not “%s”', (text) => {
		expect(instant.safeParse(text).error?.issues[0]?.message).toBe('write the time as 2026-03-01T07:30:00Z');
	});
});

describe('other fields', () => {
	it('a number in an address', () => {
		expect(byId.parse({ id: '17' })).toEqual({ id: 17 });
		for (const id of ['', '-1', '1.5', '1e3', '0x1', ' 1', '9'.repeat(16)])
			expect(byId.safeParse({ id }).success).toBe(false);
	});
	it('a number says which limit it does not keep', () => {
		const density = finite.min(0.7).max(2.5).nullish();
		const said = (value: unknown, schema: z.ZodType = density) => schema.safeParse(value).error?.issues[0]?.message;
		expect([said(36), said(0.5), said('heavy'), said(Number.NaN), said(null), said(1.2)]).toEqual([
			'must be at most 2.5',
			'must be at least 0.7',
			'must be a number',
			'must be a number',
			undefined,
			undefined,
		]);
		expect([said(0, finite.gt(0)), said(0, finite.gt(0, 'more than nothing'))]).toEqual([
			'must be more than 0',
			'more than nothing',
		]);
	});
	it('a switch', () => {
		expect([flag.parse('1'), flag.parse('0'), flag.safeParse('yes').success]).toEqual([true, false, false]);
		expect([z.encode(flag, true), z.encode(flag, false)]).toEqual(['1', '0']);
	});
	it('a day that exists', () => {
		expect(day.parse('2024-02-29')).toBe('2024-02-29');
		for (const bad of ['2026-02-29', '1899-12-31', '29.2.2024', '2026-7-1'])
			expect(day.safeParse(bad).success).toBe(false);
	});
	it('a code is trimmed, not empty, and holds nothing that cannot be seen', () => {
		expect(code.parse('  pond ')).toBe('pond');
		for (const bad of ['', '   ', 'a\u0000b', 'a\nb', 'x'.repeat(201)]) expect(code.safeParse(bad).success).toBe(false);
	});
	it('a unit by any of its names; a name of JavaScript’s own is none', () => {
		expect([unit.parse('mS/cm'), unit.parse('µS/cm')]).toEqual(['mS/cm', 'uS/cm']);
		expect(unit.safeParse('constructor').error?.issues[0]?.message).toBe('“constructor” is not a unit known here');
	});
	it('numbers only within what is possible', () => {
		for (const bad of ['7', null, Number.NaN, Number.POSITIVE_INFINITY, 14.01, -0.01])
			expect(ph.safeParse(bad).success).toBe(false);
		expect([tempC.safeParse(-5).success, tempC.safeParse(60.1).success]).toEqual([true, false]);
	});
});

describe('names', () => {
	it.each([
		['ec_us_cm', 'ecUsCm'],
		['alkalinity_mg_l_caco3', 'alkalinityMgLCaco3'],
		['no3_n_mg_l', 'no3NMgL'],
		['ph', 'ph'],
		['ec25_us_cm', 'ec25UsCm'],
	] as const)('%s is %s', (onTheWire, here) => {
		expect(camelCase(onTheWire)).toBe(here);
	});
	it('of one object, not of what lies in its values', () => {
		expect(camelKeys({ fed_by: ['a_b'], of_it: { in_it: 1 } })).toEqual({ fedBy: ['a_b'], ofIt: { in_it: 1 } });
	});
});

describe('a stored reading', () => {
	const shown = {
		id: 1,
		sampleId: 2,
		at: Date.UTC(2026, 6, 14, 9),
		station: 'pond',
		instrument: 'plum',
		quantity: 'ph',
		digits: '5,8',
		unitText: 'pH',
		value: 5.8,
		canonicalUnit: 'pH',
		u: 0.05,
		tempC: null,
		waitS: 30,
		note: '',
		flag: 1,
		check: '',
		cause: '',
		suggested: null,
		message: '',
		nextStep: '',
		decision: null,
		reason: null,
		supersedes: null,
		superseded: false,
		restated: null,
		restatedStatus: null,
		restatedProvisional: false,
		restatedPartial: false,
		fromCalibration: null,
		toCalibration: null,
		uncertaintyParts: null,
		enteredAt: Date.UTC(2026, 6, 14, 9, 1),
		enteredBy: 'grower',
	} as const;
	it('comes back the same, as it was typed beside what it means', () => {
		const told = onWire(storedReading, shown);
		expect(told).toMatchObject({ value: '5,8', canonical_value: 5.8, uncertainty: 0.05, time: '2026-07-14T09:00:00Z' });
		expect(storedReading.parse(told)).toEqual(shown);
	});
	it('is not told with a flag that there is none of', () => {
		expect(() => onWire(storedReading, { ...shown, flag: 5 as never })).toThrow();
	});
});
