import { permits } from '@/core/trust/trust';
import { findingWords } from '@/words/en/finding';
import { isOpen, seriesOf } from '../core/judge/amend';
import type { JudgeContext } from '../core/judge/context';
import { Engine } from '../core/judge/engine';
import { displayStep } from '../core/probe/display-step';
import { type ProbeRecord, ProbesThen } from '../core/probe/known-then';
import { RepeatedHours } from '../core/quantity/time';
import type { Finding, Flag, Verdict, WaterEvent } from '../core/reading/model';
import type { CalibrationGroup } from './calibrations-row';
import { type CsvRecord, csvRecords } from './csv-stream';
import { DriftLookup } from './drift-lookup';
import { type ReadingRow, type RowContext, readingRow } from './readings-row';
import { csvCell, csvLine, type Header, READINGS, readHeader } from './table';

/**
 * The headless checker: readings in, one flag line out for each, in input order.
 *
 * Neighbouring lines of the same time and station are one sample and judged together. A flat line or a step is sure
 * only after some readings, so the last lines are held back and told together. Memory: the engine's state per station,
 * quantity and instrument, and those lines.
 */
export const FLAGS_HEADER = 'line,time,station,instrument,quantity,value,unit,flag,check,cause,suggested,message\n';
const MAX_SAMPLE = 32;

export class UnreadableFile extends Error {}

interface Waiting {
	record: CsvRecord;
	row: ReadingRow | null;
	problem: { flag: Flag; check: string; cause: string; message: string } | null;
}

/** A canonical value as the flags file writes it: enough digits to be the number, none that are noise. */
export const canonicalText = (value: number): string => String(Number(value.toPrecision(12)));

export function openTable(first: CsvRecord | undefined, format = READINGS): Header {
	if (!first) throw new UnreadableFile('line 1: the file is empty; a header line is needed');
	if (first.damage) throw new UnreadableFile(`line ${first.line}: the header ${first.damage}`);
	const header = readHeader(first.cells, format);
	if (!header.ok)
		throw new UnreadableFile(`line ${first.line}, column ${header.problem.column}: ${header.problem.message}`);
	return header.header;
}

/** The input's own part of an output line, and what is said of it. */
function lineHead({ line, cells }: CsvRecord, positions: readonly number[]): string {
	let head = String(line);
	for (const i of positions) head += `,${csvCell((cells[i] ?? '').trim())}`;
	return head;
}
const PASSED = ',1,,,,\n';
function lineTail(problem: Waiting['problem'], flag: Flag, d: Finding | null): string {
	if (!problem && !d) return flag === 1 ? PASSED : `,${flag},,,,\n`;
	return `,${csvLine([
		String(problem?.flag ?? flag),
		problem?.check ?? d?.check ?? '',
		problem?.cause ?? d?.cause ?? '',
		d?.suggested == null ? '' : canonicalText(d.suggested),
		problem?.message ?? findingWords(d?.said).message,
	])}`;
}

/** A reading that passes but whose probe was found off afterwards is suspect, with what it truly was. */
function withDrift(verdict: Verdict, row: ReadingRow, drifts: DriftLookup): Verdict {
	if (!permits({ flag: verdict.flag, cause: verdict.deciding?.cause }, 'restate')) return verdict;
	const finding = drifts.finding(row);
	return finding
		? { ...verdict, flag: finding.flag, deciding: finding, findings: [finding, ...verdict.findings] }
		: verdict;
}

/** Enough for a day of a five-minute sensor with three quantities. */
const HOLD = 1024;

/** The newest lines, kept back so that what becomes sure later can be said of them too: as text, to be light. */
class HeldLines {
	private readonly heads: string[] = new Array(HOLD);
	private readonly tails: string[] = new Array(HOLD);
	private readonly times = new Float64Array(HOLD);
	/** The series of a line, and what was said of it: it may still be explained. */
	private readonly series: string[] = new Array(HOLD);
	private readonly causes: string[] = new Array(HOLD);
	private next = 0;
	private count = 0;

	constructor(private readonly positions: readonly number[]) {}

	/** @returns the oldest line, once there are too many to hold; else nothing */
	push(w: Waiting, verdict: Verdict | null): string {
		const { row } = w;
		const d = verdict?.deciding ?? null;
		if (verdict?.since !== undefined && d && row) this.amend(seriesOf(row), verdict.since, verdict.flag, d);
		const at = this.next;
		const out = this.count === HOLD ? this.heads[at]! + this.tails[at]! : '';
		this.heads[at] = lineHead(w.record, this.positions);
		this.tails[at] = lineTail(w.problem, verdict?.flag ?? 2, d);
		this.times[at] = row ? row.at : Number.NaN;
		this.series[at] = row ? seriesOf(row) : '';
		this.causes[at] = d?.cause ?? '';
		this.next = (at + 1) % HOLD;
		if (this.count < HOLD) this.count++;
		return out;
	}

