import { setImmediate } from 'node:timers/promises';

/**
 * Reads a CSV as records with their true line numbers, whatever mark separates them.
 *
 * Comma, semicolon or tab is told from the header line. Lines are cut first, and cells in them after
 * RFC 4180: a damaged line then costs itself and not the rest of the file, as an unclosed quote otherwise would.
 */

/** A quoted cell may run over this many lines before its opening quote is taken for damage. */
const MAX_LINES_IN_RECORD = 50;
const MAX_LINE = 100_000;
const BATCH = 1000;
const QUOTE = 34;
const BLANK = 32;

export interface CsvRecord {
	/** Line on which the record begins; the header is line 1. */
	line: number;
	cells: string[];
	/** Set when the record could not be read; cells are then empty. */
	damage: string | null;
}

/** The source is not text at all; nothing of it can be used. */
export class NotText extends Error {}

export function delimiterOf(headerLine: string): ',' | ';' | '\t' {
	const count = (mark: string) => headerLine.split(mark).length - 1;
	const marks = [',', ';', '\t'] as const;
	return marks.reduce((best, mark) => (count(mark) > count(best) ? mark : best), ',');
}

/** Cuts a source into batches of whole lines, without their ends. */
async function* lineBatches(source: AsyncIterable<Uint8Array | string>): AsyncGenerator<string[]> {
	const decoder = new TextDecoder('utf-8');
	let rest = '';
	let first = true;
	for await (const chunk of source) {
		let text = typeof chunk === 'string' ? chunk : decoder.decode(chunk, { stream: true });
		if (first && text.startsWith('\uFEFF')) text = text.slice(1);
		if (text !== '') first = false;
		if (text.includes('\u0000')) throw new NotText('the file holds bytes that are no text; export it as CSV (UTF-8)');
		rest += text;
		if (rest.length > MAX_LINE && !rest.includes('\n') && !rest.includes('\r'))
			throw new NotText(`a line is longer than ${MAX_LINE} characters; this is no table`);
		const lines = rest.includes('\r') ? rest.split(/\r\n|\n|\r(?!$)/) : rest.split('\n');
		rest = lines.pop()!;
		if (lines.length > 0) yield lines;
	}
	rest += decoder.decode();
	if (rest !== '') yield rest.split(/\r\n|\n|\r/);
}

/** Text after the quote that closes a cell makes the quotes part of the text, as people write `"hard" water`. */
class Quoted {
	readonly cells: string[] = [];
	/** The cell so far, while its quote is open. */
	private open: string | null = null;

	constructor(private readonly delimiter: string) {}

	/** Takes a line; false while a quote is open at its end. */
	take(text: string): boolean {
		let at = 0;
		if (this.open !== null) {
			this.open += '\n';
			at = this.quotedFrom(text, 0);
		}
		while (at >= 0 && at <= text.length)
			at = text.charCodeAt(at) === QUOTE ? this.opening(text, at + 1) : this.plain(text, at);
		return this.open === null;
	}

	private plain(text: string, from: number): number {
		const end = text.indexOf(this.delimiter, from);
		this.cells.push(end < 0 ? text.slice(from) : text.slice(from, end));
		return end < 0 ? text.length + 1 : end + 1;
	}

	private opening(text: string, from: number): number {
		this.open = '';
		return this.quotedFrom(text, from);
	}

	/** Goes on inside a quoted cell; where the next cell begins, past the end after the last, -1 while the quote is open. */
	private quotedFrom(text: string, from: number): number {
		for (let at = from; ; ) {
			const quote = text.indexOf('"', at);
			if (quote < 0) {
				this.open += text.slice(at);
				return -1;
			}
			this.open += text.slice(at, quote);
			at = quote + 1;
			if (text.charCodeAt(at) === QUOTE) {
				this.open += '"';
				at++;
				continue;
			}
			const end = text.indexOf(this.delimiter, at);
			const after = text.slice(at, end < 0 ? undefined : end);
			this.cells.push(after.trim() === '' ? this.open! : `"${this.open}"${after}`);
			this.open = null;
			return end < 0 ? text.length + 1 : end + 1;
		}
	}
}

/**
 * The records of a source in batches of at most a thousand, the header in a batch of its own. Between two batches other work of
 * the process has its turn, whatever the lines are like.
 */
export async function* csvRecords(source: AsyncIterable<Uint8Array | string>, mark = ''): AsyncGenerator<CsvRecord[]> {
	let delimiter = mark;
	let number = 0;
	let headed = false;
	/** A record whose quote is still open, and its lines. */
	let open: Quoted | null = null;
	let lines: string[] = [];
	let batch: CsvRecord[] = [];

	const add = (line: number, cells: string[]) => batch.push({ line, cells, damage: null });
	const damaged = (line: number) => batch.push({ line, cells: [], damage: 'has a quote that is never closed' });
	function alone(text: string, line: number): void {
		if (!text.includes('"')) {
			if (text.charCodeAt(0) > BLANK || text.trim() !== '') add(line, text.split(delimiter));
			return;
		}
		const record = new Quoted(delimiter);
		if (record.take(text)) add(line, record.cells);
		else damaged(line);
	}
	/** Gives up on an open quote: its first line is damaged, the others are read for themselves. */
	function giveUp(): void {
		for (const [i, text] of lines.entries())
			if (i === 0) damaged(number - lines.length + 1);
			else alone(text, number - lines.length + 1 + i);
		open = null;
		lines = [];
	}
	function take(text: string): void {
		number++;
		if (open !== null) {
			lines.push(text);
			if (open.take(text)) {
				add(number - lines.length + 1, open.cells);
				open = null;
				lines = [];
			} else if (lines.length >= MAX_LINES_IN_RECORD) giveUp();
		} else if (text.includes('"')) {
			const record = new Quoted(delimiter);
			if (record.take(text)) add(number, record.cells);
			else {
				open = record;
				lines = [text];
			}
		} else alone(text, number);
	}

	for await (const some of lineBatches(source))
		for (const text of some) {
			if (delimiter === '') delimiter = delimiterOf(text);
			take(text);
			if (batch.length < (headed ? BATCH : 1)) continue;
			yield batch;
			headed = true;
			batch = [];
			await setImmediate();
		}
	giveUp();
	if (batch.length > 0) yield batch;
}
