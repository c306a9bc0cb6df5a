import { describe, expect, it } from 'vitest';
import type { Remark, RemarkCode, RemarkParams } from '@/core/remark';
import { remarkWords } from '@/words/en/remark';

/** One of each; a code that is added without an example here does not compile. Invented values. */
const EXAMPLES: { [C in RemarkCode]: RemarkParams<C> } = {
	'acid-caution': {},
	'strong-acid': {},
	'eaten-by-microbes': {},
	'better-blended': {},
	'adds-too-much': { of: 'p_mg_l', mgL: 61.4 },
	'hardly-any-carbon-dioxide': { ph: 9.9 },
	'base-caution': {},
	caustic: {},
	'silicate-first': {},
	'too-much-sodium': { mgL: 50.2 },
	'sodium-stays': {},
	'more-salt-out': {},
	'salt-leaves': {},
	'hardly-any-drain': {},
	'water-more-often': {},
	'run-until-drain': {},
	'feed-weaker': {},
	flush: {},
	'drain-says-little': {},
	'drain-weaker-than-feed': {},
	'runs-away': {},
	'ph-falls-with-salt': {},
	'ph-falls-alone': {},
	'ph-rises': {},
	'slope-below': { slopePct: 71.23, leastPct: 85 },
	'slope-above': { slopePct: 112.34, mostPct: 105 },
	'slope-outside': { slopePct: 92.34, leastPct: 95, mostPct: 102 },
	'wrong-way': {},
	'offset-mv': { offsetMv: -41.23, mostMv: 30 },
	'reading-off': { error: 0.314 },
	'cell-factor': { offPct: 12.34 },
	slow: { settleS: 92.4, mostS: 60 },
	'bottle-expired': { on: '2026-05-01' },
	'bottle-expires': { on: '2026-08-01' },
	'bottle-open-long': { days: 400, keepsDays: 365 },
	'bottle-empty': {},
	'bottle-low': { left: 1234, unit: 'mL' },
	'nitrogen-taken-as-nitrate': { share: 0.8123 },
	'label-leaves-out': { share: 0.2512 },
	'stock-falls-out': { tank: 'A', calcium: 'calcium nitrate', against: 'magnesium sulfate' },
	'stock-not-known': { tank: 'A', product: 'leaf base' },
	'stock-too-strong': { product: 'potassium sulfate', gL: 120.5, mostGL: 110 },
	'stock-over-full': { tank: 'A', litresForEach: 1.2345 },
	'no-anions': {},
	'no-cations': {},
	unbalanced: { cationsMeqL: 6.1234, anionsMeqL: 4 },
	'alkalinity-as-caco3': { givenMgL: 210, meantMgL: 256.06 },
	'meq-for-mg': { ion: 'ca_mg_l', given: 5, meantMgL: 100.2 },
	'sodium-missing': { mgL: 33.3 },
	'ec-off': { calculatedUsCm: 780.4, measuredUsCm: 1000, missing: true },
	'ec-unit': {},
	'concentrate-precipitation': {},
	'trace-too-much': { of: 'b_mg_l', mgL: 0.9, mostMgL: 0.7 },
	'trace-feeds': { of: 'mn_mg_l', mgL: 0.3, share: 0.55 },
	'trace-clogs': { of: 'fe_mg_l', mgL: 2, badly: true },
};
const say = (code: RemarkCode) => remarkWords({ code, ...EXAMPLES[code] } as Remark);

describe('what is said beside an answer', () => {
	it.each(Object.keys(EXAMPLES) as RemarkCode[])('%s', (code) => {
		expect(say(code)).toMatch(/^[A-Z0-9p].*\.$/);
		expect(say(code)).not.toMatch(/undefined|NaN|null|\[object/);
	});
	it('with the figures that lead to it', () => {
		expect(say('adds-too-much')).toBe(
			'This adds 61 mg/L of phosphorus, more than a feed wants: use nitric or sulfuric acid for part of it.',
		);
		expect(say('bottle-low')).toBe('1.2 L left: order some.');
		expect(remarkWords({ code: 'bottle-low', left: 80, unit: 'g' })).toBe('80 g left: order some.');
		expect(say('slope-outside')).toContain('Slope 92.3 % is outside 95–102 %');
		expect(say('alkalinity-as-caco3')).toContain('then write 256 mg/L HCO3');
		expect(say('meq-for-mg')).toContain('It balances if calcium is 5 meq/L and not mg/L: then write 100 mg/L.');
		expect(say('ec-off')).toMatch(/something that conducts is missing/);
	});
	it('acids and bases come with gloves, eye protection, the order of pouring and the label', () => {
		for (const code of ['acid-caution', 'base-caution'] as const)
			for (const word of ['Gloves', 'eye protection', 'into water', 'never', 'label'])
				expect(say(code)).toContain(word);
	});
});
