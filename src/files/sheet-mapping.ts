import { decimal, ppmUnit, type Quantity, unitFits, unitNamed } from '@/core/quantity';
import { formatTime, parseTime } from '@/core/quantity/time';
import type { ColumnUse, DateOrder, SheetMapping } from '@/core/reading/sheet';
import { csvLine } from './table';

/**
 * A spreadsheet as somebody keeps it becomes the readings CSV: wide rows (pH and EC side by side), own names of columns, several lines
 * of head, days first or months first, °F, ppm with its scale. What the columns mean is said once and kept.
 */
/** A cell as it comes from a sheet. */
export type Cell = string | number | boolean | Date | null;

/** What a cell says, as text: a date of a workbook is that of its own clock. */
export const textOf = (cell: Cell): string =>
	cell === null
		? ''
		: cell instanceof Date
			? cell
					.toISOString()
					.replace(/T00:00:00\.000Z$/, '')
					.replace(/\.000Z$/, '')
			: String(cell).trim();

const PARTS = /^(\d{1,4})[./\- ](\d{1,2})[./\- ](\d{1,4})$/;
const MOST_DAYS = 31;
const MOST_MONTHS = 12;

/** A date by an order of its parts, as yyyy-mm-dd; null where it is none by it. */
export function dateBy(text: string, order: DateOrder): string | null {
	const m = PARTS.exec(text.trim());
	if (!m) return null;
	const [a, b, c] = [m[1]!, m[2]!, m[3]!];
	const [y, mo, d] = order === 'ymd' || a.length === 4 ? [a, b, c] : order === 'dmy' ? [c, b, a] : [c, a, b];
	const year = y.length === 2 ? 2000 + Number(y) : Number(y);
	if (
		year < 1900 ||
		year > 2200 ||
		Number(mo) < 1 ||
		Number(mo) > MOST_MONTHS ||
		Number(d) < 1 ||
		Number(d) > MOST_DAYS
	)
		return null;
	const at = new Date(Date.UTC(year, Number(mo) - 1, Number(d)));
	return at.getUTCDate() === Number(d) ? at.toISOString().slice(0, 10) : null;
}

/**
 * By which orders all of these dates are dates: where there are two, nobody but the grower knows.
 * @example possibleOrders(['03/04/2026', '25/04/2026']) // ['dmy']
 */
export function possibleOrders(dates: readonly string[]): DateOrder[] {
	const written = dates.filter((d) => PARTS.test(d.trim()));
	return (['ymd', 'dmy', 'mdy'] as const).filter(
		(order) =>
			written.length > 0 &&
			written.every((d) => dateBy(d, order) !== null) &&
			(order !== 'ymd' || written.every((d) => /^\d{4}/.test(d.trim()))),
	);
}

const NAMES: readonly [RegExp, ColumnUse][] = [
	[/^(date ?time|timestamp|time ?stamp|when)$/, { as: 'time' }],
	[/^(date|day)$/, { as: 'date' }],
	[/^(time|hour|clock)$/, { as: 'clock' }],
	[/^(station|tank|system|location|where|place|reservoir|sample point)$/, { as: 'station' }],
	[/^(meter|pen|probe|instrument|device)$/, { as: 'instrument' }],
	[/^(notes?|comments?|remarks?)$/, { as: 'note' }],
];
const MEASURED: readonly [RegExp, Quantity, string][] = [
	[/\bph\b/, 'ph', 'pH'],
	[/\b(water ?)?temp(erature)?\b|°/, 'temp', 'C'],
	[/\b(tds|ppm)\b/, 'tds', 'ppm'],
	[/\b(ec|conductivity|cf)\b/, 'ec', 'mS/cm'],
	[/\b(do|dissolved oxygen|oxygen)\b/, 'do', 'mg/L'],
	[/\borp\b/, 'orp', 'mV'],
	[/\bnitrate|no3\b/, 'no3', 'mg/L'],
	[/\balkalinity\b/, 'alkalinity', 'mg/L_CaCO3'],
	[/\b(level|depth)\b/, 'level', 'cm'],
	[/\bvolume\b/, 'volume', 'L'],
];

/**
 * What a column may be by its name: a first guess that somebody looks at.
 * @example guessUse('EC (mS/cm)') // { as: 'quantity', quantity: 'ec', unit: 'mS/cm' }
 */
export function guessUse(name: string): ColumnUse {
	const plain = name.toLowerCase().trim();
	const known = NAMES.find(([re]) => re.test(plain));
	if (known) return known[1];
	const measured = MEASURED.find(([re]) => re.test(plain));
	if (!measured) return { as: 'ignore' };
	const [, quantity, usual] = measured;
	const inBrackets = /[([]\s*([^)\]]+?)\s*[)\]]/.exec(name)?.[1] ?? '';
	const named = unitNamed(inBrackets) ?? (/°?\s*f\b/i.test(inBrackets) ? 'F' : undefined);
	return { as: 'quantity', quantity, unit: named && unitFits(quantity, named) ? named : usual };
}

