import { describe, expect, it } from 'vitest';
import { traceRemarks } from '@/core/water/traces';
import { remarkWords } from '@/words/en/remark';

/**
 * Limits of FAO Irrigation and Drainage Paper 29 (tables 1, 21 and 22) and the feed of Sonneveld and Straver, from memory: boron 0.7,
 * zinc 2, copper and manganese 0.2, iron 5, fluoride 1 mg/L; iron and manganese clog from 0.1, badly from 1.5.
 */
describe('what the trace elements of a water mean', () => {
	it.each([
		[{ b_mg_l: 0.9 }, [{ code: 'trace-too-much', of: 'b_mg_l', mgL: 0.9, mostMgL: 0.7 }]],
		[{ b_mg_l: 0.24 }, [{ code: 'trace-feeds', of: 'b_mg_l', mgL: 0.24, share: 0.75 }]],
		[{ b_mg_l: 0.1 }, []],
		[{ zn_mg_l: 2.5 }, [{ code: 'trace-too-much', of: 'zn_mg_l', mgL: 2.5, mostMgL: 2 }]],
		[{ fe_mg_l: 0.4 }, [{ code: 'trace-clogs', of: 'fe_mg_l', mgL: 0.4, badly: false }]],
		[
			{ fe_mg_l: 6 },
			[
				{ code: 'trace-too-much', of: 'fe_mg_l', mgL: 6, mostMgL: 5 },
				{ code: 'trace-clogs', of: 'fe_mg_l', mgL: 6, badly: true },
			],
		],
		[
			{ mn_mg_l: 0.3 },
			[
				{ code: 'trace-too-much', of: 'mn_mg_l', mgL: 0.3, mostMgL: 0.2 },
				{ code: 'trace-clogs', of: 'mn_mg_l', mgL: 0.3, badly: false },
			],
		],
		[{ f_mg_l: 1.4 }, [{ code: 'trace-too-much', of: 'f_mg_l', mgL: 1.4, mostMgL: 1 }]],
		[{ si_mg_l: 9, ca_mg_l: 90 }, []],
		[{}, []],
	] as const)('%o', (held, said) => {
		expect(traceRemarks(held)).toEqual(said);
	});
	it('is said in words with what to do', () => {
		const words = traceRemarks({ zn_mg_l: 2.5, fe_mg_l: 0.4 }).map(remarkWords);
		expect(words[0]).toMatch(/^Iron 0\.4 mg\/L slowly clogs drippers.*filter/);
		expect(words[1]).toMatch(/^Zinc 2\.5 mg\/L is more than the 2 .*galvanised/);
	});
});
