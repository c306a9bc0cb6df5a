import { done, type Outcome, refused } from '../outcome';
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
export type Parsed = Outcome<TypedValue, { code: ParseProblem; near: string }>;

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

const refuse = (code: ParseProblem, near: string): Parsed => refused({ code, near });

/**
 * @example parseTyped('1,9 mS').value // { digits: '1.9', unit: 'mS/cm' }
 * @example parseTyped('5.0..6.0').ok // true; an interval
 * @example parseTyped('5.8.1').problem // { code: 'two-separators', near: '5.8.1' }
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
		return done({ kind: 'interval', low, high, digits: digits.join('..'), unit });
	}
	return done({ kind: 'number', value: values[0]!, digits: digits[0]!, unit });
}
