import { describe, expect, it } from 'vitest';
import { CAUSES, EVIDENCE } from '@/core/explain/explain';
import { CAUSE_WORDS, evidenceWords, movedWords, wanderWords } from '@/words/en/explanation';

const temp = (c: number) => `${((9 * c) / 5 + 32).toFixed(0)} °F`;

describe('words for what explains it', () => {
	it('each cause says how it works and what would settle it', () => {
		for (const cause of CAUSES)
			for (const words of Object.values(CAUSE_WORDS[cause])) expect([cause, words.length > 10]).toEqual([cause, true]);
	});
	it('each number stands in a sentence, for pH and for EC, without the code of a machine', () => {
		for (const says of EVIDENCE)
			for (const quantity of ['ph', 'ec'] as const) {
				const words = evidenceWords(quantity, { says, value: 0.5, weight: 1 }, temp);
				expect([says, words.length > 8, /NaN|undefined|_/.test(words)]).toEqual([says, true, false]);
			}
		expect(evidenceWords('ph', { says: 'temperature', value: 25, weight: 1 }, temp)).toBe('the water stands at 77 °F');
		expect(evidenceWords('ph', { says: 'alkalinity', value: 3, weight: 1 }, temp)).toContain('150 mg/L');
	});
	it('logarithms of EC are said as percent', () => {
		expect(movedWords('ec', Math.log(1.25))).toBe('25 %');
		expect(movedWords('ec', -Math.log(2))).toBe('50 %');
		expect(
			wanderWords('ec', { says: 'explained', way: 'up', days: 21.2, moved: { value: Math.log(1.1), u: 0.01 } }),
		).toBe('EC went up by 10 % in 21 days.');
		expect(wanderWords('ec', { says: 'cannot-tell', way: 'up', days: 21.2, moved: { value: 0.1, u: 0.06 } })).toContain(
			'hardly more than readings scatter',
		);
	});
});
