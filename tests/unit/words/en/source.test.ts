import { describe, expect, it } from 'vitest';
import { schoolAdvice } from '@/core/water/advice';
import { readReportText } from '@/core/water/report/read';
import { consequenceWords, lineWords, schoolWords } from '@/words/en/source';

/** What people read of a source: the numbers in it are those of the question, in the unit they are read in. */
describe('which feed suits a water', () => {
	const words = (ec: number | null, alkalinity: number | null, hardness: number | null, na: number | null = null) =>
		schoolAdvice(
			{ ecUsCm: ec, alkalinityMgLCaco3: alkalinity, hardnessMgLCaco3: hardness, naMgL: na, clMgL: null },
			1900,
		).schools.map((s) => schoolWords(s.why));
	it('a hard well: its hardness, the share of the target it uses, and the acid it wants', () => {
		const [pure, hard, blend] = words(870, 260, 314);
		expect(pure).toBe('It holds too much for a feed made for pure water: calcium would be doubled.');
		expect(hard).toBe(
			'Its hardness (314 mg/L CaCO3) takes the place of part of the calcium. It already uses 46 % of the target EC. So much alkalinity wants much acid.',
		);
		expect(blend).toContain('brings down what is too much. It already uses 46 % of the target EC.');
	});
	it('rain, soft water, salt, and what nobody has measured', () => {
		expect(words(57, 12, 13)).toEqual([
			'Hardly anything in it: a complete feed that brings its own calcium and magnesium.',
			'Too soft: such a feed counts on calcium that is not there.',
			'It is what others are blended with.',
		]);
		expect(words(1500, 210, 290, 150)[1]).toBe('Its sodium or chloride would build up to harm.');
		expect(words(400, null, null)[1]).toContain('send a sample to a laboratory');
		expect(words(400, 120, 150)[2]).toBe('Not needed by its numbers; it would only save acid.');
		expect(words(null, 160, 150)[2]).toBe('Rain or RO water beside it brings down what is too much.');
	});
});

describe('a line of a report that is not understood', () => {
	it('is quoted, with what would be understood', () => {
		const said = readReportText('Ca 80 furlongs\npotatoes 3\nnonsense\nNa -4\nEC 3 furlongs').problems.map(lineWords);
		expect(said).toEqual([
			'“furlongs” is no unit of it: mg/L, µg/L, meq/L, mmol/L, or degrees.',
			'“potatoes” is nothing that is kept here: the line is left out.',
			'“nonsense” is not “name value unit”, such as “Ca 80 mg/L”.',
			'Na is less than nothing.',
			'“furlongs” is no unit of conductivity: µS/cm, mS/cm or dS/m.',
		]);
	});
});

describe('what a shift means', () => {
	it('says old and new feed for the same target, and by how much a strength comes out otherwise', () => {
		expect(
			consequenceWords({
				code: 'feed-changes',
				of: '',
				beforePerL: 2.667,
				afterPerL: 2.452,
				unit: 'mL',
				targetEcUsCm: 1900,
			}),
		).toBe('2.45 mL/L instead of 2.67 for the same 1.90; the next batch is planned so.');
		expect(consequenceWords({ code: 'ec-moves', strength: 0.25, byUsCm: -90 })).toBe(
			'at 25 % of the label its EC comes out 0.09 lower.',
		);
		expect(consequenceWords({ code: 'over-target', targetEcUsCm: 870 })).toContain('over its target of 0.87');
	});
	it('one dose was, two doses were', () => {
		expect(consequenceWords({ code: 'learned-before', doses: 1 })).toContain('1 dose was learned');
		expect(consequenceWords({ code: 'learned-before', doses: 2 })).toContain('2 doses were learned');
	});
});
