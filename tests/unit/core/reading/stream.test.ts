import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { meterSample, StreamIntake } from '@/core/reading/stream';

describe('a live meter is taken with suspicion', () => {
	it('text, impossible numbers, repeats, a clock that jumps back and floods are left out and counted', () => {
		const i = new StreamIntake();
		let now = 0;
		const take = (raw: unknown, ms = 250) => {
			now += ms;
			return i.take(raw, now) !== null;
		};
		expect(take({ s: 1, ph: 6.1, ec_us_cm: 1800, temp_c: 21 })).toBe(true);
		for (const raw of ['6.1', null, [], { s: 2 }, { s: 2, ph: 'six' }, { s: 2, ph: 99 }, { s: Number.NaN, ph: 6 }])
			expect(take(raw)).toBe(false);
		expect(take({ s: 1, ph: 6.2 })).toBe(false);
		expect(take({ s: 0.5, ph: 6.2 })).toBe(false);
		expect(take({ s: 2, ph: 6.2 })).toBe(true);
		for (let k = 1; k <= 50; k++) take({ s: 2 + k / 1000, ph: 6.2 }, 1);
		expect(i.refused).toEqual({ unreadable: 7, repeated: 1, 'back-in-time': 1, flood: 50 });
		expect(i.points('ph').map((p) => p.s)).toEqual([1, 2]);
		expect(i.points('ec')).toHaveLength(1);
	});
	it('says when it has gone quiet, and keeps ten minutes at most', () => {
		const i = new StreamIntake();
		expect(i.quietFor(1e9)).toBeNull();
		for (let s = 0; s < 3000; s++) i.take({ s, ph: 6 }, s * 500);
		expect(i.samples.length).toBe(1200);
		expect(i.quietFor(2999 * 500 + 4000)).toBeNull();
		expect(i.quietFor(2999 * 500 + 9000)).toBe(9000);
	});
	it('never lets anything but finite numbers through (property)', () => {
		fc.assert(
			fc.property(fc.anything(), (raw) => {
				const s = meterSample(raw);
				return s === null || [s.s, s.ph ?? 0, s.ecUsCm ?? 0, s.tempC ?? 0].every(Number.isFinite);
			}),
		);
	});
});
