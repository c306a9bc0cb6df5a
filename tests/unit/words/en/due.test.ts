import { describe, expect, it } from 'vitest';
import { compareBatches } from '@/core/mix/compare-batches';
import { intervalReason } from '@/core/probe/due';
import { differenceWords } from '@/words/en/batch';
import { dueWords } from '@/words/en/due';

const learned = { days: 11.6, reason: 'learned', chance: 0.953 } as const;
describe('why a probe is due', () => {
	it.each([
		[
			{ by: 'learned' },
			learned,
			'learned from 6 intervals of its own: after 12 days it is still within tolerance 95 times in 100',
		],
		[
			{ by: 'learned' },
			{ ...learned, reason: 'few-calibrations' },
			'weekly, until three of its own calibrations are known',
		],
		[{ by: 'before_use' }, learned, 'before each use, as chosen'],
		[{ by: 'maker', days: 30 }, learned, 'as the maker says'],
	] as const)('%o', (choice, advice, words) => {
		expect(dueWords(intervalReason(choice, advice, 6))).toBe(words);
	});
	it('what upset it comes before any interval', () => {
		expect(dueWords({ code: 'upset', by: 'dried_out' })).toBe('it dried out since the last calibration');
		expect(dueWords({ code: 'never-calibrated' })).toBe('it has never been calibrated here');
	});
	it('what is known to be wrong says who says so', () => {
		const wrong = { code: 'wrong', quantity: 'ph', error: 0.3, u: 0.05 } as const;
		expect(dueWords({ ...wrong, by: 'visit', others: [] })).toBe('it was found 0.30 too high and not adjusted');
		expect(dueWords({ ...wrong, error: -0.3, by: 'others', others: [{ name: 'Plum', alike: 4, times: 5 }] })).toBe(
			'it is probably 0.30 too low: Plum disagreed in 4 of 5 waters; one dip in a standard settles it',
		);
	});
});

describe('what was different in a batch', () => {
	const a = {
		litres: 100,
		waterEcUsCm: 780,
		feedPerL: 2.5,
		firstEcUsCm: 1850,
		lastEcUsCm: 1850,
		dilutions: 0,
		doses: 2,
		dosedMlPerL: 0.7,
		lastPh: 5.8,
		minutes: 60,
	};
	const mS = (v: number) => `${(v / 1000).toFixed(2)} mS/cm`;
	const words = (b: Partial<typeof a>) => compareBatches(a, { ...a, ...b }).map((d) => differenceWords(d, mS));
	it('is told with both figures and what it may mean', () => {
		expect(words({ waterEcUsCm: 880 })[0]).toBe('The water has EC 0.88 mS/cm instead of 0.78 mS/cm.');
		expect(words({ feedPerL: 2 })[0]).toBe('−20 % feed for each litre (2.00 instead of 2.50).');
		expect(words({ lastPh: 6.1 })).toEqual(['pH came to 6.10 instead of 5.80.']);
		expect(words({ dosedMlPerL: 1.4 })).toEqual([
			'+100 % pH product for each litre: the water’s alkalinity or the bottle has changed.',
		]);
	});
	it('a feed that brought less: more water than noted, a weaker bottle, or not yet mixed', () => {
		expect(words({ firstEcUsCm: 1600 })[0]).toMatch(/−23 % as much for each mL\/L: more water than noted/);
		expect(words({ firstEcUsCm: 2100 })[0]).toMatch(/\+23 % as much for each mL\/L: less water than noted/);
	});
	it('nothing is told of what was not measured', () => {
		expect(words({ lastPh: null as never, dosedMlPerL: null as never, lastEcUsCm: null as never })).toEqual([]);
	});
});
