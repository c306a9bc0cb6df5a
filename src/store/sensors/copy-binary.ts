import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { from as copyFrom } from 'pg-copy-streams';
import { asOwner, type Client, guardedSite } from '../pool';
import { OtherSite } from '../rows';

/**
 * Rows of numbers as PostgreSQL takes them without reading any text: COPY in its binary format (PostgreSQL documentation, COPY, binary
 * format): a signature, then for each row the number of fields and each field with its length, all big-endian.
 */
const SIGNATURE = Buffer.from([0x50, 0x47, 0x43, 0x4f, 0x50, 0x59, 0x0a, 0xff, 0x0d, 0x0a, 0, 0, 0, 0, 0, 0, 0, 0, 0]);
/** The epoch of its times: 1 January 2000, ms. */
const EPOCH_MS = 946_684_800_000;
const KINDS = { int2: 2, int4: 4, float8: 8, timestamptz: 8 } as const;
export type Column = readonly [name: string, kind: keyof typeof KINDS];
const CHUNK_ROWS = 4096;

/**
 * The first column is the site.
 * @param valueAt the value of a row in a column, by their numbers; times in ms
 */
export function copyNumbers(
	client: Client,
	table: string,
	columns: readonly Column[],
	rows: number,
	valueAt: (row: number, column: number) => number,
): Promise<void> {
	const width = 2 + columns.reduce((sum, [, kind]) => sum + 4 + KINDS[kind], 0);
	const siteId = guardedSite(client);
	function* chunks(): Generator<Buffer> {
		yield SIGNATURE;
		for (let begin = 0; begin < rows; begin += CHUNK_ROWS) {
			const count = Math.min(CHUNK_ROWS, rows - begin);
			const bytes = Buffer.allocUnsafe(count * width);
			let p = 0;
			for (let row = begin; row < begin + count; row++) {
				if (siteId !== undefined && valueAt(row, 0) !== siteId) throw new OtherSite();
				p = bytes.writeInt16BE(columns.length, p);
				for (let c = 0; c < columns.length; c++) {
					const v = valueAt(row, c);
					const kind = columns[c]![1];
					p = bytes.writeInt32BE(KINDS[kind], p);
					if (kind === 'int2') p = bytes.writeInt16BE(v, p);
					else if (kind === 'int4') p = bytes.writeInt32BE(v, p);
					else if (kind === 'float8') p = bytes.writeDoubleBE(v, p);
					else {
						// Microseconds as two halves: as one number they would be a bigint, an object for each row.
						const us = (v - EPOCH_MS) * 1000;
						const highHalf = Math.floor(us / 4_294_967_296);
						p = bytes.writeInt32BE(highHalf, p);
						p = bytes.writeUInt32BE(us - highHalf * 4_294_967_296, p);
					}
				}
			}
			yield bytes;
		}
		yield Buffer.from([0xff, 0xff]);
	}
	return asOwner(client, () =>
		pipeline(
			Readable.from(chunks()),
			client.query(copyFrom(`COPY ${table} (${columns.map(([name]) => name).join(', ')}) FROM STDIN (FORMAT binary)`)),
		),
	);
}
