import { describe, expect, it } from 'vitest';
import { phAfterTopUp } from '@/core/mix/top-up-ph';
import { MEQ, reference } from '../../../helpers/mixing-reference';

describe('the pH of a top-up', () => {
	it('agrees with full speciation of feed and water within 0.05, where it was 0.17 to 0.19 high', () => {
		expect(reference.top_up).toHaveLength(5);
		for (const r of reference.top_up) {
			const t = phAfterTopUp({
				volumeL: r.volume,
				ph: r.ph,
				ecUsCm: r.ec_us_cm,
				phosphateMmolL: r.phosphate,
				addL: r.add,
				water: { ph: r.water_ph, alkalinityMeqL: r.water_alkalinity / MEQ, ecUsCm: r.water_ec_us_cm },
			})!;
			expect(Math.abs(t.ph - r.after)).toBeLessThan(0.05);
			expect(t.low).toBeLessThanOrEqual(r.after + 0.01);
			expect(t.high).toBeGreaterThanOrEqual(r.after - 0.01);
			expect(t.aerated).toBeGreaterThanOrEqual(t.ph - 0.01);
		}
	});
	it('soft water hardly moves a tank, alkaline water lifts it, more phosphate holds it', () => {
		const t = (alkalinityMeqL: number, phosphateMmolL = 1) =>
			phAfterTopUp({
				volumeL: 90,
				ph: 5.8,
				ecUsCm: 1800,
				phosphateMmolL,
				addL: 10,
				water: { ph: 7, alkalinityMeqL, ecUsCm: 300 },
			})!.ph;
		expect(t(0.1)).toBeLessThan(5.95);
		expect(t(4)).toBeGreaterThan(t(2));
		expect(t(4, 2)).toBeLessThan(t(4, 0.5));
	});
});
