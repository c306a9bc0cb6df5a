import { describe, expect, it } from 'vitest';
import { parseTyped } from '@/core/quantity';
import { displayValue, typedProblem } from '@/words/en/value';

describe('a value by the way it is read aloud', () => {
	it('pH without a unit behind it, thin water in µS, feed in mS, nothing rounded away', () => {
		expect(displayValue('ph', 5.8)).toBe('pH 5.8');
		expect(displayValue('ph', 5.806)).toBe('pH 5.81');
		expect(displayValue('ec', 24.6)).toBe('24.6 µS/cm');
		expect(displayValue('ec', 99.9)).toBe('99.9 µS/cm');
		expect(displayValue('ec', 100)).toBe('0.1 mS/cm');
		expect(displayValue('ec', 1712)).toBe('1.712 mS/cm');
		expect(displayValue('temp', 21.4)).toBe('21.4 °C');
		expect(displayValue('do', 8.254)).toBe('8.25');
	});
});

describe('what was typed and is no value', () => {
	const said = (text: string): string => {
		const parsed = parseTyped(text);
		return parsed.ok ? 'a value' : typedProblem(parsed.problem);
	};
	it.each([
		['', 'Type a number.'],
		['abc', '“abc” is not a number. Type digits, as 5.8 or 1,9.'],
		['5.8.1', '“5.8.1” has more than one decimal mark. Use one point or comma.'],
		['1,850.5', '“1,850.5” has more than one decimal mark. Use one point or comma.'],
		['5 furlongs', '“furlongs” is not a unit known here. Try mS, uS, ppm500, ppm700, C or F.'],
		['6..5', '“6..5” runs backwards. Put the lower end first, as 5.0..6.0.'],
		['9'.repeat(20), `“${'9'.repeat(20)}” is beyond any meter.`],
	])('%j says what it is and what to type instead', (text, words) => {
		expect(said(text)).toBe(words);
	});
	it('a number with its unit is a value', () => {
		expect(said('1,9 mS')).toBe('a value');
	});
});
