import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
import { type CsvRecord, csvRecords, NotText } from '@/files/csv-stream';

const dir = mkdtempSync(join(tmpdir(), 'cordwain-check-'));
afterAll(() => rmSync(dir, { recursive: true, force: true }));
async function* pieces(text: string, size = 7): AsyncGenerator<string> {
	for (let i = 0; i < text.length; i += size) yield text.slice(i, i + size);
}
async function records(text: string): Promise<CsvRecord[]> {
	const all: CsvRecord[] = [];
	for await (const r of csvRecords(pieces(text))) all.push(r);
	return all;
}

describe('CSV as people have it', () => {
	it('RFC 4180: quotes, doubled quotes, line ends inside quotes, CRLF', async () => {
		expect(await records('a,b\r\n"1,2","say ""x"""\r\n"two\nlines",3\r\n')).toEqual([
			{ line: 1, cells: ['a', 'b'], damage: null },
			{ line: 2, cells: ['1,2', 'say "x"'], damage: null },
			{ line: 3, cells: ['two\nlines', '3'], damage: null },
		]);
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
	it('refuses binary', async () => {
		await expect(records('a,b\n\u0000\u0001')).rejects.toThrow(NotText);
	});
});
