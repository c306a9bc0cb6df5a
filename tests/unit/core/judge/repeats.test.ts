import { describe, expect, it } from 'vitest';
import type { Engine } from '@/core/judge/engine';
import { countRepeat, improbableFrom, noRepeats } from '@/core/judge/repeats';
import { seeded } from '@/sim/random';
import { MINUTE, NEXT, practised, reading } from '../../../helpers/small-site';

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
		expect(e.judge(sample(at, '5.90', '6')).map((v) => v.deciding?.cause)).toEqual([undefined, 'probe-in-air']);
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
	it('a coarse display repeating itself is not stuck', () => {
		const r = noRepeats();
		const chance = seeded(5);
		let before = 5.9;
		let longest = 0;
		for (let i = 0; i < 4000; i++) {
			const value = Math.round((5.9 + 0.15 * Math.sin(i / 200) + 0.012 * chance.normal()) * 10) / 10;
			countRepeat(r, before, value);
			before = value;
			longest = Math.max(longest, r.run);
			expect(r.run).toBeLessThan(improbableFrom(r));
		}
		expect(longest).toBeGreaterThan(50);
	});
	it('improbable by hand: repeated one time in ten, six in a row is a chance of 10⁻⁶', () => {
		const fine = { ...noRepeats(), seen: 500, shareAtStart: 0.1, manySteps: 0.6 };
		expect(improbableFrom(fine)).toBe(8); // never fewer than eight
		expect(improbableFrom({ ...fine, shareAtStart: 0.5 })).toBe(Math.ceil(6 / Math.log10(2)));
		expect(improbableFrom({ ...fine, seen: 10 })).toBe(Number.MAX_SAFE_INTEGER);
	});
});
