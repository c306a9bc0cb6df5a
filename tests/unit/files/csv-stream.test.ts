import { describe, expect, it } from 'vitest';
import { NotText } from '@/files/csv-stream';
import { records } from '../../helpers/csv-text';

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
