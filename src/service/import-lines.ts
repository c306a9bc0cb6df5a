import { createReadStream } from 'node:fs';
import { instrumentThen } from '@/core/judge/context';
import { RepeatedHours } from '@/core/quantity/time';
import { drainsMoreThanGiven, type MeasuredRun } from '@/core/rootzone/watering';
import { type CalibrationLine, calibrationLine, groupCalibrations, troubleOf } from '@/files/calibrations-row';
import type { CsvRecord } from '@/files/csv-stream';
import { csvRecords } from '@/files/csv-stream';
import { type EventRow, eventRow } from '@/files/events-row';
import { type IrrigationLine, irrigationRow } from '@/files/irrigations-row';
import { type ReadingRow, type RowContext, readingRow } from '@/files/readings-row';
import {
	CALIBRATIONS,
	EVENTS,
	formatOf,
	type Header,
	IRRIGATIONS,
	READINGS,
	type RowProblem,
	readHeader,
	type TableFormat,
} from '@/files/table';
import { listCalibrations } from '@/store/calibrations';
import { type EventRecord, eventsAt } from '@/store/events';
import { listIrrigations } from '@/store/irrigations';
import type { Db } from '@/store/pool';
import { type Written, writtenAt } from '@/store/written';
import { CALIBRATION_PROBLEM } from '@/words/en/calibration';
import { moreDrainedWords } from '@/words/en/drain';
import { Refusal } from './refusal';
import { altitudeOf, type SiteContext } from './site';

/** Lines that are stored at once; one more sample may make them a few more. */
const CHUNK = 5000;

/** A line of a file, understood or not. */
export type Line = {
	line: number;
	reading?: ReadingRow;
	event?: EventRow;
	calibration?: CalibrationLine;
	irrigation?: IrrigationLine;
	problem?: RowProblem;
};

