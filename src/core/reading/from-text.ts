import { oxygenHeld } from '../chem/oxygen';
import { done, type Outcome, refused } from '../outcome';
import {
	isQuantity,
	type PpmScale,
	ppmUnit,
	type Quantity,
	toCanonical,
	type Unit,
	unitFits,
	unitNamed,
} from '../quantity';
import { typedNumber } from '../quantity/number';
import type { Reading } from './model';

/**
 * From what was written to a reading: the one road for Bench, quick line, grid, API and files. Nothing is guessed: what is not
 * understood is refused with its field and a code, which words/en/reading.ts says in a sentence.
 */
export interface ReadingText {
	quantity: string;
	/** Digits with comma or point, or an interval `5.0..6.0`. */
	value: string;
	unit: string;
	/** Of the water, °C; null where nobody said. */
	tempC: number | null;
	/** Seconds waited; null where nobody said. */
	waitS: number | null;
}

export type ReadingField = 'quantity' | 'value' | 'unit' | 'temp_c' | 'wait_s';
export interface ReadingProblem {
	field: ReadingField;
	code:
		| 'no-value'
		| 'not-a-number'
		| 'beyond-any-instrument'
		| 'not-a-quantity'
		| 'not-a-unit'
		| 'wrong-unit'
		| 'ppm-without-scale'
		| 'not-a-temperature'
		| 'not-a-wait'
		| 'share-without-temperature';
	/** As it was written. */
	text: string;
	quantity: Quantity | null;
}

/** What of a reading lies in its text; when, where and by which instrument is known beside it. */
export type ReadValue = Pick<Reading, 'quantity' | 'unit' | 'digits' | 'value' | 'halfWidth' | 'tempC' | 'waitS'>;

/** Water that anybody measures, °C. */
const COLDEST_C = -5;
const HOTTEST_C = 60;
/** Beyond what any instrument shows, in every canonical unit. */
const BEYOND = 1e12;

const problem = (field: ReadingField, code: ReadingProblem['code'], text: string, quantity: Quantity | null) =>
	refused<ReadingProblem>({ field, code, text, quantity });

/** What a value was read with and where, as far as it says what was meant. */
export interface ReadWith {
	/** Of the instrument, for a value written as plain `ppm`; null where nobody said. */
	ppmScale: PpmScale | null;
	/** Of the site, m: what 100 % of oxygen is depends on the pressure of the air. */
	altitudeM: number;
}

/**
 * @example readingFromText({ quantity: 'tds', value: '36', unit: 'ppm', tempC: null, waitS: null }, { ppmScale: 700, altitudeM: 0 }).value.value // 51.4
 */
export function readingFromText(t: ReadingText, { ppmScale, altitudeM }: ReadWith): Outcome<ReadValue, ReadingProblem> {
	const { quantity } = t;
	if (!isQuantity(quantity)) return problem('quantity', 'not-a-quantity', quantity, null);
	if (t.value === '') return problem('value', 'no-value', '', quantity);
	const value = typedNumber(t.value);
	if (!value) return problem('value', 'not-a-number', t.value, quantity);
	const unit = unitOf(quantity, t.unit, ppmScale);
	if (typeof unit !== 'string') return problem('unit', unit.code, t.unit, quantity);
	if (t.tempC !== null && !(t.tempC >= COLDEST_C && t.tempC <= HOTTEST_C))
		return problem('temp_c', 'not-a-temperature', String(t.tempC), quantity);
	if (t.waitS !== null && !(t.waitS >= 0 && t.waitS < BEYOND))
		return problem('wait_s', 'not-a-wait', String(t.waitS), quantity);
	const oneShare = sizeOf(quantity, unit, t.tempC, altitudeM);
	if (oneShare === null) return problem('unit', 'share-without-temperature', t.unit, quantity);
	const low = toCanonical(value.low, unit) * oneShare;
	const high = toCanonical(value.high, unit) * oneShare;
	if (!(Math.abs(low) < BEYOND && Math.abs(high) < BEYOND))
		return problem('value', 'beyond-any-instrument', t.value, quantity);
	return done({
		quantity,
		unit,
		digits: value.digits,
		value: (low + high) / 2,
		halfWidth: (high - low) / 2,
		tempC: t.tempC,
		waitS: t.waitS,
	});
}

/** What one unit is worth: oxygen in % of what water of this temperature holds is kept in mg/L; null where nobody said how warm it is. */
function sizeOf(quantity: Quantity, unit: Unit, tempC: number | null, altitudeM: number): number | null {
	if (quantity !== 'do' || unit !== '%') return 1;
	const held = tempC === null ? null : oxygenHeld({ tempC, altitudeM });
	return held === null ? null : held / 100;
}

/** The unit a value is kept in, once plain ppm has been given its scale. */
function unitOf(
	quantity: Quantity,
	text: string,
	ppmScale: PpmScale | null,
): Unit | { code: 'not-a-unit' | 'wrong-unit' | 'ppm-without-scale' } {
	const unit = unitNamed(text);
	if (!unit) return { code: 'not-a-unit' };
	if (unit === 'ppm' && (quantity === 'tds' || quantity === 'ec'))
		return ppmScale === null ? { code: 'ppm-without-scale' } : ppmUnit(ppmScale);
	return unitFits(quantity, unit) ? unit : { code: 'wrong-unit' };
}

/** The temperature that a sample’s own reading of it tells, °C to two decimals; null where it is none of a water. */
export function temperatureOf(value: string, unit: Unit): number | null {
	const typed = typedNumber(value);
	const c = typed ? toCanonical(typed.low, unit) : Number.NaN;
	return c >= COLDEST_C && c <= HOTTEST_C ? Math.round(c * 100) / 100 : null;
}

/** Steps left out, as the optional column `skipped` has them: codes with blanks between. */
export const skippedOf = (extra: Record<string, string> | null): { skipped?: string[] } =>
	extra?.skipped ? { skipped: extra.skipped.split(/\s+/).filter(Boolean) } : {};
