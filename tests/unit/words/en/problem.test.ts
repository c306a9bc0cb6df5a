import { describe, expect, it } from 'vitest';
import type { Problem, ProblemOf, ProblemParams } from '@/core/problem';
import { problemWords } from '@/words/en/problem';

/** One of each; a code that is added without an example here does not compile. Invented values. */
const EXAMPLES: { [C in ProblemOf]: ProblemParams<C> } = {
	'litres-now': {},
	'litres-to-add': {},
	'runs-over': { roomL: 12.3456 },
	'less-than-in-it': { capacityL: 100, volumeL: 120 },
	'jug-litres': {},
	'jug-first-step': {},
	'jug-impossible': {},
	'jug-hardly-moved': {},
	'jug-went-back': { ml: 0.35 },
	'water-does-not-raise': { withUsCm: 800, ecUsCm: 1500, targetUsCm: 1800 },
	'water-too-salty': { withUsCm: 800, targetUsCm: 600 },
	'only-by-replacing': {},
	'gain-needed': {},
	'rate-or-target': {},
	'rate-or-gain-needed': {},
	'water-over-target': { ecUsCm: 780 },
	'no-such-feed': { mlPerL: 4000 },
	'hardly-rose': { waterEcUsCm: 300, seenEcUsCm: 310, targetEcUsCm: 1800 },
	'ec-high-enough': {},
	'no-feed': {},
	'gain-of-needed': { product: 'leaf base' },
	'rate-of-needed': { product: 'leaf base' },
	'nothing-scales': {},
	'no-such-strength': {},
	'label-form': {},
	'unknown-measure': { text: 'thimble' },
	'unknown-volume': { text: 'barrel' },
	'rate-above-nothing': {},
	'rate-too-much': { perL: 4000.4, unit: 'mL' },
	'nothing-given': {},
	'more-drained-than-given': { drainedL: 12, appliedL: 10 },
	'outside-carbonate': { low: 0, high: 60 },
	'bad-percent': {},
	'too-little-alkalinity': { ph: 11 },
	'too-much-carbon-dioxide': { ph: 5.5, alkalinityMgLCaco3: 150.04, times: 1234 },
	'acid-does-not-raise': { targetPh: 7, ph: 6 },
	'base-does-not-lower': { targetPh: 5, ph: 6 },
	'below-any-plant': { ph: 3 },
	'above-any-plant': { ph: 9 },
	'bicarbonate-ends': { kind: 'potassium bicarbonate', targetPh: 8.5 },
	'no-water': {},
	'blend-of-nothing': {},
	'water-not-measured': { what: 'naMgL', water: 2 },
	'out-of-reach': { what: 'ecUsCm', value: 900, low: 60.123456, high: 780 },
	'targets-contradict': { what: 'alkalinityMgLCaco3' },
};

describe('what is wrong with a question', () => {
	it.each(Object.entries(EXAMPLES))('%s is said, with what to do', (code, params) => {
		const words = problemWords({ code, field: 'x', ...params } as Problem);
		expect(words).toMatch(/^[A-Z0-9“p].*[.?]$/);
		expect(words).not.toMatch(/undefined|NaN|null|\[object/);
	});
	it('with the figures that were given', () => {
		const say = (code: ProblemOf) => problemWords({ code, field: 'x', ...EXAMPLES[code] } as Problem);
		expect(say('out-of-reach')).toBe('No blend of these waters has EC 900: reachable are 60.12 to 780 µS/cm.');
		expect(say('water-not-measured')).toMatch(/^The sodium of water 2 is not known/);
		expect(say('too-much-carbon-dioxide')).toContain('pH 5.5 with 150 mg/L of alkalinity would hold 1,200 times');
		expect(say('bicarbonate-ends')).toMatch(/^Potassium bicarbonate brings/);
		expect(say('rate-too-much')).toMatch(/^4000 mL for each litre/);
	});
});