	private amend(series: string, since: number, flag: Flag, finding: Finding): void {
		const tail = lineTail(null, flag, finding);
		for (let k = 0; k < this.count; k++) {
			const i = (this.next - 1 - k + HOLD) % HOLD;
			const explained = this.series[i] === series && this.times[i]! >= since && isOpen(this.causes[i], finding);
			if (explained) this.tails[i] = tail;
		}
	}

	rest(): string {
		let text = '';
		for (let k = this.count; k > 0; k--) {
			const i = (this.next - k + HOLD) % HOLD;
			text += this.heads[i]! + this.tails[i]!;
		}
		return text;
	}
}

const COLUMNS = ['time', 'station', 'instrument', 'quantity', 'value', 'unit'] as const;

export interface CheckInput {
	readings: AsyncIterable<Uint8Array | string>;
	/** In order of time. */
	events: readonly WaterEvent[];
	/** Days between calibrations by instrument, where chosen; else as each probe has shown itself. */
	calibrateDays?: ((instrument: string) => number | undefined) | undefined;
	/** In order of time; readings between two of them are held against the drift they show. */
	calibrations?: readonly CalibrationGroup[] | undefined;
	site: JudgeContext;
	zone: string;
	/** Of the site, m. */
	altitudeM: number;
	now: () => number;
}

function recordsOf(
	calibrations: readonly CalibrationGroup[],
	days: CheckInput['calibrateDays'],
	site: JudgeContext,
): ProbeRecord[] {
	const records = new Map<string, ProbeRecord & { calibrations: CalibrationGroup[] }>();
	for (const c of calibrations) {
		const key = `${c.instrument}\u0000${c.quantity}`;
		const record = records.get(key);
		if (record) record.calibrations.push(c);
		else {
			const chosen = days?.(c.instrument);
			records.set(key, {
				instrument: c.instrument,
				quantity: c.quantity,
				calibrations: [c],
				jumps: [],
				interval: chosen === undefined ? { by: 'learned' } : { by: 'days', days: chosen },
				step: displayStep(site.instruments.get(c.instrument), c.quantity),
			});
		}
	}
	return [...records.values()];
}

/** Gives the flags file in pieces of many lines. */
export async function* checkStream(input: CheckInput): AsyncGenerator<string> {
	const records = csvRecords(input.readings);
	const header = openTable((await records.next()).value?.[0]);
	const context: RowContext = {
		zone: input.zone,
		altitudeM: input.altitudeM,
		ppmScale: (code) => input.site.instruments.get(code)?.ppmScale ?? null,
		hours: new RepeatedHours(),
	};
	const drifts = new DriftLookup(input.calibrations ?? []);
	const probes = new ProbesThen(recordsOf(input.calibrations ?? [], input.calibrateDays, input.site));
	const engine = new Engine({ ...input.site, zone: input.zone, probe: probes.stateAt }, input.now);
	const held = new HeldLines(COLUMNS.map((c) => header.at.get(c) ?? -1));
	let sample: Waiting[] = [];
	let nextEvent = 0;

	function judged(): string {
		if (sample.length === 0) return '';
		const rows: ReadingRow[] = [];
		for (const w of sample) if (w.row) rows.push(w.row);
		if (rows.length > 0)
			while (nextEvent < input.events.length && input.events[nextEvent]!.at <= rows[0]!.at)
				engine.note(input.events[nextEvent++]!);
		const verdicts = engine.take(rows);
		let i = 0;
		let out = '';
		for (const w of sample) out += held.push(w, w.row ? withDrift(verdicts[i++]!, w.row, drifts) : null);
		sample = [];
		return out;
	}

	yield FLAGS_HEADER;
	for await (const batch of records) {
		let out = '';
		for (const record of batch) {
			const w = understood(record, header, context);
			const head = sample[0]?.row;
			const joins =
				w.row && head && w.row.at === head.at && w.row.station === head.station && sample.length < MAX_SAMPLE;
			if (!joins) out += judged();
			sample.push(w);
			if (!w.row) out += judged();
		}
		yield out;
	}
	yield judged();
	yield held.rest();
}

function understood(record: CsvRecord, header: Header, context: RowContext): Waiting {
	if (record.damage) {
		const message = `This line ${record.damage}.`;
		return { record, row: null, problem: { flag: 9, check: 'line', cause: '', message } };
	}
	const result = readingRow(record.cells, header, context);
	if (result.ok) return { record, row: result.row, problem: null };
	const { column, message } = result.problem;
	return {
		record,
		row: null,
		problem: {
			flag: result.scaleUnknown ? 2 : 9,
			check: result.scaleUnknown ? 'ppm-scale' : 'line',
			cause: '',
			message: column === '' ? `This line ${message}.` : `Column ${column}: ${message}.`,
		},
	};
}
