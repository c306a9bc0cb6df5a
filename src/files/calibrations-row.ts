import { decimal } from '@/core/quantity';
import { type CalibrationTrouble, examineCalibration } from '../core/probe/examine-calibration';
import { nominalValue, standardNamed } from '../core/probe/standards';
import { type LocalTimeNote, parseTime } from '../core/quantity/time';
import type { InstrumentInfo } from '../core/reading/model';
import { cell, type Header, type RowProblem } from './table';

/** One standard of one calibration, as a line of the calibrations CSV. */
export interface CalibrationLine {
	at: number;
	local: LocalTimeNote | null;
	instrument: string;
	quantity: 'ph' | 'ec';
	kind: 'check' | 'adjust';
	standard: string;
	nominal: number;
	asFound: number | null;
	asLeft: number | null;
	tempC: number | null;
	note: string;
	lot: string;
	mv: number | null;
	settleS: number | null;
}

export type CalibrationLineResult = { ok: true; row: CalibrationLine } | { ok: false; problem: RowProblem };

/** @param instrument how the meter compensates, for a nominal that is left to the standard's table */
export function calibrationLine(
	row: readonly string[],
	header: Header,
	zone: string,
	instrument: (code: string, at: number) => InstrumentInfo | undefined,
): CalibrationLineResult {
	const bad = (column: string, message: string): CalibrationLineResult => ({ ok: false, problem: { column, message } });
	if (row.length > header.count) return bad('', `has ${row.length} cells where the header has ${header.count}`);
	const time = parseTime(cell(row, header, 'time'), zone);
	if (!time.ok) return bad('time', `“${cell(row, header, 'time')}” is not a time; write it as 2026-03-01T07:30Z`);
	const code = cell(row, header, 'instrument');
	if (code === '') return bad('instrument', 'has no instrument');
	const quantity = cell(row, header, 'quantity').toLowerCase();
	if (quantity !== 'ph' && quantity !== 'ec') return bad('quantity', `“${quantity}” is not ph or ec`);
	const kind = cell(row, header, 'kind').toLowerCase();
	if (kind !== 'check' && kind !== 'adjust') return bad('kind', `“${kind}” is not check or adjust`);
	const numbers: Record<string, number | null> = {};
	for (const column of ['nominal', 'as_found', 'as_left', 'temp_c', 'mv', 'settle_s']) {
		const text = header.at.has(column)
			? cell(row, header, column)
			: (row[header.unknown.find((u) => u.name === column)?.index ?? -1] ?? '').trim();
		const value = text === '' ? null : decimal(text);
		if (value === undefined) return bad(column, `“${text}” is not a number`);
		numbers[column] = value;
	}
	const standard = cell(row, header, 'standard');
	let nominal = numbers.nominal!;
	if (nominal === null) {
		const definition = standardNamed(standard);
		if (!definition) return bad('nominal', `is empty and “${standard}” is not a standard known here`);
		if (numbers.temp_c === null) return bad('temp_c', 'is empty, and the value of the standard depends on it');
		const meter = instrument(code, time.at);
		const at = nominalValue(definition, numbers.temp_c!, {
			compensates: meter?.compensates ?? true,
			alphaPctPerC: meter?.alphaPctPerC ?? 2,
		});
		if (!at.ok)
			return bad('temp_c', `is outside the table of ${standard} (${at.problem.low} to ${at.problem.high} °C)`);
		nominal = at.value;
	}
	if (numbers.as_found === null && numbers.as_left === null)
		return bad('as_found', 'says neither as found nor as left');
	return {
		ok: true,
		row: {
			at: time.at,
			local: time.local,
			instrument: code,
			quantity,
			kind,
			standard,
			nominal,
			asFound: numbers.as_found!,
			asLeft: numbers.as_left!,
			tempC: numbers.temp_c!,
			note: cell(row, header, 'note'),
			lot: (row[header.unknown.find((u) => u.name === 'lot')?.index ?? -1] ?? '').trim(),
			mv: numbers.mv!,
			settleS: numbers.settle_s!,
		},
	};
}

/** What cannot be kept of a calibration as it is written in a file; one that only says what was left is taken at its word. */
export function troubleOf(group: CalibrationGroup): CalibrationTrouble | null {
	const examined = examineCalibration(group.quantity, group.points, group.tempC, group.settleS);
	return examined.ok || examined.problem === 'nothing-found' ? null : examined.problem;
}

export interface CalibrationGroup
	extends Omit<CalibrationLine, 'standard' | 'nominal' | 'asFound' | 'asLeft' | 'lot' | 'mv' | 'local'> {
	points: Pick<CalibrationLine, 'standard' | 'nominal' | 'asFound' | 'asLeft' | 'lot' | 'mv'>[];
}

/** Lines with the same time, instrument and quantity are one calibration. */
export function groupCalibrations(lines: readonly CalibrationLine[]): CalibrationGroup[] {
	const groups = new Map<string, CalibrationGroup>();
	for (const { standard, nominal, asFound, asLeft, lot, mv, local: _, ...rest } of lines) {
		const key = `${rest.at}\u0000${rest.instrument}\u0000${rest.quantity}`;
		const group = groups.get(key) ?? { ...rest, points: [] };
		group.points.push({ standard, nominal, asFound, asLeft, lot, mv });
		groups.set(key, group);
	}
	return [...groups.values()].sort((a, b) => a.at - b.at);
}
