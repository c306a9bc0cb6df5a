import '../../helpers/check-rows';
import { expect, it } from 'vitest';
import { z } from 'zod';
import type { Db } from '@/store/pool';
import { json, read, time } from '@/store/read';

const row = z.strictObject({ id: z.number(), at: time, said: json<object | null>() });
const db = (rows: unknown[]) => ({ query: async () => ({ rows }) }) as unknown as Db;

it('a row that is as declared goes through as it is, with a time before every time', async () => {
	const rows = [{ id: 1, at: Number.NEGATIVE_INFINITY, said: null }];
	expect(await read(db(rows), row, 'SELECT')).toBe(rows);
});
it.each([
	['of another type', { id: '1', at: 0, said: null }],
	['with a column too many', { id: 1, at: 0, said: null, extra: 1 }],
	['with one too few', { id: 1, at: 0 }],
	['with a time that is none', { id: 1, at: Number.NaN, said: null }],
])('a row %s is a mistake of ours, told with its query', async (_, wrong) => {
	await expect(read(db([wrong]), row, 'SELECT id FROM reading')).rejects.toThrow(
		/“SELECT id FROM reading” is not as declared/,
	);
});
