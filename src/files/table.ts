/**
 * Headers of the CSV files of docs/formats.md: which columns stand where, and what is wrong with a header.
 * Rows are arrays of text; problems are data (code, column, message), never exceptions.
 */

export interface RowProblem {
	column: string;
	message: string;
}

export interface Header {
	/** Position of each known column. */
	at: ReadonlyMap<string, number>;
	/** Unknown columns, kept with each row. */
	unknown: readonly { name: string; index: number }[];
	count: number;
}

export type HeaderResult = { ok: true; header: Header } | { ok: false; problem: RowProblem };

export interface TableFormat {
	name: 'readings' | 'events' | 'calibrations' | 'irrigations';
	required: readonly string[];
	optional: readonly string[];
}

export const READINGS: TableFormat = {
	name: 'readings',
	required: ['time', 'station', 'quantity', 'value', 'unit'],
	optional: ['instrument', 'temp_c', 'wait_s', 'note'],
};
export const EVENTS: TableFormat = {
	name: 'events',
	required: ['time', 'station', 'kind', 'amount', 'unit', 'product'],
	optional: ['note'],
};
export const CALIBRATIONS: TableFormat = {
	name: 'calibrations',
	required: ['time', 'instrument', 'quantity', 'kind', 'standard', 'nominal', 'as_found'],
	optional: ['as_left', 'temp_c', 'note'],
};
export const IRRIGATIONS: TableFormat = {
	name: 'irrigations',
	required: ['time', 'system', 'minutes'],
	optional: ['first_drain_min', 'applied_l', 'applied_cups_ml', 'drained_l', 'drained_cups_ml', 'note'],
};
export const FORMATS = [READINGS, CALIBRATIONS, EVENTS, IRRIGATIONS] as const;

export function readHeader(columns: readonly string[], format: TableFormat): HeaderResult {
	const at = new Map<string, number>();
	const unknown: { name: string; index: number }[] = [];
	const known = new Set([...format.required, ...format.optional]);
	for (const [index, raw] of columns.entries()) {
		const name = raw.trim();
		const key = name.toLowerCase();
		if (known.has(key)) {
			if (at.has(key)) return { ok: false, problem: { column: key, message: `the column ${key} appears twice` } };
			at.set(key, index);
		} else if (name !== '') unknown.push({ name, index });
	}
	for (const name of format.required)
		if (!at.has(name))
			return {
				ok: false,
				problem: {
					column: name,
					message: `the header has no column ${name}; a ${format.name} file begins with ${[...format.required, ...format.optional].join(',')}`,
				},
			};
	return { ok: true, header: { at, unknown, count: columns.length } };
}

/** Which of the formats a header is, by the columns that only that format has. */
export function formatOf(columns: readonly string[]): TableFormat | undefined {
	const names = new Set(columns.map((c) => c.trim().toLowerCase()));
	return FORMATS.find((f) => f.required.every((r) => names.has(r)));
}

export const cell = (row: readonly string[], header: Header, column: string): string => {
	const i = header.at.get(column);
	return i === undefined ? '' : (row[i] ?? '').trim();
};

/** Unknown columns of a row, null when there are none or all are empty. */
export function extraOf(row: readonly string[], header: Header): Record<string, string> | null {
	if (header.unknown.length === 0) return null;
	const entries = header.unknown
		.map(({ name, index }) => [name, row[index] ?? ''] as const)
		.filter(([, v]) => v !== '');
	return entries.length === 0 ? null : Object.fromEntries(entries);
}

const NEEDS_QUOTES = /[",\r\n]|^\s|\s$/;
const PLAIN = /^[\w:.+-]*$/;
export const csvCell = (text: string): string =>
	!PLAIN.test(text) && NEEDS_QUOTES.test(text) ? `"${text.replaceAll('"', '""')}"` : text;
export const csvLine = (cells: readonly string[]): string => `${cells.map(csvCell).join(',')}\n`;
