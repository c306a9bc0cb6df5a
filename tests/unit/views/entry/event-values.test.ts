import { describe, expect, it } from 'vitest';
import { emptyEvent, readEvent, unitsOf, valuesOf } from '@/views/entry/event-values';

const now = Date.UTC(2026, 6, 14, 10);
const zone = 'Europe/Amsterdam';
const read = (change: object) => readEvent({ ...emptyEvent('pond'), ...change }, now, zone);

describe('an event as it is typed', () => {
	it('is now unless said, its amount with either decimal mark', () => {
		expect(read({ amount: '6,5', product: ' rain ' })).toEqual({
			ok: true,
			body: {
				station: 'pond',
				time: '2026-07-14T10:00:00Z',
				kind: 'water_added',
				amount: 6.5,
				unit: 'L',
				product: 'rain',
				note: '',
			},
		});
	});
	it('earlier as people say it', () => {
		expect(read({ amount: '1', when: 'yesterday 7:30' })).toMatchObject({ body: { time: '2026-07-13T05:30:00Z' } });
	});
	it.each([
		[{ amount: 'a lot' }, 'amount'],
		[{ amount: '-3' }, 'amount'],
		[{ amount: '1', when: 'soon' }, 'when'],
		[{ amount: '1', when: '2026-08-01 10:00' }, 'when'],
		[{ kind: 'note' }, 'note'],
	])('%o is told at its field', (change, field) => expect(read(change)).toMatchObject({ ok: false, field }));
	it('what has no amount keeps none, whatever was typed before', () => {
		expect(read({ kind: 'lights_on', amount: '65', unit: 'L', product: 'rain' })).toMatchObject({
			body: { amount: null, unit: '', product: '' },
		});
		expect(unitsOf('note')).toEqual([]);
	});
	it('as it stands reads back the same', () => {
		const e = {
			kind: 'acid_added',
			station: 'pond',
			amount: 38,
			unit: 'mL',
			product: 'citric',
			note: '',
			time: '2026-07-14T05:30:00Z',
		} as const;
		expect(readEvent(valuesOf(e, zone), now, zone)).toEqual({ ok: true, body: e });
	});
});
