import { createReadStream } from 'node:fs';
import type { ImportDone } from '@/contract/files';
import { type CalibrationLine, calibrationLine, groupCalibrations, troubleOf } from '@/files/calibrations-row';
import type { CsvRecord } from '@/files/csv-stream';
import { csvRecords } from '@/files/csv-stream';
import { type EventRow, eventRow } from '@/files/events-row';
import { type ReadingRow, type RowContext, readingRow } from '@/files/readings-row';
import {
	CALIBRATIONS,
	EVENTS,
	formatOf,
	type Header,
	READINGS,
	type RowProblem,
	readHeader,
	type TableFormat,
} from '@/files/table';
import { listCalibrations } from '@/store/calibrations';
import { type EventRecord, eventsBetween } from '@/store/events';
import type { Client, Db } from '@/store/pool';
import { type Written, writtenBetween } from '@/store/written';
import { CALIBRATION_PROBLEM } from '@/words/en/calibration';
import { Refusal } from './refusal';
import type { SiteContext } from './site';
import { AHEAD, isFarAhead } from './time-ahead';

export interface ImportOptions {
	dryRun: boolean;
	/** Store the good lines of a file that also has bad ones. */
	keepGood: boolean;
	who: string;
	now: number;
	progress?: (linesDone: number, phase: 'reading' | 'storing' | 'judging') => void;
}

const CHUNK = 5000;
const LISTED_PROBLEMS = 500;

type Line = {
	line: number;
	reading?: ReadingRow;
	event?: EventRow;
	calibration?: CalibrationLine;
	problem?: RowProblem;
};

async function openImport(
	path: string,
): Promise<{ records: AsyncGenerator<CsvRecord>; header: Header; format: TableFormat }> {
	const records = csvRecords(createReadStream(path, { highWaterMark: 1 << 18 }));
	const first = await records.next();
	const refuse = (column: string, message: string) =>
		new Refusal('wrong-header', [{ path: `line 1${column ? `, column ${column}` : ''}`, message }]);
	if (first.done) throw refuse('', 'The file is empty. It needs a header line and at least one line of data.');
	const cells = first.value.cells;
	const format = formatOf(cells);
	if (!format) {
		const near = readHeader(cells, READINGS);
		throw refuse(
			near.ok ? '' : near.problem.column,
			`This header is none that Cordwain knows: ${near.ok ? '' : near.problem.message}. A readings file begins with ${[...READINGS.required].join(',')}; an events file with ${EVENTS.required.join(',')}; a calibrations file with ${CALIBRATIONS.required.join(',')}.`,
		);
	}
	const header = readHeader(cells, format);
	if (!header.ok) throw refuse(header.problem.column, header.problem.message);
	return { records, header: header.header, format };
}

function understandLine(
	record: CsvRecord,
	header: Header,
	format: TableFormat,
	context: RowContext,
	site: SiteContext,
): Line {
	if (record.damage) return { line: record.line, problem: { column: '', message: record.damage } };
	if (format === READINGS) {
		const r = readingRow(record.cells, header, context);
		return r.ok ? { line: record.line, reading: r.row } : { line: record.line, problem: r.problem };
	}
	if (format === CALIBRATIONS) {
		const c = calibrationLine(record.cells, header, context.zone, (code) => site.known.instruments.get(code));
		return c.ok ? { line: record.line, calibration: c.row } : { line: record.line, problem: c.problem };
	}
	const e = eventRow(record.cells, header, context.zone);
	return e.ok ? { line: record.line, event: e.row } : { line: record.line, problem: e.problem };
}

export async function* chunksOf(
	path: string,
	site: SiteContext,
): AsyncGenerator<{ format: TableFormat; lines: Line[] }> {
	const { records, header, format } = await openImport(path);
	const context: RowContext = {
		zone: site.site.timezone,
		ppmScale: (code) => site.known.instruments.get(code)?.ppmScale ?? null,
	};
	let lines: Line[] = [];
	for await (const record of records) {
		lines.push(understandLine(record, header, format, context, site));
		if (lines.length >= CHUNK) {
			yield { format, lines };
			lines = [];
		}
	}
	yield { format, lines };
}

export const readingKey = (r: Written) =>
	`${r.at}|${r.station}|${r.instrument}|${r.quantity}|${r.digits}|${r.unitText}`;
const calibrationKey = (c: Pick<CalibrationLine, 'at' | 'instrument' | 'quantity' | 'standard'>) =>
	`${c.at}|${c.instrument}|${c.quantity}|${c.standard}`;
export const lineKey = (l: Line): string =>
	l.reading ? readingKey(l.reading) : l.event ? eventKey(l.event) : l.calibration ? calibrationKey(l.calibration) : '';
/** What makes two events the same: part B after part A is another one. */
type EventWritten = Pick<EventRecord, 'at' | 'station' | 'kind' | 'amountText' | 'unitText' | 'product' | 'note'>;
export const eventKey = (e: EventWritten) =>
	[e.at, e.station, e.kind, e.amountText, e.unitText, e.product, e.note].join('\u0000');

