import { describe, expect, it } from 'vitest';
import { changesSomething, fixOf, readFix } from '@/views/entry/fix-values';

const now = Date.UTC(2026, 6, 14, 10);
const zone = 'Europe/Amsterdam';
const was = {
	quantity: 'ec' as const,
	value: '1.92',
	unit: 'mS/cm',
	station: 'pond',
	instrument: 'plum',
	time: '2026-07-14T05:30:12Z',
	note: '',
};
const fix = (change: object) => readFix({ ...fixOf(was, zone), ...change }, was, now, zone);

describe('a reading that is mended', () => {
	it('only what was changed is sent; a time that was not touched keeps its seconds', () => {
		const nothing = fix({});
		expect(nothing).toEqual({ ok: true, body: { reason: '' } });
		expect(nothing.ok && changesSomething(nothing.body)).toBe(false);
		expect(fix({ value: '1,82' })).toEqual({ ok: true, body: { value: '1.82', reason: '' } });
	});
	it('where, with what and when are of everything that was dipped with it, unless said otherwise', () => {
		expect(fix({ station: 'slabs' })).toMatchObject({ body: { station: 'slabs', whole_sample: true } });
		expect(fix({ station: 'slabs', whole: false })).toEqual({ ok: true, body: { station: 'slabs', reason: '' } });
		expect(fix({ instrument: '' })).toMatchObject({ body: { instrument: null } });
		expect(fix({ when: 'yesterday 7:30' })).toMatchObject({ body: { time: '2026-07-13T05:30:00Z' } });
	});
	it('ppm of a meter is TDS; a unit behind the number counts more than the one that is chosen', () => {
		expect(fix({ unit: 'ppm700', value: '950' })).toMatchObject({
			body: { unit: 'ppm700', quantity: 'tds', value: '950' },
		});
		expect(fix({ value: '1920uS' })).toMatchObject({ body: { value: '1920', unit: 'uS/cm' } });
	});
	it.each([
		[{ value: '1.9.2' }, 'value'],
		[{ when: 'soon' }, 'when'],
	])('%o is told at its field', (change, field) => expect(fix(change)).toMatchObject({ ok: false, field }));
});
