import { describe, expect, it } from 'vitest';
import { schoolAdvice } from '@/core/water/advice';

describe('what the numbers of a source say', () => {
	it('pure water for pure feeds, hard water for a hard-water feed or a blend, and the share of the target used up', () => {
		const fits = (ec: number, alkalinity: number, hardness: number, na = 10) =>
			Object.fromEntries(
				schoolAdvice(
					{ ecUsCm: ec, alkalinityMgLCaco3: alkalinity, hardnessMgLCaco3: hardness, naMgL: na, clMgL: null },
					1800,
				).schools.map((s) => [s.school, s.fits]),
			);
		expect(fits(40, 10, 12)).toEqual({ pure: 'yes', 'hard-water feed': 'no', blend: 'no' });
		expect(fits(780, 210, 290)).toEqual({ pure: 'no', 'hard-water feed': 'yes', blend: 'yes' });
		expect(fits(1500, 210, 290, 150)['hard-water feed']).toBe('no');
		expect(
			schoolAdvice({ ecUsCm: 450, alkalinityMgLCaco3: null, hardnessMgLCaco3: null, naMgL: null, clMgL: null }, 1800)
				.used,
		).toBe(0.25);
	});
});
