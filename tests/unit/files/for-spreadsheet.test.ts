import { parse } from 'csv-parse/sync';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { forSpreadsheet } from '@/files/for-spreadsheet';
import { csvLine } from '@/files/table';

/** OWASP, CSV injection: no cell may begin with = + - @, a tab or a carriage return. Read by an independent CSV parser. */
const made = (text: string, cut = text.length) => [...forSpreadsheet([text.slice(0, cut), text.slice(cut)])].join('');

describe('a CSV for a spreadsheet', () => {
	it('has no cell that is taken for a formula, whatever was typed and wherever a piece ends', () => {
		fc.assert(
			fc.property(
				fc.array(
					fc.array(fc.oneof(fc.string(), fc.constantFrom('=1+1', '+cmd', '@sum', '-2+3', '\tx', '"=a"', 'a,=b')), {
						minLength: 2,
						maxLength: 4,
					}),
					{ minLength: 1, maxLength: 5 },
				),
				fc.nat(200),
				(rows, cut) => {
					const text = rows.map((r) => csvLine(r)).join('');
					const cells = parse(made(text, cut), { relax_column_count: true, relax_quotes: true }).flat() as string[];
					for (const c of cells)
						expect([c, /^[=@\t\r]/.test(c) || /^[+-](?!\d*[.,]?\d+(e[+-]?\d+)?$)/i.test(c)]).toEqual([c, false]);
				},
			),
		);
	});
	it('leaves numbers and everything else as they are', () => {
		const text = 'time,value,note\n2026-03-01T07:30:00Z,-5.2,"a, b"\n2026-03-01T07:31:00Z,+3,x=y\n';
		expect(made(text)).toBe(text);
		expect(made('=HYPERLINK("x"),"=1"\n')).toBe('\'=HYPERLINK("x"),"\'=1"\n');
	});
});
