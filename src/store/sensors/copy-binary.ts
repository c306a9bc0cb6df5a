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
/** A column, and its value in a row, by the number of the row; times in ms. */
export type Column = readonly [name: string, kind: keyof typeof KINDS, valueAt: (row: number) => number];
const CHUNK_ROWS = 4096;

/** The first column is the site. Rows are asked for in order, and of each its columns in order. */
export function copyNumbers(client: Client, table: string, columns: readonly Column[], rows: number): Promise<void> {
	const width = 2 + columns.reduce((sum, [, kind]) => sum + 4 + KINDS[kind], 0);
	const siteId = guardedSite(client);
	const kinds = columns.map(([, kind]) => kind);
	const values = columns.map(([, , valueAt]) => valueAt);
	const siteAt = values[0]!;
	function* chunks(): Generator<Buffer> {
		yield SIGNATURE;
		for (let begin = 0; begin < rows; begin += CHUNK_ROWS) {
			const count = Math.min(CHUNK_ROWS, rows - begin);
			const bytes = new DataView(new ArrayBuffer(count * width));
			let p = 0;
			for (let row = begin; row < begin + count; row++) {
				if (siteId !== undefined && siteAt(row) !== siteId) throw new OtherSite();
				bytes.setInt16(p, columns.length);
				p += 2;
				for (let c = 0; c < kinds.length; c++) {
					const v = values[c]!(row);
					const kind = kinds[c]!;
					const length = KINDS[kind];
					bytes.setInt32(p, length);
					p += 4;
					if (kind === 'int2') bytes.setInt16(p, v);
					else if (kind === 'int4') bytes.setInt32(p, v);
					else if (kind === 'float8') bytes.setFloat64(p, v);
					else {
						// Microseconds as two halves: as one number they would be a bigint, an object for each row.
						const us = (v - EPOCH_MS) * 1000;
						const highHalf = Math.floor(us / 4_294_967_296);
						bytes.setInt32(p, highHalf);
						bytes.setUint32(p + 4, us - highHalf * 4_294_967_296);
					}
					p += length;
				}
			}
			yield Buffer.from(bytes.buffer);
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
