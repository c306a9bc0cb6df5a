/**
 * Makes a CSV harmless for programs that take a cell for a formula (OWASP, CSV injection): a cell that begins with = + - @, a tab or a
 * carriage return and is no plain number gets an apostrophe before it. Such a file is for looking at: it does not come in again as it was.
 */
const BEGINS = /^[=+\-@\t\r]/;
const NUMBER = /^[+-]?(?:\d+(?:[.,]\d+)?|[.,]\d+)(?:e[+-]?\d+)?$/i;

/**
 * @param pieces of a CSV with commas between cells; a cell may be cut in two by their ends
 * @example [...forSpreadsheet(['a,=1+1\n'])].join('') // "a,'=1+1\n"
 */
export function* forSpreadsheet(pieces: Iterable<string>): Generator<string> {
	const neutral = new Neutral();
	for (const piece of pieces) yield neutral.take(piece);
	yield neutral.rest();
}

/** The same for pieces that come by and by. */
export class Neutral {
	private cell = '';
	private quoted = false;
	take(piece: string): string {
		let out = '';
		for (const letter of piece) {
			if (letter === '"') this.quoted = !this.quoted;
			if (!this.quoted && (letter === ',' || letter === '\n')) {
				out += this.harmless() + letter;
				this.cell = '';
			} else this.cell += letter;
		}
		return out;
	}
	rest(): string {
		const last = this.harmless();
		this.cell = '';
		return last;
	}
	private harmless(): string {
		const { cell } = this;
		const inside = cell.startsWith('"') ? cell.slice(1) : cell;
		if (!BEGINS.test(inside) || NUMBER.test(cell)) return cell;
		return cell.startsWith('"') ? `"'${inside}` : `'${cell}`;
	}
}
