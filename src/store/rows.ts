import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { from as copyFrom } from 'pg-copy-streams';
import { asOwner, type Client, type Db, guardedSite, transaction } from './pool';

/** Many rows at once into a table. Names of tables and columns are ours, never from outside. */

/** So many are stored by one statement; more come faster by COPY. */
export const FEW = 200;

const escapes: Record<string, string> = { '\\': '\\\\', '\n': '\\n', '\r': '\\r', '\t': '\\t' };
const NEEDS_ESCAPE = /[\\\n\r\t]/;
function copyText(v: unknown): string {
	if (v === null || v === undefined) return '\\N';
	if (typeof v === 'number' || typeof v === 'boolean') return String(v);
	const text = typeof v === 'string' ? v : JSON.stringify(v);
	return NEEDS_ESCAPE.test(text) ? text.replace(/[\\\n\r\t]/g, (c) => escapes[c]!) : text;
}

function* asText(rows: Iterable<readonly unknown[]>, siteId: number | undefined): Generator<string> {
	let batch = '';
	for (const cells of rows) {
		if (siteId !== undefined && cells[0] !== siteId) throw new OtherSite();
		let line = '';
		for (let i = 0; i < cells.length; i++) line += i === 0 ? copyText(cells[i]) : `\t${copyText(cells[i])}`;
		batch += `${line}\n`;
		if (batch.length > 1 << 16) {
			yield batch;
			batch = '';
		}
	}
	if (batch !== '') yield batch;
}

/** Policies of rows do not look at COPY: a row of another site than its connection works for is refused here. */
export class OtherSite extends Error {}

/** Any number of rows, by COPY; their first column is the site. Inside a transaction: it is refused as a whole. */
export const copyRows = (
	client: Client,
	table: string,
	columns: string,
	rows: Iterable<readonly unknown[]>,
): Promise<void> =>
	asOwner(client, () =>
		pipeline(
			Readable.from(asText(rows, guardedSite(client)), { objectMode: false }),
			client.query(copyFrom(`COPY ${table} (${columns}) FROM STDIN`)),
		),
	);

/** Rows as one statement takes them: by the names of their columns. */
export function asRecords(columns: string, rows: readonly (readonly unknown[])[]): string {
	const names = columns.split(', ');
	return JSON.stringify(rows.map((cells) => Object.fromEntries(names.map((c, i) => [c, cells[i]]))));
}

/** Rows, whether few or many. */
export async function putRows(
	db: Db,
	table: string,
	columns: string,
	rows: readonly (readonly unknown[])[],
): Promise<void> {
	if (rows.length > FEW) await transaction(db, (client) => copyRows(client, table, columns, rows));
	else if (rows.length > 0)
		await db.query(
			`INSERT INTO ${table} (${columns}) SELECT ${columns} FROM jsonb_populate_recordset(NULL::${table}, $1)`,
			[asRecords(columns, rows)],
		);
}
