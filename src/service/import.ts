import { createReadStream } from 'node:fs';
import type { Verdict } from '@/core/reading/model';
import { type CalibrationLine, calibrationLine, groupCalibrations } from '@/files/calibrations-row';
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
import { insertCalibration, listCalibrations } from '@/store/calibrations';
import { eventKeys, insertEvents, type NewEvent } from '@/store/events';
import { isLate, lockJudging } from '@/store/judging';
import { PLAIN_INSTRUMENT, PLAIN_STATION, putInstrument, putStation } from '@/store/line';
import { type Client, type Pool, transaction } from '@/store/pool';
import { existingKeys, refreshStatistics } from '@/store/readings';
import { insertAudit } from '@/store/site';
import { Judging, judgeAgain } from './judging';
import { Refusal } from './refusal';
import { recomputeAll } from './restate';
import { requireSite, type SiteContext } from './site';
import { judgeAllFrom, storeInOrder, storeUnjudged } from './store-bulk';

/**
 * Takes a CSV in: once through to judge every line, and only then, if asked, once more to store it in one
 * transaction. Nothing of a file is kept when any part of storing it fails.
 */
export interface ImportReport {
	format: TableFormat['name'];
	dry_run: boolean;
	lines: number;
	good: number;
	bad: number;
	/** Already there to the letter; importing them again changes nothing. */
	duplicates: number;
	stored: number;
	/** Stored readings by flag. */
	flagged: Record<string, number>;
	creates: { stations: string[]; instruments: string[] };
	notes: string[];
	problems: { line: number; column: string; message: string }[];
	/** Problems beyond the ones listed. */
	more_problems: number;
}

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
		new Refusal(422, 'wrong-header', [{ path: `line 1${column ? `, column ${column}` : ''}`, message }]);
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

