import { createReadStream } from 'node:fs';
import { open, writeFile } from 'node:fs/promises';
import type { ImportDone } from '@/contract/files';
import type { DateOrder, SheetMapping } from '@/core/reading/sheet';
import { csvRecords } from '@/files/csv-stream';
import { type Cell, guessUse, type MappedSheet, mappedReadings, possibleOrders, textOf } from '@/files/sheet-mapping';
import { listMappings } from '@/store/imports';
import type { Db } from '@/store/pool';
import { type ImportOptions, importFile } from './import';
import { Refusal } from './refusal';
import type { SiteContext } from './site';

/** Spreadsheets as they are: looked at, read by a mapping that is kept, and brought in as readings. */
const SHOWN_ROWS = 12;
const MOST_ROWS = 200_000;
const MOST_COLUMNS = 200;
const LONGEST_NAME = 200;

const unreadable = (message: string) => new Refusal('not-text', [{ path: 'file', message }]);

const HEAD_BYTES = 20_000;
/** What separates the cells of a text: titles above the table tell nothing of it, and a comma between digits is a decimal mark. */
async function markOf(path: string): Promise<string> {
	const file = await open(path);
	const head = Buffer.alloc(HEAD_BYTES);
	const { bytesRead } = await file.read(head, 0, HEAD_BYTES, 0).finally(() => file.close());
	const text = head.toString('utf8', 0, bytesRead);
	const count = (mark: RegExp) => text.match(mark)?.length ?? 0;
	const counts = [
		[',', count(/(?<!\d),|,(?!\d)/g)],
		[';', count(/;/g)],
		['\t', count(/\t/g)],
	] as const;
	return counts.reduce((best, c) => (c[1] > best[1] ? c : best))[0];
}

/** Rows of a workbook's first sheet, or of a text with its cells. @throws Refusal where it is neither */
async function rowsOf(path: string): Promise<Cell[][]> {
	const file = await open(path);
	const head = Buffer.alloc(4);
	await file.read(head, 0, 4, 0).finally(() => file.close());
	if (head.toString('latin1').startsWith('PK')) {
		const { readSheet } = await import('read-excel-file/node');
		const rows = (await readSheet(path).catch(() => {
			throw unreadable('This workbook cannot be read; save it as .xlsx or .csv anew.');
		})) as unknown as Cell[][];
		if (rows.length > MOST_ROWS) throw unreadable(`At most ${MOST_ROWS.toLocaleString('en-GB')} rows; divide it.`);
		return rows;
	}
	if (head.readUInt32BE() === 0xd0cf11e0)
		throw unreadable('This is an old workbook (.xls); save it as .xlsx or .csv first.');
	const rows: Cell[][] = [];
	for await (const batch of csvRecords(createReadStream(path), await markOf(path)))
		for (const record of batch) {
			// Lines that were left empty count as the sheet counts them.
			while (rows.length < record.line - 1) rows.push([]);
			rows.push(record.cells);
			if (rows.length > MOST_ROWS) throw unreadable(`At most ${MOST_ROWS.toLocaleString('en-GB')} rows; divide it.`);
		}
	return rows;
}

export interface LookedAt {
	rows: string[][];
	/** A first guess at what it holds. */
	guess: SheetMapping;
	/** By which orders its dates are dates; where there are two, somebody has to say. */
	orders: DateOrder[];
}

/** The line that names the columns: the first with at least two texts of which one is understood. */
function headOf(rows: readonly (readonly Cell[])[]): number {
	const found = rows
		.slice(0, SHOWN_ROWS)
		.findIndex(
			(r) => r.filter((c) => textOf(c) !== '').length > 1 && r.some((c) => guessUse(textOf(c)).as === 'quantity'),
		);
	return Math.max(found, 0);
}

/** What a sheet holds, before anything is said or stored. */
export async function lookAtSheet(path: string): Promise<LookedAt> {
	const rows = await rowsOf(path);
	const head = headOf(rows);
	const columns = (rows[head] ?? [])
		.slice(0, MOST_COLUMNS)
		.map((c) => textOf(c).slice(0, LONGEST_NAME))
		.map((name) => ({ name, use: guessUse(name) }));
	if (columns.length === 0) throw unreadable('There is nothing in this file.');
	// A column called time beside one of dates tells the hour.
	const dated = columns.some((c) => c.use.as === 'date');
	for (const c of columns) if (!dated && c.use.as === 'clock') c.use = { as: 'time' };
	const place = columns.findIndex((c) => c.use.as === 'date' || c.use.as === 'time');
	const dates = rows
		.slice(head + 1)
		.map((r) => textOf(r[place] ?? null).split(/[T ]/)[0]!)
		.filter((d) => d !== '');
	const orders = possibleOrders(dates);
	return {
		rows: rows.slice(0, SHOWN_ROWS).map((r) => r.map(textOf)),
		guess: {
			linesBefore: head,
			columns,
			dateOrder: orders[0] ?? 'ymd',
			station: '',
			instrument: '',
			clock: '',
		},
		orders,
	};
}

/** A mapping by its name. @throws Refusal where there is none */
export async function requireMapping(db: Db, context: SiteContext, name: string): Promise<SheetMapping> {
	const found = (await listMappings(db, context.site.id)).find((m) => m.name === name);
	if (!found) throw new Refusal('no-such-mapping', [{ path: 'mapping', message: `Nothing is kept under “${name}”.` }]);
	return found.mapping;
}

/** Brings a sheet in by a mapping: as if its readings had come as the readings CSV. */
export async function importSheet(
	db: Db,
	context: SiteContext,
	path: string,
	mapping: SheetMapping,
	options: ImportOptions,
): Promise<ImportDone> {
	const sheet = mappedReadings(await rowsOf(path), mapping, context.site.timezone);
	const mapped = `${path}.readings.csv`;
	await writeFile(mapped, sheet.csv);
	const whole = sheet.problems.length === 0 || options.keepGood;
	const report = await importFile(db, context, mapped, { ...options, dryRun: options.dryRun || !whole });
	return { ...withRows(report, sheet), dryRun: options.dryRun };
}

/** What is wrong by the rows of the sheet, and not by the lines that were made of them. */
const withRows = (report: ImportDone, sheet: MappedSheet): ImportDone => ({
	...report,
	lines: report.lines + sheet.problems.length,
	bad: report.bad + sheet.problems.length,
	problems: [
		...sheet.problems.map(({ row, column, message }) => ({ line: row, column, message })),
		...report.problems.map((p) => ({ ...p, line: sheet.rows[p.line] ?? p.line })),
	].slice(0, 500),
});
