import { parse } from 'csv-parse/sync';

/**
 * Reads a CSV as records with their true line numbers, whatever mark separates them.
 *
 * Comma, semicolon or tab is told from the header line. Lines are cut here and only those with quotes go through the
 * CSV library: a damaged line then costs itself and not the rest of the file, as an unclosed quote otherwise would.
 */

/** A quoted cell may run over this many lines before its opening quote is taken for damage. */
const MAX_LINES_IN_RECORD = 50;
const MAX_LINE = 100_000;

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
		const lines = rest.split(/\r\n|\n|\r(?!$)/);
		rest = lines.pop()!;
		if (lines.length > 0) yield lines;
	}
	rest += decoder.decode();
	if (rest !== '') yield rest.split(/\r\n|\n|\r/);
}

function quoted(text: string, delimiter: string): string[] | null {
	try {
		const rows = parse(text, { delimiter, relax_column_count: true, relax_quotes: true }) as string[][];
		return rows.length === 1 ? rows[0]! : null;
	} catch {
		return null;
	}
}

const opensQuote = (text: string): boolean => (text.split('"').length - 1) % 2 === 1;

export async function* csvRecords(source: AsyncIterable<Uint8Array | string>): AsyncGenerator<CsvRecord> {
	let delimiter = '';
	let number = 0;
	/** Lines of a record whose quote is still open. */
	let open: string[] = [];

	function* plainOrQuoted(text: string, line: number): Generator<CsvRecord> {
		if (text.trim() === '') return;
		if (!text.includes('"')) {
			yield { line, cells: text.split(delimiter), damage: null };
			return;
		}
		const cells = quoted(text, delimiter);
		yield cells ? { line, cells, damage: null } : { line, cells: [], damage: 'has a quote that is never closed' };
	}
	/** Gives up on an open quote: its first line is damaged, the others are read for themselves. */
	function* giveUp(): Generator<CsvRecord> {
		const lines = open;
		open = [];
		const from = number - lines.length + 1;
		for (const [i, text] of lines.entries()) {
			if (opensQuote(text)) yield { line: from + i, cells: [], damage: 'has a quote that is never closed' };
			else yield* plainOrQuoted(text, from + i);
		}
	}

	for await (const lines of lineBatches(source)) {
		for (const text of lines) {
			if (delimiter === '') delimiter = delimiterOf(text);
			number++;
			if (open.length > 0) {
				open.push(text);
				if (opensQuote(text)) {
					const whole = quoted(open.join('\n'), delimiter);
					if (whole) {
						const line = number - open.length + 1;
						open = [];
						yield { line, cells: whole, damage: null };
					} else yield* giveUp();
				} else if (open.length >= MAX_LINES_IN_RECORD) yield* giveUp();
			} else if (opensQuote(text)) open.push(text);
			else yield* plainOrQuoted(text, number);
		}
	}
	yield* giveUp();
}
