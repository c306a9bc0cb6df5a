import { plainDigits } from './number';
import type { Unit } from './units';

/**
 * Reads a value as people type it: `1.9`, `1,9`, `1.9 mS`, `950ppm`, `21.4C`, `5.0..6.0`.
 *
 * One separator, comma or point, is the decimal mark. Nothing is guessed: two separators, letters that are no unit,
 * exponents beyond what a meter shows and blanks inside a number are refused with a reason.
 */

export type TypedValue =
	| { kind: 'number'; value: number; digits: string; unit: Unit | 'ppm' | null }
	| { kind: 'interval'; low: number; high: number; digits: string; unit: Unit | 'ppm' | null };

export type ParseProblem =
	| 'empty'
	| 'not-a-number'
	| 'two-separators'
	| 'unknown-unit'
	| 'reversed-interval'
	| 'too-large';
export type Parsed = { ok: true; typed: TypedValue } | { ok: false; problem: ParseProblem; near: string };

const UNIT_WORDS: Record<string, Unit | 'ppm'> = {
	ph: 'pH',
	ms: 'mS/cm',
	'ms/cm': 'mS/cm',
	us: 'uS/cm',
	µs: 'uS/cm',
	μs: 'uS/cm',
	'us/cm': 'uS/cm',
	'µs/cm': 'uS/cm',
	'μs/cm': 'uS/cm',
	ds: 'dS/m',
	'ds/m': 'dS/m',
	cf: 'CF',
	ppm: 'ppm',
	ppm500: 'ppm500',
	ppm640: 'ppm640',
	ppm700: 'ppm700',
	c: 'C',
	'°c': 'C',
	f: 'F',
	'°f': 'F',
	l: 'L',
	ml: 'mL',
	gal: 'gal',
	mm: 'mm',
	'%': '%',
	'mg/l': 'mg/L',
	mv: 'mV',
	dkh: 'dKH',
	dgh: 'dGH',
	gpg: 'gpg',
	'meq/l': 'meq/L',
};

/** The unit a person's word means, or undefined. */
export const unitWord = (word: string): Unit | 'ppm' | undefined => {
	const key = word.toLowerCase();
	return Object.hasOwn(UNIT_WORDS, key) ? UNIT_WORDS[key] : undefined;
};

function refuse(problem: ParseProblem, near: string): Parsed {
	return { ok: false, problem, near };
}

/**
 * @example parseTyped('1,9 mS') // { ok: true, typed: { digits: '1.9', unit: 'mS/cm' } }
 * @example parseTyped('5.0..6.0').ok // true; an interval
 * @example parseTyped('5.8.1').problem // 'two-separators'
 */
export function parseTyped(text: string): Parsed {
	const trimmed = text.trim();
	if (trimmed === '') return refuse('empty', '');
	const split = /^([+\-−]?[\d.,]*\d[.,]?(?:\.\.[\d.,]*\d)?)\s*(.*)$/.exec(trimmed);
	if (!split) return refuse('not-a-number', trimmed);
	const [, numberPart = '', unitPart = ''] = split;
	const unit = unitPart === '' ? null : unitWord(unitPart.replace(/\s+/g, ''));
	if (unit === undefined) return refuse(/^[\d.,]/.test(unitPart) ? 'not-a-number' : 'unknown-unit', unitPart);
	const ends = numberPart.split('..');
	const digits = ends.map(plainDigits);
	if (digits.some((d) => d === undefined)) return refuse('two-separators', numberPart);
	const values = digits.map(Number);
	if (!values.every((v) => Number.isFinite(v) && Math.abs(v) < 1e15)) return refuse('too-large', numberPart);
	if (ends.length === 2) {
		const [low = Number.NaN, high = Number.NaN] = values;
		if (!(low < high)) return refuse('reversed-interval', numberPart);
		return { ok: true, typed: { kind: 'interval', low, high, digits: digits.join('..'), unit } };
	}
	return { ok: true, typed: { kind: 'number', value: values[0]!, digits: digits[0]!, unit } };
}

/** What to tell a person whose entry was refused. */
export function parseAdvice(problem: ParseProblem, near: string): string {
	switch (problem) {
		case 'empty':
			return 'Type a number.';
		case 'not-a-number':
			return `“${near}” is not a number. Type digits, as 5.8 or 1,9.`;
		case 'two-separators':
			return `“${near}” has more than one decimal mark. Use one point or comma.`;
		case 'unknown-unit':
			return `“${near}” is not a unit known here. Try mS, uS, ppm500, ppm700, C or F.`;
		case 'reversed-interval':
			return `“${near}” runs backwards. Put the lower end first, as 5.0..6.0.`;
		case 'too-large':
			return `“${near}” is beyond any meter.`;
	}
}
