import { createElement } from 'react';
import { describe, expect, it } from 'vitest';
import type { Verdict } from '@/core/reading/model';
import { VerdictLine } from '@/views/entry/VerdictLine';
import { draw, nothing, read } from '../../../helpers/drawn';

/** Parts of the pages, drawn as the server draws them: what a person reads, and what a reader of the screen is told. */
const units = { ec: 'mS/cm', temp: 'C', volume: 'L' } as const;

describe('a verdict', () => {
	const verdict = (more: Partial<Verdict>): Verdict => ({
		flag: 1,
		deciding: null,
		findings: [],
		expected: null,
		u: 0.05,
		inRange: null,
		...more,
	});
	const slip: Verdict['deciding'] = {
		check: 'slip',
		flag: 3,
		cause: 'decimal-slip',
		suggested: 5.9,
		said: { code: 'slip', quantity: 'ph', value: 59, meant: 5.9, how: { code: 'mark-one-off' } },
		evidence: {},
		weight: 99,
	};
	it('says what was seen, what to do, and offers what was probably meant', () => {
		const part = createElement(VerdictLine, {
			quantity: 'ph',
			verdict: verdict({ flag: 3, deciding: slip, findings: [slip] }),
			units,
			onFix: nothing,
			fixKey: 'f',
		});
		expect(read(part)).toContain('did you mean pH 5.9? It looks like the decimal mark one place off.');
		expect(read(part)).toContain('Take pH 5.90 f');
		expect(draw(part)).toContain('data-flag="3"');
		expect(draw(part)).toContain('data-cause="decimal-slip"');
	});
	it('a sound one says what was expected, and whether it is out of range all the same', () => {
		const words = read(
			createElement(VerdictLine, {
				quantity: 'ec',
				verdict: verdict({ expected: { value: 1800, low: 1700, high: 1900 }, inRange: false }),
				units,
				chance: 0.004,
			}),
		);
		expect(words).toContain('EC fits · usual here now: 1.70 to 1.90');
		expect(words).toContain('in range with under 1 % chance');
		expect(words).toContain('outside the target range');
	});
});
