import { describe, expect, it } from 'vitest';
import { batchFigures, compareBatches, gainOf } from '@/core/mix/compare-batches';

describe('batches held against each other', () => {
	const plan = { litres: 1000, waterEcUsCm: 780, pours: [{ perL: 2.67 }, { perL: 2.67 }] };
	const log = (ec: number, doses: number[], ph: number) => [
		{ at: 0, step: 'ec', measured: ec },
		...doses.map((amount) => ({ at: 0, step: 'dosed', measured: null, amount })),
		{ at: 0, step: 'ph', measured: ph },
	];
	const a = batchFigures(plan, log(1900, [400, 300], 5.8), 0, 3_600_000);
	it('figures: gain of the feed, product for each litre, minutes', () => {
		// (1900 − 780)/2.67 = 419.5.
		expect(gainOf(a)).toBeCloseTo(419.5, 1);
		expect(a).toMatchObject({ doses: 2, dosedMlPerL: 0.7, minutes: 60, lastPh: 5.8 });
		expect(gainOf({ ...a, feedPerL: 0 })).toBeNull();
	});
	it('tells water, feed, gain, EC, dose and pH that differ, and nothing that a dipstick cannot tell', () => {
		const of = (b: typeof a) => compareBatches(a, b).map((d) => d.of);
		expect(of({ ...a, firstEcUsCm: 1920, lastEcUsCm: 1920, lastPh: 5.84, dosedMlPerL: 0.75 })).toEqual([]);
		expect(of({ ...a, waterEcUsCm: 870, feedPerL: 2.46 })).toEqual(['water', 'feed']);
		expect(of({ ...a, firstEcUsCm: 1700, lastEcUsCm: 1700 })).toEqual(['gain', 'ec']);
		expect(of({ ...a, dosedMlPerL: 1, lastPh: 6.1 })).toEqual(['dosed', 'ph']);
	});
});