function* timesOf(lines: readonly Line[]): Generator<number> {
	for (const l of lines)
		if (l.reading) yield l.reading.at;
		else if (l.event) yield l.event.at;
}

export async function alreadyThere(
	db: Client | Db,
	siteId: number,
	format: TableFormat,
	lines: readonly Line[],
): Promise<Set<string>> {
	let low = Number.POSITIVE_INFINITY;
	let high = Number.NEGATIVE_INFINITY;
	for (const at of timesOf(lines)) {
		if (at < low) low = at;
		if (at > high) high = at;
	}
	if (format === CALIBRATIONS) {
		const stored = await listCalibrations(db, siteId, {});
		return new Set(stored.flatMap((c) => c.points.map((p) => calibrationKey({ ...c, ...p }))));
	}
	if (low > high) return new Set();
	return format === READINGS
		? new Set((await writtenBetween(db, siteId, low, high)).map(readingKey))
		: new Set((await eventsBetween(db, siteId, low, high)).map(eventKey));
}

/** When the lines of a file are of, and whether they come in order of time. */
export interface Order {
	firstAt: number;
	lastAt: number;
	inOrder: boolean;
}

/** Lines of calibrations that cannot be kept, by what the calibration they belong to says as a whole. */
function* troubledLines(lines: readonly Line[]): Generator<[line: number, message: string]> {
	const rows = lines.flatMap((l) => (l.calibration && !l.problem ? [{ ...l.calibration, line: l.line }] : []));
	for (const group of groupCalibrations(rows)) {
		const trouble = troubleOf(group);
		if (trouble === null) continue;
		for (const r of rows)
			if (r.at === group.at && r.instrument === group.instrument && r.quantity === group.quantity)
				yield [r.line, CALIBRATION_PROBLEM[trouble]];
	}
}

/** First pass: what the file holds, what is wrong with it, what it would create. */
export async function survey(
	db: Db,
	site: SiteContext,
	path: string,
	options: ImportOptions,
): Promise<{ report: ImportDone; order: Order }> {
	const order: Order = { firstAt: Number.POSITIVE_INFINITY, lastAt: Number.NEGATIVE_INFINITY, inOrder: true };
	const report: ImportDone = {
		format: 'readings',
		dryRun: options.dryRun,
		lines: 0,
		good: 0,
		bad: 0,
		duplicates: 0,
		stored: 0,
		flagged: {},
		creates: { stations: [], instruments: [] },
		notes: [],
		problems: [],
		moreProblems: 0,
	};
	const calibrations: Line[] = [];
	const stations = new Set<string>();
	const instruments = new Set<string>();
	const local = { 'site-zone': 0, 'repeated-hour': 0, 'skipped-hour': 0 };
	for await (const { format, lines } of chunksOf(path, site)) {
		report.format = format.name;
		const there = await alreadyThere(db, site.site.id, format, lines);
		for (const l of lines) {
			report.lines++;
			const written = l.reading ?? l.event ?? l.calibration;
			if (written && isFarAhead(written.at, options.now)) l.problem = { column: 'time', message: AHEAD };
			if (l.problem) {
				report.bad++;
				if (report.problems.length < LISTED_PROBLEMS) report.problems.push({ line: l.line, ...l.problem });
				else report.moreProblems++;
				continue;
			}
			report.good++;
			const row = (l.reading ?? l.event ?? l.calibration)!;
			if (row.local) local[row.local]++;
			if ('station' in row && !site.known.stations.has(row.station)) stations.add(row.station);
			if ('instrument' in row && row.instrument !== '' && !site.known.instruments.has(row.instrument))
				instruments.add(row.instrument);
			if (there.size > 0 && there.has(lineKey(l))) {
				report.duplicates++;
				continue;
			}
			if (row.at < order.lastAt) order.inOrder = false;
			order.firstAt = Math.min(order.firstAt, row.at);
			order.lastAt = Math.max(order.lastAt, row.at);
		}
		if (format === CALIBRATIONS) calibrations.push(...lines);
		options.progress?.(report.lines, 'reading');
	}
	for (const [line, message] of troubledLines(calibrations)) {
		report.bad++;
		report.good--;
		report.problems.push({ line, column: 'as_found', message });
	}
	report.creates = { stations: [...stations].sort(), instruments: [...instruments].sort() };
	const note = (n: number, what: string) =>
		n > 0 && report.notes.push(`${n} ${n === 1 ? 'line has a' : 'lines have a'} ${what}`);
	note(
		local['site-zone'] + local['repeated-hour'] + local['skipped-hour'],
		`time without offset, taken in the site’s zone ${site.site.timezone}.`,
	);
	note(local['repeated-hour'], 'time in the hour that daylight saving repeats; the first of the two was taken.');
	note(local['skipped-hour'], 'time in the hour that daylight saving skips; it was moved forward.');
	return { report, order };
}
