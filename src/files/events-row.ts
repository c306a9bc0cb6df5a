import { decimal } from '@/core/quantity';
import { type Unit, unitNamed } from '../core/quantity';
import { type LocalTimeNote, parseTime } from '../core/quantity/time';
import { EVENT_KINDS, type EventKind, type WaterEvent } from '../core/reading/model';
import { cell, extraOf, type Header, type RowProblem } from './table';

export interface EventRow extends WaterEvent {
	/** The amount as written, with a decimal point; empty when none was given. */
	amountText: string;
	unitText: string;
	product: string;
	note: string;
	extra: Record<string, string> | null;
	local: LocalTimeNote | null;
}

/** Units of amounts besides those of readings. */
const AMOUNT_UNITS = new Set(['g', 'kg', 'min', 'drop', 'drops', 'h']);

const isKind = (kind: string): kind is EventKind => (EVENT_KINDS as readonly string[]).includes(kind);

export function eventRow(
	row: readonly string[],
	header: Header,
	zone: string,
): { ok: true; row: EventRow } | { ok: false; problem: RowProblem } {
	const bad = (column: string, message: string) => ({ ok: false as const, problem: { column, message } });
	if (row.length > header.count) return bad('', `has ${row.length} cells where the header has ${header.count}`);
	const time = parseTime(cell(row, header, 'time'), zone);
	if (!time.ok) return bad('time', `“${cell(row, header, 'time')}” is not a time; write it as 2026-03-01T07:30Z`);
	const station = cell(row, header, 'station');
	if (station === '') return bad('station', 'has no station');
	const kind = cell(row, header, 'kind').toLowerCase();
	if (!isKind(kind))
		return bad('kind', `“${kind}” is not a kind of event; use ${EVENT_KINDS.slice(0, 5).join(', ')}, …`);
	const amountText = cell(row, header, 'amount');
	const amount = amountText === '' ? null : decimal(amountText);
	if (amount === undefined || (amount !== null && amount < 0)) return bad('amount', `“${amountText}” is not an amount`);
	const unitText = cell(row, header, 'unit');
	const unit: Unit | null = unitNamed(unitText) ?? null;
	if (unitText !== '' && unit === null && !AMOUNT_UNITS.has(unitText))
		return bad('unit', `“${unitText}” is not a unit of an amount; use mL, L, g, …`);
	return {
		ok: true,
		row: {
			at: time.at,
			local: time.local,
			station,
			kind,
			amount,
			amountText: amountText.replace(',', '.'),
			unit,
			unitText,
			product: cell(row, header, 'product'),
			note: cell(row, header, 'note'),
			extra: extraOf(row, header),
		},
	};
}
