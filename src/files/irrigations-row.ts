import { decimal } from '@/core/quantity';
import type { MeasuredRun } from '@/core/rootzone/watering';
import { type LocalTimeNote, parseTime } from '../core/quantity/time';
import { cell, type Header, type RowProblem } from './table';

/** An irrigation as a line of the irrigations CSV. */
export interface IrrigationLine extends MeasuredRun {
	at: number;
	local: LocalTimeNote | null;
	system: string;
	firstDrainMin: number | null;
	note: string;
}

const MOST_MINUTES = 1440;
const MOST_LITRES = 1e9;
const MOST_ML = 1e6;
const MOST_CUPS = 500;
const MOST_NOTE = 2000;

/** A line of runs: volumes in litres, cups of one kind in one cell with blanks between, in mL. */
export function irrigationRow(
	row: readonly string[],
	header: Header,
	zone: string,
): { ok: true; row: IrrigationLine } | { ok: false; problem: RowProblem } {
	const bad = (column: string, message: string) => ({ ok: false as const, problem: { column, message } });
	if (row.length > header.count) return bad('', `has ${row.length} cells where the header has ${header.count}`);
	const time = parseTime(cell(row, header, 'time'), zone);
	if (!time.ok) return bad('time', `“${cell(row, header, 'time')}” is not a time; write it as 2026-03-01T07:30Z`);
	const system = cell(row, header, 'system');
	if (system === '') return bad('system', 'has no system');
	const numbers: Record<string, number | null> = {};
	for (const [column, least, most] of [
		['minutes', Number.MIN_VALUE, MOST_MINUTES],
		['first_drain_min', 0, MOST_MINUTES],
		['applied_l', Number.MIN_VALUE, MOST_LITRES],
		['drained_l', 0, MOST_LITRES],
	] as const) {
		const text = cell(row, header, column);
		const value = text === '' ? null : decimal(text);
		if (value === undefined || (value !== null && (value < least || value > most)))
			return bad(column, `“${text}” is not possible there`);
		numbers[column] = value;
	}
	const cups: Record<string, number[]> = {};
	for (const column of ['applied_cups_ml', 'drained_cups_ml']) {
		const texts = cell(row, header, column)
			.split(/[\s;]+/)
			.filter((x) => x !== '');
		const values = texts.map((t) => decimal(t));
		if (texts.length > MOST_CUPS || values.some((v) => v === undefined || v < 0 || v > MOST_ML))
			return bad(column, 'holds mL of each cup with blanks between, as 101 97 104');
		cups[column] = values as number[];
	}
	const note = cell(row, header, 'note');
	if (note.length > MOST_NOTE) return bad('note', `is longer than ${MOST_NOTE} characters`);
	const found: IrrigationLine = {
		at: time.at,
		local: time.local,
		system,
		minutes: numbers.minutes ?? null,
		firstDrainMin: numbers.first_drain_min ?? null,
		appliedL: numbers.applied_l ?? null,
		appliedCups: cups.applied_cups_ml!,
		drainedL: numbers.drained_l ?? null,
		drainedCups: cups.drained_cups_ml!,
		note,
	};
	const empty = [found.minutes, found.appliedL, found.drainedL].every((x) => x === null);
	if (empty && found.appliedCups.length + found.drainedCups.length === 0)
		return bad('minutes', 'says neither how long it ran nor what was caught');
	return { ok: true, row: found };
}
