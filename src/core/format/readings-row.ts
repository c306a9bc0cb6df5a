import {
	isQuantity,
	type PpmScale,
	plainDigits,
	ppmUnit,
	QUANTITY,
	type Quantity,
	toCanonical,
	type Unit,
	unitFits,
	unitNamed,
} from '../quantity';
import type { Reading } from '../reading/model';
import { cell, extraOf, type Header, type RowProblem } from './table';
import { type LocalTimeNote, parseTime } from './time';

/** One line of a readings CSV, understood. */
export interface ReadingRow extends Reading {
	/** The unit as written; `ppm` stays ppm here while `unit` names its scale. */
	unitText: string;
	note: string;
	extra: Record<string, string> | null;
	local: LocalTimeNote | null;
}

export type RowResult =
	| { ok: true; row: ReadingRow }
	| { ok: false; problem: RowProblem; missing: boolean; scaleUnknown: boolean };

export interface RowContext {
	zone: string;
	/** Scale of an instrument's ppm display, for values written as plain `ppm`. */
	ppmScale: (instrument: string) => PpmScale | null;
}

const bad = (column: string, message: string, kind: 'bad' | 'missing' | 'scale' = 'bad'): RowResult => ({
	ok: false,
	problem: { column, message },
	missing: kind === 'missing',
	scaleUnknown: kind === 'scale',
});

const NUMBER = /^-?(?:\d+\.?\d*|\.\d+)$/;

/** A plain decimal, with comma or point; no exponents, no blanks, no NaN. Undefined for anything else. */
export function decimal(text: string): number | undefined {
	const digits = NUMBER.test(text) ? text : plainDigits(text);
	if (digits === undefined) return undefined;
	const value = Number(digits);
	return Number.isFinite(value) ? value : undefined;
}

export interface ValueText {
	digits: string;
	low: number;
	high: number;
}

/** `5.8`, `5,8` or the interval `5.0..6.0`; undefined for anything else. */
export function typedNumber(text: string): ValueText | undefined {
	const dots = text.indexOf('..');
	if (dots < 0) {
		const digits = NUMBER.test(text) ? text : plainDigits(text);
		if (digits === undefined) return undefined;
		const value = Number(digits);
		return Number.isFinite(value) ? { digits, low: value, high: value } : undefined;
	}
	const low = typedNumber(text.slice(0, dots));
	const high = typedNumber(text.slice(dots + 2));
	if (!low || !high || low.low !== low.high || high.low !== high.high || !(low.low < high.low)) return undefined;
	return { digits: `${low.digits}..${high.digits}`, low: low.low, high: high.low };
}

/** The unit a value is kept in, once plain ppm has been given its scale; a problem's message otherwise. */
export function resolveUnit(
	quantity: Quantity,
	unitText: string,
	ppmScale: PpmScale | null,
): { ok: true; unit: Unit } | { ok: false; message: string; scaleUnknown: boolean } {
	const unit = unitNamed(unitText);
	if (!unit) return { ok: false, message: `“${unitText}” is not a unit of the readings file`, scaleUnknown: false };
	if (unit === 'ppm' && (quantity === 'tds' || quantity === 'ec')) {
		if (ppmScale === null)
			return {
				ok: false,
				message: 'ppm without its scale: write ppm500, ppm640 or ppm700, or give the instrument its scale',
				scaleUnknown: true,
			};
		return { ok: true, unit: ppmUnit(ppmScale) };
	}
	if (!unitFits(quantity, unit))
		return { ok: false, message: `${QUANTITY[quantity].name} is not measured in ${unitText}`, scaleUnknown: false };
	return { ok: true, unit };
}

/** The steps left out, from the optional column `skipped`: codes with blanks between. */
export const skippedOf = (extra: Record<string, string> | null): { skipped?: string[] } =>
	extra?.skipped ? { skipped: extra.skipped.split(/\s+/).filter(Boolean) } : {};

export function readingRow(row: readonly string[], header: Header, context: RowContext): RowResult {
	if (row.length > header.count)
		return bad('', `has ${row.length} cells where the header has ${header.count}; a comma inside a cell needs quotes`);
	if (row.length < header.count && row.length <= 1) return bad('', 'is not a line of this table');
	const time = parseTime(cell(row, header, 'time'), context.zone);
	if (!time.ok) return bad('time', `“${cell(row, header, 'time')}” is not a time; write it as 2026-03-01T07:30Z`);
	const station = cell(row, header, 'station');
	if (station === '') return bad('station', 'has no station');
	const quantity = cell(row, header, 'quantity').toLowerCase();
	if (!isQuantity(quantity)) return bad('quantity', `“${quantity}” is not a quantity; use ph, ec, tds, temp, …`);
	const valueText = cell(row, header, 'value');
	if (valueText === '') return bad('value', 'has no value', 'missing');
	const value = typedNumber(valueText);
	if (!value) return bad('value', `“${valueText.slice(0, 40)}” is not a number`);
	const instrument = cell(row, header, 'instrument');
	const unitText = cell(row, header, 'unit');
	const unit = resolveUnit(quantity, unitText, context.ppmScale(instrument));
	if (!unit.ok) return bad('unit', unit.message, unit.scaleUnknown ? 'scale' : 'bad');
	const low = toCanonical(value.low, unit.unit);
	const high = toCanonical(value.high, unit.unit);
	if (!Number.isFinite(low) || !Number.isFinite(high) || Math.abs(high) > 1e12)
		return bad('value', `“${valueText.slice(0, 40)}” is beyond any instrument`);
	const tempText = cell(row, header, 'temp_c');
	const tempC = tempText === '' ? null : decimal(tempText);
	if (tempC === undefined) return bad('temp_c', `“${tempText}” is not a temperature`);
	const waitText = cell(row, header, 'wait_s');
	const waitS = waitText === '' ? null : decimal(waitText);
	if (waitS === undefined || (waitS !== null && waitS < 0))
		return bad('wait_s', `“${waitText}” is not a number of seconds`);
	const extra = extraOf(row, header);
	return {
		ok: true,
		row: {
			at: time.at,
			local: time.local,
			station,
			instrument,
			quantity,
			unit: unit.unit,
			unitText,
			digits: value.digits,
			value: (low + high) / 2,
			halfWidth: (high - low) / 2,
			tempC,
			waitS,
			note: cell(row, header, 'note'),
			extra,
			...skippedOf(extra),
		},
	};
}
