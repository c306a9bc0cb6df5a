/**
 * Numbers in reports: `1,250` is a thousand and a quarter in one laboratory and one and a quarter in another. The rest of the report
 * tells which; where nothing does, it is asked.
 */
export type Mark = 'point' | 'comma' | null;

/** The decimal mark that a text uses, where one of its numbers leaves no doubt; null where none does, or both are used. */
export function markOf(text: string): Mark {
	const found = new Set<Mark>();
	for (const token of text.match(/\d[\d.,]*\d/g) ?? []) {
		const marks = token.match(/[.,]/g) ?? [];
		if (marks.length === 0) continue;
		const last = marks.at(-1) === '.' ? 'point' : 'comma';
		const clear =
			new Set(marks).size === 2 || (marks.length === 1 && (!/[.,]\d{3}$/.test(token) || /^0[.,]/.test(token)));
		if (clear) found.add(last);
	}
	return found.size === 1 ? [...found][0]! : null;
}

/**
 * @returns null where it is no number, 'ambiguous' where it could be two
 * @example readNumber('1,250', 'point') // 1250
 * @example readNumber('1,250', null) // 'ambiguous'
 * @example readNumber('0,78', null) // 0.78
 */
export function readNumber(text: string, mark: Mark): number | 'ambiguous' | null {
	const t = text.replace(/(?<=\d)[\s\u00a0\u202f'’](?=\d{3}(?!\d))/g, '');
	if (!/^\d[\d.,]*$/.test(t) || /[.,]$/.test(t)) return null;
	const marks = t.match(/[.,]/g) ?? [];
	const plain = (decimal: string | null) =>
		Number(
			decimal === null ? t.replace(/[.,]/g, '') : t.replaceAll(decimal === '.' ? ',' : '.', '').replace(decimal, '.'),
		);
	if (marks.length === 0) return Number(t);
	const grouped = /^\d{1,3}(?:[.,]\d{3})+$/.test(t) && !/^0/.test(t);
	if (new Set(marks).size === 2) {
		const decimal = marks.at(-1)!;
		return marks.filter((m) => m === decimal).length === 1 ? plain(decimal) : null;
	}
	if (marks.length > 1) return grouped ? plain(null) : null;
	if (!grouped) return plain(marks[0]!);
	const own: Mark = marks[0] === '.' ? 'point' : 'comma';
	// A point is a decimal mark unless commas are; a comma is either.
	if (mark !== null) return mark === own ? plain(marks[0]!) : plain(null);
	return own === 'point' ? plain('.') : 'ambiguous';
}