async function* chunksOf(path: string, site: SiteContext): AsyncGenerator<{ format: TableFormat; lines: Line[] }> {
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

const readingKey = (r: ReadingRow) => `${r.at}|${r.station}|${r.instrument}|${r.quantity}|${r.digits}|${r.unitText}`;
const calibrationKey = (c: Pick<CalibrationLine, 'at' | 'instrument' | 'quantity' | 'standard'>) =>
	`${c.at}|${c.instrument}|${c.quantity}|${c.standard}`;
const lineKey = (l: Line): string =>
	l.reading ? readingKey(l.reading) : l.event ? eventKey(l.event) : l.calibration ? calibrationKey(l.calibration) : '';
const eventKey = (e: EventRow) => `${e.at}|${e.station}|${e.kind}|${e.amountText}|${e.product}`;

function* timesOf(lines: readonly Line[]): Generator<number> {
	for (const l of lines)
		if (l.reading) yield l.reading.at;
		else if (l.event) yield l.event.at;
}

async function alreadyThere(
	db: Client | Pool,
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
	return format === READINGS ? existingKeys(db, siteId, low, high) : eventKeys(db, siteId, low, high);
}

/** When the lines of a file are of, and whether they come in order of time. */
interface Order {
	firstAt: number;
	lastAt: number;
	inOrder: boolean;
}

/** First pass: what the file holds, what is wrong with it, what it would create. */
async function survey(
	pool: Pool,
	site: SiteContext,
	path: string,
	options: ImportOptions,
): Promise<{ report: ImportReport; order: Order }> {
	const order: Order = { firstAt: Number.POSITIVE_INFINITY, lastAt: Number.NEGATIVE_INFINITY, inOrder: true };
	const report: ImportReport = {
		format: 'readings',
		dry_run: options.dryRun,
		lines: 0,
		good: 0,
		bad: 0,
		duplicates: 0,
		stored: 0,
		flagged: {},
		creates: { stations: [], instruments: [] },
		notes: [],
		problems: [],
		more_problems: 0,
	};
	const stations = new Set<string>();
	const instruments = new Set<string>();
	const local = { 'site-zone': 0, 'repeated-hour': 0, 'skipped-hour': 0 };
	for await (const { format, lines } of chunksOf(path, site)) {
		report.format = format.name;
		const there = await alreadyThere(pool, site.site.id, format, lines);
		for (const l of lines) {
			report.lines++;
			if (l.problem) {
				report.bad++;
				if (report.problems.length < LISTED_PROBLEMS) report.problems.push({ line: l.line, ...l.problem });
				else report.more_problems++;
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
		options.progress?.(report.lines, 'reading');
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

/** Stations and instruments a file names and the site does not have, made with plain defaults to be completed later. */
async function createMissing(client: Client, site: SiteContext, creates: ImportReport['creates']): Promise<void> {
	let position = Math.max(0, ...site.stations.map((s) => s.position));
	for (const code of creates.stations)
		await putStation(client, site.site.id, {
			code,
			name: code,
			kind: 'reservoir',
			...PLAIN_STATION,
			position: ++position,
		});
	for (const code of creates.instruments)
		await putInstrument(client, site.site.id, {
			code,
			name: code,
			kind: 'combined',
			quantities: {},
			...PLAIN_INSTRUMENT,
		});
}

/**
 * Rows in order of time and newer than everything stored are judged on their way in; others are stored first, and everything
 * from the oldest of them on is judged again.
 */
async function storeReadings(
	client: Client,
	site: SiteContext,
	path: string,
	options: ImportOptions,
	report: ImportReport,
	order: Order,
): Promise<void> {
	const by = { source: 'import', who: options.who };
	await lockJudging(client, site.site.id);
	const straight = order.inOrder && !(await isLate(client, site.site.id, order.firstAt));
	const judging = straight ? await Judging.asOf(client, site, order.firstAt, options.now) : null;
	const waiting = new Set<number>();
	let done = 0;
	for await (const { lines } of chunksOf(path, site)) {
		const there = await alreadyThere(client, site.site.id, READINGS, lines);
		const rows = lines.flatMap((l) => (l.reading && !there.has(readingKey(l.reading)) ? [l.reading] : []));
		report.duplicates += lines.filter((l) => l.reading).length - rows.length;
		report.stored += rows.length;
		if (judging) count(report, await storeInOrder(client, site, judging, rows, by));
		else for (const id of await storeUnjudged(client, site, rows, by)) waiting.add(id);
		done += lines.length;
		options.progress?.(done, 'storing');
	}
	if (waiting.size === 0) return;
	await refreshStatistics(client);
	let judged = 0;
	await judgeAllFrom(client, site, order.firstAt, options.now, (verdicts) => {
		count(
			report,
			[...verdicts].flatMap(([id, v]) => (waiting.has(id) ? [v] : [])),
		);
		judged += verdicts.size;
		options.progress?.(judged, 'judging');
	});
}

function count(report: ImportReport, verdicts: readonly Verdict[]): void {
	for (const v of verdicts) report.flagged[v.flag] = (report.flagged[v.flag] ?? 0) + 1;
}

async function storeEvents(
	client: Client,
	site: SiteContext,
	path: string,
	options: ImportOptions,
	report: ImportReport,
): Promise<void> {
	const stationIds = new Map(site.stations.map((s) => [s.code, s.id]));
	let done = 0;
	for await (const { lines } of chunksOf(path, site)) {
		const there = await alreadyThere(client, site.site.id, EVENTS, lines);
		const rows = lines.flatMap((l) => (l.event && !there.has(eventKey(l.event)) ? [l.event] : []));
		report.duplicates += lines.filter((l) => l.event).length - rows.length;
		await insertEvents(
			client,
			site.site.id,
			rows.map(
				(e): NewEvent => ({
					at: e.at,
					stationId: stationIds.get(e.station)!,
					kind: e.kind,
					amount: e.amount,
					amountText: e.amountText,
					unitText: e.unitText,
					product: e.product,
					note: e.note,
					extra: e.extra,
					source: 'import',
					enteredBy: options.who,
				}),
			),
		);
		report.stored += rows.length;
		done += lines.length;
		options.progress?.(done, 'storing');
	}
}

async function storeCalibrations(
	client: Client,
	site: SiteContext,
	path: string,
	options: ImportOptions,
	report: ImportReport,
): Promise<void> {
	const instrumentIds = new Map(site.instruments.map((i) => [i.code, i.id]));
	const fresh: CalibrationLine[] = [];
	for await (const { lines } of chunksOf(path, site)) {
		const there = await alreadyThere(client, site.site.id, CALIBRATIONS, lines);
		for (const l of lines)
			if (l.calibration && there.has(lineKey(l))) report.duplicates++;
			else if (l.calibration) fresh.push(l.calibration);
	}
	for (const group of groupCalibrations(fresh))
		await insertCalibration(client, site.site.id, {
			...group,
			instrumentId: instrumentIds.get(group.instrument)!,
			doubts: [],
			source: 'import',
			enteredBy: options.who,
		});
	report.stored = fresh.length;
}

/** Judges a file and, unless it is a dry run, stores it. A file with bad lines is stored only with `keepGood`. */
export async function importFile(
	pool: Pool,
	site: SiteContext,
	path: string,
	options: ImportOptions,
): Promise<ImportReport> {
	const { report, order } = await survey(pool, site, path, options);
	if (options.dryRun || report.good === 0) return report;
	if (report.bad > 0 && !options.keepGood) return report;
	report.duplicates = 0;
	await transaction(pool, async (client) => {
		await createMissing(client, site, report.creates);
		const complete = await requireSite(client);
		if (report.format === 'readings') {
			await storeReadings(client, complete, path, options, report, order);
			await recomputeAll(client, complete);
			// What was derived is part of it: without its size the next entry would go through all of it.
			if (report.stored > 1000) await refreshStatistics(client);
		} else {
			if (report.format === 'events') await storeEvents(client, complete, path, options, report);
			else {
				await storeCalibrations(client, complete, path, options, report);
				await recomputeAll(client, complete);
			}
			if (report.stored > 0) await judgeAgain(client, complete, order.firstAt, options.now);
		}
		await insertAudit(client, site.site.id, options.who, 'import', report.format, {
			lines: report.lines,
			stored: report.stored,
			bad: report.bad,
		});
	});
	return report;
}
