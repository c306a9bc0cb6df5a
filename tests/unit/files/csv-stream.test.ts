import { parse } from 'csv-parse/sync';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { csvRecords, NotText } from '@/files/csv-stream';
import { pieces, records } from '../../helpers/csv-text';

describe('CSV as people have it', () => {
	it('RFC 4180: quotes, doubled quotes, line ends inside quotes, CRLF', async () => {
		expect(await records('a,b\r\n"1,2","say ""x"""\r\n"two\nlines",3\r\n')).toEqual([
			{ line: 1, cells: ['a', 'b'], damage: null },
			{ line: 2, cells: ['1,2', 'say "x"'], damage: null },
			{ line: 3, cells: ['two\nlines', '3'], damage: null },
		]);
	});
	it('whatever is written after RFC 4180 is read as csv-parse reads it, however it comes in pieces', async () => {
		const cell = fc.string({ unit: fc.constantFrom('a', 'ü', '7', ' ', ',', ';', '"', '\n', '.'), maxLength: 6 });
		await fc.assert(
			fc.asyncProperty(
				fc.array(fc.array(cell, { minLength: 2, maxLength: 4 }), { minLength: 1, maxLength: 6 }),
				fc.integer({ min: 1, max: 9 }),
				async (rows, size) => {
					const text = rows.map((r) => r.map((c) => `"${c.replaceAll('"', '""')}"`).join(',')).join('\n');
					const read: string[][] = [];
					for await (const batch of csvRecords(pieces(`h,h\n${text}\n`, size))) read.push(...batch.map((r) => r.cells));
					expect(read.slice(1)).toEqual(parse(text, { relax_column_count: true }));
				},
			),
		);
	});
	it('quotes that people put inside a cell are characters like others', async () => {
		expect((await records('a,b\n5" pipe,"hard" water\n')).at(-1)!.cells).toEqual(['5" pipe', '"hard" water']);
	});
	it('byte order mark, semicolons, blank lines', async () => {
		expect((await records('\uFEFFa;b\n\n1,5;2\n')).map((r) => [r.line, r.cells])).toEqual([
			[1, ['a', 'b']],
			[3, ['1,5', '2']],
		]);
	});
	it('a quote that never closes costs its own line and not the rest', async () => {
		const all = await records(`a,b\n1,"2\n${'3,4\n'.repeat(200)}`);
		expect(all[1]!.damage).toMatch(/never closed/);
		expect(all.filter((r) => r.damage === null)).toHaveLength(201);
		expect(all.at(-1)).toMatchObject({ line: 202, cells: ['3', '4'] });
	});
	it('odd quotes without end: other work has its turn after every thousand records, and each line is answered for', async () => {
		let turns = 0;
		let open = true;
		const turn = () => {
			turns++;
			if (open) setImmediate(turn);
		};
		setImmediate(turn);
		let lines = 0;
		let most = 0;
		async function* oneChunk() {
			yield `a,b\n${'"odd,1\n2,"odd\n"a"b,""\n'.repeat(20_000)}`;
		}
		for await (const batch of csvRecords(oneChunk())) {
			lines += batch.length;
			most = Math.max(most, batch.length);
		}
		open = false;
		expect(most).toBeLessThanOrEqual(1100);
		expect(turns).toBeGreaterThanOrEqual(Math.floor(lines / 1100));
		expect(lines).toBeGreaterThan(40_000);
	});
	it('refuses binary', async () => {
		await expect(records('a,b\n\u0000\u0001')).rejects.toThrow(NotText);
	});
});
