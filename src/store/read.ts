import { z } from 'zod';
import type { Client, Db } from './pool';

/**
 * Rows as queries bring them. What a row holds is declared once, by a schema, and its type comes from that. Where rows are checked, as
 * in every test, each is held against its schema; where growers work this costs nothing.
 */
let checked = false;
/** From now on every row is held against its schema. */
export const checkRows = (): void => {
	checked = true;
};
/** Of a long answer the first rows stand for the others. */
const CHECKED_ROWS = 200;

type Query = string | { text: string; values?: unknown[] };

/** @throws where rows are checked and one is not what was declared: a mistake of ours */
export async function read<S extends z.ZodType>(
	db: Db | Client,
	row: S,
	query: Query,
	values?: unknown[],
): Promise<z.output<S>[]> {
	const { rows } = await (db as Db).query(query as string, values);
	if (checked)
		for (const one of rows.slice(0, CHECKED_ROWS)) {
			const { success, error } = row.safeParse(one);
			if (!success) {
				const text = typeof query === 'string' ? query : query.text;
				throw new Error(`A row of “${text.trim().slice(0, 80)}” is not as declared: ${z.prettifyError(error)}`);
			}
		}
	return rows as z.output<S>[];
}

/** Milliseconds; the beginning and the end of time are infinite. */
export const time = z.custom<number>((v) => typeof v === 'number' && !Number.isNaN(v), 'is no time');
/** What the code that reads it has written as JSON. */
export const json = <T>() => z.custom<T>((v) => v !== undefined, 'is missing');
export const idRow = z.strictObject({ id: z.number() });

/** A time for the database; before or after every time where it is not finite. */
export const timeOrEnd = (at: number): string =>
	Number.isFinite(at) ? new Date(at).toISOString() : at > 0 ? 'infinity' : '-infinity';
