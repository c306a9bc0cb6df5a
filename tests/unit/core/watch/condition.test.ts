import { describe, expect, it } from 'vitest';
import { belowLevel, doubtful, isQuiet, outOfRange, silent } from '@/core/watch/condition';

/** Common practice, no source. */
const MINUTE = 60_000;
const points = (...values: number[]) => values.map((value, i) => ({ at: i * 10 * MINUTE, value }));
const range = { low: 5.5, high: 6.5 };

describe('out of range', () => {
	it('is told after so many minutes, from when it began', () => {
		const p = points(6, 6.6, 6.7, 6.8);
		expect(outOfRange(p, range, 30, 30 * MINUTE, false)).toEqual({ holds: false });
		expect(outOfRange(p, range, 30, 41 * MINUTE, false)).toEqual({
			holds: true,
			since: 10 * MINUTE,
			value: 6.8,
			limit: 6.5,
		});
		expect(outOfRange(points(6, 5.2), range, 5, 20 * MINUTE, false)).toMatchObject({ limit: 5.5 });
	});
	it('ends inside the range, not at its edge', () => {
		expect(outOfRange(points(6.7, 6.49), range, 5, 20 * MINUTE, true)).toMatchObject({ holds: true });
		expect(outOfRange(points(6.7, 6.44), range, 5, 20 * MINUTE, true)).toEqual({ holds: false });
		// Untold, the edge is the edge.
		expect(outOfRange(points(6.7, 6.49), range, 5, 20 * MINUTE, false)).toEqual({ holds: false });
	});
	it('is not known where nothing is believed', () => {
		expect(outOfRange([], range, 5, 0, true)).toBeNull();
	});
});
describe('other conditions', () => {
	it('a level below its least, until it is a twentieth above', () => {
		expect(belowLevel(points(230, 219, 218), 220, false)).toEqual({
			holds: true,
			since: 10 * MINUTE,
			value: 218,
			limit: 220,
		});
		expect(belowLevel(points(219, 225), 220, true)).toMatchObject({ holds: true });
		expect(belowLevel(points(219, 232), 220, true)).toEqual({ holds: false });
	});
	it('a node that says nothing; one that never spoke is not missed', () => {
		expect(silent(0, 30, 31 * MINUTE)).toMatchObject({ holds: true, since: 0 });
		expect(silent(0, 30, 30 * MINUTE)).toEqual({ holds: false });
		expect(silent(null, 30, 31 * MINUTE)).toBeNull();
	});
	it('a stretch of doubt that goes on for long', () => {
		expect(doubtful([{ since: 10 * MINUTE }, { since: 0 }], 60, 61 * MINUTE)).toMatchObject({ holds: true, since: 0 });
		expect(doubtful([], 60, 61 * MINUTE)).toEqual({ holds: false });
	});
	it('quiet hours run over midnight', () => {
		const night = { from: 22 * 60, to: 6 * 60 };
		expect([21 * 60 + 59, 22 * 60, 0, 5 * 60 + 59, 6 * 60].map((m) => isQuiet(night, m))).toEqual([
			false,
			true,
			true,
			true,
			false,
		]);
		expect([isQuiet({ from: 60, to: 120 }, 90), isQuiet({ from: 60, to: 120 }, 130), isQuiet(null, 90)]).toEqual([
			true,
			false,
			false,
		]);
	});
});