export interface SheetProblem {
	/** As the sheet counts them, from 1. */
	row: number;
	column: string;
	message: string;
}
export interface MappedSheet {
	/** The readings CSV. */
	csv: string;
	readings: number;
	/** The row of the sheet that each line of the CSV is of, by the number of the line; its head is line 1. */
	rows: number[];
	/** Rows of which nothing was taken, and why: nothing is left out in silence. */
	problems: SheetProblem[];
}

const scaled = (unit: string): string =>
	/^ppm ?(500|640|700)$/i.exec(unit)?.[1] ? ppmUnit(Number(/(\d{3})/.exec(unit)![1]) as 500 | 640 | 700) : unit;

/** Applies a mapping to the rows of a sheet. @param zone of the site, for times without one */
export function mappedReadings(rows: readonly (readonly Cell[])[], m: SheetMapping, zone: string): MappedSheet {
	const problems: SheetProblem[] = [];
	const uses = m.columns.map(({ use }) => use);
	const place = (as: ColumnUse['as']): number => uses.findIndex((u) => u.as === as);
	const [time, date, clock, station, instrument, note] = (
		['time', 'date', 'clock', 'station', 'instrument', 'note'] as const
	).map(place);
	const temp = uses.findIndex((u) => u.as === 'quantity' && u.quantity === 'temp');
	let csv = csvLine(['time', 'station', 'instrument', 'quantity', 'value', 'unit', 'temp_c', 'wait_s', 'note']);
	const lines: number[] = [0, 0];
	for (let i = m.linesBefore + 1; i < rows.length; i++) {
		const row = rows[i]!;
		const at = (column: number | undefined): string =>
			column === undefined || column < 0 ? '' : textOf(row[column] ?? null);
		if (row.every((cell) => textOf(cell) === '')) continue;
		const wrong = (column: number | undefined, message: string) =>
			problems.push({ row: i + 1, column: m.columns[column ?? -1]?.name ?? '', message });
		const told = whenOf(at(time), at(date), at(clock) || m.clock, m.dateOrder);
		const parsed = told === null ? null : parseTime(told, zone);
		if (!parsed?.ok) {
			wrong(time! >= 0 ? time : date, `“${at(time) || at(date)}” is not a time as it was said to be written`);
			continue;
		}
		const here = at(station) || m.station;
		if (here === '') {
			wrong(station, 'has no station');
			continue;
		}
		for (const [c, use] of uses.entries()) {
			if (use.as !== 'quantity') continue;
			const text = at(c);
			if (/^(-|–|n\/?a|none)?$/i.test(text)) continue;
			const value = decimal(text.replace(/\s/g, ''));
			if (value === undefined) {
				wrong(c, `“${text}” is not a number`);
				continue;
			}
			csv += csvLine([
				formatTime(parsed.at),
				here,
				at(instrument) || m.instrument,
				use.quantity,
				text.replace(/\s/g, ''),
				scaled(use.unit),
				c !== temp && temp >= 0 ? celsius(at(temp), uses[temp]!) : '',
				'',
				at(note),
			]);
			lines.push(i + 1);
		}
	}
	return { csv, readings: lines.length - 2, rows: lines, problems };
}

/** A time as parseTime takes it; null where it is none. */
function whenOf(time: string, date: string, clock: string, order: DateOrder): string | null {
	if (time !== '') {
		const [first = '', ...rest] = time.split(/[T ]+/);
		const day = dateBy(first, order) ?? (/^\d{4}-\d{2}-\d{2}$/.test(first) ? first : null);
		return day === null ? null : `${day}T${hourOf(rest.join(' ')) ?? hourOf(clock) ?? '12:00'}`;
	}
	const day = dateBy(date.split(/[T ]/)[0] ?? '', order);
	return day === null ? null : `${day}T${hourOf(clock) ?? '12:00'}`;
}

/** An hour of the clock as hh:mm, of twelve hours too; null where it is none. */
function hourOf(text: string): string | null {
	const m = /^(?:\d{4}-\d{2}-\d{2}T)?(\d{1,2}):(\d{2})(?::\d{2})?Z?\s*([ap])?\.?m?\.?$/i.exec(text.trim());
	if (!m) return null;
	const half = m[3]?.toLowerCase();
	const hour = half === undefined ? Number(m[1]) : (Number(m[1]) % 12) + (half === 'p' ? 12 : 0);
	return hour > 23 || Number(m[2]) > 59 ? null : `${String(hour).padStart(2, '0')}:${m[2]}`;
}

function celsius(text: string, use: ColumnUse): string {
	const value = decimal(text);
	if (value === undefined || use.as !== 'quantity') return '';
	return use.unit === 'F' ? (((value - 32) * 5) / 9).toFixed(1) : String(value);
}
