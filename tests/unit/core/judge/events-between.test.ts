import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { eventsBetween, insertEvent } from '@/core/judge/events-between';
import type { WaterEvent } from '@/core/reading/model';

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
