import { decimal, type PpmScale } from '@/core/quantity';
import { type LocalTimeNote, parseTime, type RepeatedHours } from '@/core/quantity/time';
import { readingFromText, skippedOf } from '@/core/reading/from-text';
import type { Reading } from '@/core/reading/model';
import { readingProblem } from '@/words/en/reading';
import { cell, extraOf, type Header, type RowProblem } from './table';

/** One line of a readings CSV, understood. */
export interface ReadingRow extends Reading {
	/** The unit as written; `ppm` stays ppm here while `unit` names its scale. */
	unitText: string;
	note: string;
	extra: Record<string, string> | null;
	local: LocalTimeNote | null;
}

export type RowResult = { ok: true; row: ReadingRow } | { ok: false; problem: RowProblem; scaleUnknown: boolean };

export interface RowContext {
	zone: string;
	/** Of the site, m. */
	altitudeM: number;
	/** Scale of an instrument's ppm display at a time, for values written as plain `ppm`. */
	ppmScale: (instrument: string, at: number) => PpmScale | null;
	/** Of the lines before, in the night in which the clocks go back. */
	hours: RepeatedHours;
}

const bad = (column: string, message: string, scaleUnknown = false): RowResult => ({
	ok: false,
	problem: { column, message },
	scaleUnknown,
});

export function readingRow(row: readonly string[], header: Header, context: RowContext): RowResult {
	if (row.length > header.count)
		return bad('', `has ${row.length} cells where the header has ${header.count}; a comma inside a cell needs quotes`);
	if (row.length < header.count && row.length <= 1) return bad('', 'is not a line of this table');
	const time = parseTime(cell(row, header, 'time'), context.zone);
	if (!time.ok) return bad('time', `“${cell(row, header, 'time')}” is not a time; write it as 2026-03-01T07:30Z`);
	const station = cell(row, header, 'station');
	if (station === '') return bad('station', 'has no station');
	const instrument = cell(row, header, 'instrument');
	const tempText = cell(row, header, 'temp_c');
	const tempC = tempText === '' ? null : decimal(tempText);
	if (tempC === undefined) return bad('temp_c', `“${tempText}” is not a temperature`);
	const waitText = cell(row, header, 'wait_s');
	const waitS = waitText === '' ? null : decimal(waitText);
	if (waitS === undefined) return bad('wait_s', `“${waitText}” is not a number of seconds`);
	const unitText = cell(row, header, 'unit');
	const read = readingFromText(
		{
			quantity: cell(row, header, 'quantity').toLowerCase(),
			value: cell(row, header, 'value'),
			unit: unitText,
			tempC,
			waitS,
		},
		{ ppmScale: context.ppmScale(instrument, time.at), altitudeM: context.altitudeM },
	);
	if (!read.ok) return bad(read.problem.field, readingProblem(read.problem), read.problem.code === 'ppm-without-scale');
	const extra = extraOf(row, header);
	return {
		ok: true,
		// Each property by its name: spread into one another they would cost more than everything else of a line.
		row: {
			at: context.hours.settle(`${station}\u0000${instrument}\u0000${read.value.quantity}`, time),
			local: time.local,
			station,
			instrument,
			quantity: read.value.quantity,
			unit: read.value.unit,
			unitText,
			digits: read.value.digits,
			value: read.value.value,
			halfWidth: read.value.halfWidth,
			tempC,
			waitS,
			note: cell(row, header, 'note'),
			extra,
			skipped: extra === null ? undefined : skippedOf(extra).skipped,
		},
	};
}
