import { describe, expect, it } from 'vitest';
import { EXTRACT_METHODS, EXTRACTS, lookInto } from '@/core/rootzone/extract';

const LIMITS = { watchUsCm: 500, actUsCm: 1000 };

describe('another look into the medium', () => {
	/** Bands of Horticulture Information Leaflet 590 (from memory): the edges of one are those of the other. */
	it('the usual bands of pour-through, saturated paste and 1:2 are the same solution', () => {
		const [low, high] = EXTRACTS['pour-through'].normalUsCm;
		for (const m of ['saturated-paste', 'extract-1-2'] as const) {
			const { factor, normalUsCm, spread } = EXTRACTS[m];
			expect(Math.abs(Math.log((factor * normalUsCm[0]) / low))).toBeLessThan(spread);
			expect(Math.abs(Math.log((factor * normalUsCm[1]) / high))).toBeLessThan(spread);
		}
	});
	it('a thinner extract reads less and is less sure', () => {
		const at = (m: (typeof EXTRACT_METHODS)[number]) => lookInto(m, 3000 / EXTRACTS[m].factor, 2000, LIMITS);
		for (const m of EXTRACT_METHODS) expect(at(m).rootUsCm.value).toBeCloseTo(3000, 9);
		const width = (m: (typeof EXTRACT_METHODS)[number]) => at(m).rootUsCm.high - at(m).rootUsCm.low;
		expect(width('press')).toBeLessThan(width('saturated-paste'));
		expect(width('saturated-paste')).toBeLessThan(width('extract-1-2'));
	});
	it('is held against the feed, and says nothing where its bounds reach from good to act', () => {
		expect(lookInto('press', 2050, 2000, LIMITS)).toMatchObject({ verdict: 'good', band: 'within' });
		expect(lookInto('press', 3600, 2000, LIMITS).verdict).toBe('act');
		expect(lookInto('extract-1-2', 700, 1800, LIMITS)).toMatchObject({ verdict: 'check', band: 'below' });
		expect(lookInto('press', 3600, null, LIMITS)).toMatchObject({ verdict: null, riseUsCm: null });
	});
});