async function openTable(
	path: string,
): Promise<{ records: AsyncGenerator<CsvRecord[]>; header: Header; format: TableFormat }> {
	const records = csvRecords(createReadStream(path));
	const first = await records.next();
	const refuse = (column: string, message: string) =>
		new Refusal('wrong-header', [{ path: `line 1${column ? `, column ${column}` : ''}`, message }]);
	const cells = first.value?.[0]?.cells;
	if (!cells) throw refuse('', 'The file is empty. It needs a header line and at least one line of data.');
	const format = formatOf(cells);
	if (!format) {
		const near = readHeader(cells, READINGS);
		throw refuse(
			near.ok ? '' : near.problem.column,
			`This header is none that Cordwain knows: ${near.ok ? '' : near.problem.message}. A readings file begins with ${[...READINGS.required].join(',')}; an events file with ${EVENTS.required.join(',')}; a calibrations file with ${CALIBRATIONS.required.join(',')}; an irrigations file with ${IRRIGATIONS.required.join(',')}.`,
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
		const c = calibrationLine(record.cells, header, context.zone, (code, at) => instrumentThen(site.known, code, at));
		return c.ok ? { line: record.line, calibration: c.row } : { line: record.line, problem: c.problem };
	}
	if (format === IRRIGATIONS) {
		const i = irrigationRow(record.cells, header, context.zone);
		if (!i.ok) return { line: record.line, problem: i.problem };
		const problem = troubleOfRun(i.row, site);
		return problem ? { line: record.line, problem } : { line: record.line, irrigation: i.row };
	}
	const e = eventRow(record.cells, header, context.zone);
	return e.ok ? { line: record.line, event: e.row } : { line: record.line, problem: e.problem };
}

/** A run is one of a system that there is, and no more ran off of it than was given. */
function troubleOfRun(r: IrrigationLine, site: SiteContext): RowProblem | null {
	const system = site.systems.find((y) => y.code === r.system);
	if (!system) return { column: 'system', message: `there is no system “${r.system}”: make it in Setup first` };
	const more = drainsMoreThanGiven(r, system.watering ?? {});
	return more && { column: 'drained_l', message: moreDrainedWords(more) };
}

/** What was understood of a line, whatever it is of. */
export const rowOf = (l: Line) => l.reading ?? l.event ?? l.calibration ?? l.irrigation;

/** A file whose header has been read. */
export interface ImportFile {
	format: TableFormat;
	/** Its lines, some thousands at a time, with no sample cut in two. */
	chunks: AsyncGenerator<Line[]>;
}

/** @throws Refusal for a header that is none of ours */
export async function openImport(path: string, site: SiteContext): Promise<ImportFile> {
	const { records, header, format } = await openTable(path);
	const context: RowContext = {
		zone: site.site.timezone,
		altitudeM: altitudeOf(site.site),
		ppmScale: (code, at) => instrumentThen(site.known, code, at)?.ppmScale ?? null,
		hours: new RepeatedHours(),
	};
	async function* chunks(): AsyncGenerator<Line[]> {
		let lines: Line[] = [];
		for await (const batch of records)
			for (const record of batch) {
				const line = understandLine(record, header, format, context, site);
				if (lines.length >= CHUNK && !belongTogether(lines.at(-1)!, line)) {
					yield lines;
					lines = [];
				}
				lines.push(line);
			}
		if (lines.length > 0) yield lines;
	}
	return { format, chunks: chunks() };
}

const belongTogether = (a: Line, b: Line): boolean =>
	a.reading !== undefined && a.reading.at === b.reading?.at && a.reading.station === b.reading.station;

export const readingKey = (r: Written) =>
	`${r.at}|${r.station}|${r.instrument}|${r.quantity}|${r.digits}|${r.unitText}`;
const calibrationKey = (c: Pick<CalibrationLine, 'at' | 'instrument' | 'quantity' | 'standard'>) =>
	`${c.at}|${c.instrument}|${c.quantity}|${c.standard}`;
export function lineKey(l: Line): string {
	if (l.reading) return readingKey(l.reading);
	if (l.event) return eventKey(l.event);
	if (l.calibration) return calibrationKey(l.calibration);
	return l.irrigation ? irrigationKey(l.irrigation) : '';
}
/** The same numbers at the same time are the same run. */
const irrigationKey = (r: MeasuredRun & { at: number; system: string; firstDrainMin: number | null; note: string }) =>
	JSON.stringify([
		r.at,
		r.system,
		r.minutes,
		r.firstDrainMin,
		r.appliedL,
		r.appliedCups,
		r.drainedL,
		r.drainedCups,
		r.note,
	]);
/** What makes two events the same: part B after part A is another one. */
type EventWritten = Pick<EventRecord, 'at' | 'station' | 'kind' | 'amountText' | 'unitText' | 'product' | 'note'>;
export const eventKey = (e: EventWritten) =>
	[e.at, e.station, e.kind, e.amountText, e.unitText, e.product, e.note].join('\u0000');

/**
 * Which lines of a file are stored already, by their keys.
 * @param before rows that were stored from this number on are the file's own
 */
export async function alreadyThere(
	db: Db,
	siteId: number,
	format: TableFormat,
	lines: readonly Line[],
	before: number | null = null,
): Promise<Set<string>> {
	if (format === CALIBRATIONS) {
		const stored = await listCalibrations(db, siteId, {});
		return new Set(stored.flatMap((c) => c.points.map((p) => calibrationKey({ ...c, ...p }))));
	}
	if (format === IRRIGATIONS) {
		const at = lines.flatMap((l) => (l.irrigation ? [l.irrigation.at] : []));
		const span = { from: Math.min(...at), to: Math.max(...at) + 1 };
		const stored = at.length === 0 ? [] : await listIrrigations(db, siteId, span);
		return new Set(stored.filter((r) => before === null || r.id < before).map(irrigationKey));
	}
	const times = new Set<number>();
	for (const l of lines) if (l.reading ?? l.event) times.add((l.reading ?? l.event)!.at);
	if (times.size === 0) return new Set();
	return format === READINGS
		? new Set((await writtenAt(db, siteId, [...times], before)).map(readingKey))
		: new Set((await eventsAt(db, siteId, [...times], before)).map(eventKey));
}

/** Lines of calibrations that cannot be kept, by what the calibration they belong to says as a whole. */
export function* troubledLines(lines: readonly Line[]): Generator<[line: number, message: string]> {
	const rows = lines.flatMap((l) => (l.calibration && !l.problem ? [{ ...l.calibration, line: l.line }] : []));
	for (const group of groupCalibrations(rows)) {
		const trouble = troubleOf(group);
		if (trouble === null) continue;
		for (const r of rows)
			if (r.at === group.at && r.instrument === group.instrument && r.quantity === group.quantity)
				yield [r.line, CALIBRATION_PROBLEM[trouble]];
	}
}
