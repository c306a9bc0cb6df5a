import { describe, expect, it } from 'vitest';
import type { Engine } from '@/core/judge/engine';
import { countRest, countStep, isCoarse, noRests, noSteps, restLimit } from '@/core/judge/rests';
import { seeded } from '@/sim/random';
import { DAY, MINUTE, NEXT, practised, reading } from '../../../helpers/small-site';

const HOUR = 60 * MINUTE;

describe('sensors', () => {
	/** A day of five-minute readings, a little noise. */
	function watched(noise = 0.012): { e: Engine; at: number } {
		const e = practised();
		const chance = seeded(3);
		let at = NEXT;
		for (let i = 0; i < 288; i++) {
			at = NEXT + i * 5 * MINUTE;
			e.take([
				reading(at, 'pond', 'ph', (5.9 + noise * chance.normal()).toFixed(2), 'pH', { instrument: 'post' }),
				reading(at, 'pond', 'ec', (1800 + 5 * chance.normal()).toFixed(0), 'uS/cm', { instrument: 'post' }),
			]);
		}
		return { e, at: at + 5 * MINUTE };
	}
	const sample = (at: number, ph: string, ec: string) => [
		reading(at, 'pond', 'ph', ph, 'pH', { instrument: 'post' }),
		reading(at, 'pond', 'ec', ec, 'uS/cm', { instrument: 'post' }),
	];
	it('out of the water, in the cap, a spike: each by its name, and no typing slip is asked of a sensor', () => {
		const { e, at } = watched();
		// Out of the water one channel tells of the other, whatever that shows.
		expect(e.judge(sample(at, '5.90', '6')).map((v) => v.deciding?.cause)).toEqual(['probe-in-air', 'probe-in-air']);
		expect(e.judge(sample(at, '4.10', '80000')).map((v) => v.deciding?.cause)).toEqual([
			'probe-in-storage',
			'probe-in-storage',
		]);
		expect(e.judge(sample(at, '7.40', '1800')).map((v) => v.deciding?.cause)).toEqual(['spike', undefined]);
		expect(e.judge(sample(at, '5.90', '18000'))[1]!.deciding).toMatchObject({ cause: 'spike', suggested: null });
	});
	it('a jump right after an addition is masked, not failed', () => {
		const { e, at } = watched();
		e.note({ at: at - 2 * MINUTE, station: 'pond', kind: 'acid_added', amount: 40, unit: 'mL' });
		expect(e.judge(sample(at, '6.60', '1800'))[0]).toMatchObject({ flag: 2, deciding: { cause: 'mixing' } });
	});
	it('the same value far longer than chance is stuck', () => {
		const { e, at } = watched();
		const flags = Array.from(
			{ length: 40 },
			(_, i) => e.take(sample(at + i * 5 * MINUTE, '5.90', String(1795 + (i % 9))))[0]!,
		);
		expect(flags[3]!.flag).toBe(1);
		expect(flags.at(-1)).toMatchObject({ flag: 3, deciding: { cause: 'stuck' } });
	});
	it('a coarse display resting for hours is not stuck, by the minute and by the quarter of an hour', () => {
		for (const every of [1, 5, 15]) {
			const r = noRests(0);
			const chance = seeded(5);
			let [before, longest] = [5.9, 0];
			for (let at = every * MINUTE; at < 14 * DAY; at += every * MINUTE) {
				const water = 5.9 + 0.15 * Math.sin((2 * Math.PI * at) / DAY);
				const value = Math.round((water + 0.004 * chance.normal()) * 10) / 10;
				const limit = restLimit(r, 'coarse', every * MINUTE, at);
				countRest(r, at - every * MINUTE, at, value === before, limit);
				before = value;
				const rested = r.since === null ? 0 : at - r.since;
				longest = Math.max(longest, rested);
				expect(rested).toBeLessThan(limit);
			}
			expect(longest).toBeGreaterThan(2 * HOUR);
		}
	});
	it('twice the longest rest of the last days, eight readings, and a night seen: by hand', () => {
		const r = { ...noRests(0), longest: [HOUR, 3 * HOUR, 2 * HOUR], day: 2, share: 0.1 };
		expect(restLimit(r, 'fine', 5 * MINUTE, 3 * DAY)).toBe(6 * HOUR);
		expect(restLimit(r, 'together', 5 * MINUTE, 3 * DAY)).toBe(7.5 * HOUR);
		expect(restLimit(r, 'fine', HOUR, 3 * DAY)).toBe(8 * HOUR);
		expect(restLimit(r, 'coarse', 5 * MINUTE, 3 * DAY)).toBe(24 * HOUR);
		expect(restLimit(r, 'fine', 5 * MINUTE, DAY / 2)).toBe(Number.POSITIVE_INFINITY);
	});
	it('one reading in two like the one before: twenty in a row is a chance of 10⁻⁶; never more than a day of hours', () => {
		const r = { ...noRests(0), day: 2 };
		expect(restLimit({ ...r, share: 0.5 }, 'fine', HOUR, 3 * DAY)).toBe(20 * HOUR);
		expect(restLimit({ ...r, share: 0.98 }, 'fine', HOUR, 3 * DAY)).toBe(24 * HOUR);
	});
	it('a rest that was no chance counts for half of the limit: it hides no other', () => {
		const r = { ...noRests(0), longest: [HOUR], day: 0, since: 0 };
		countRest(r, 20 * HOUR, 20.1 * HOUR, false, 2 * HOUR);
		expect(r.longest).toEqual([HOUR]);
	});
	it('a hole in the record ends a rest: nobody knows what it did meanwhile', () => {
		const { e, at } = watched();
		e.take(sample(at, '5.90', '1800'));
		expect(e.judge(sample(at + 9 * HOUR, '5.90', '1800')).map((v) => v.deciding?.cause)).toEqual(['gap', 'gap']);
	});
});

describe('the display of a sensor', () => {
	it('is coarse where it changes by single steps only', () => {
		const steps = (values: readonly number[]) => {
			const s = noSteps();
			for (let i = 1; i < values.length; i++) countStep(s, values[i - 1]!, values[i]!);
			return s;
		};
		const chance = seeded(8);
		const fine = Array.from({ length: 200 }, () => Math.round(100 * (5.9 + 0.03 * chance.normal())) / 100);
		expect(isCoarse(steps(fine))).toBe(false);
		expect(isCoarse(steps(fine.map((v) => Math.round(10 * v) / 10)))).toBe(true);
	});
});
