import { z } from 'zod';
import { QUANTITIES } from '@/core/quantity';
import type { Db } from './pool';
import { read, time } from './read';
import { type ReadingFilter, where } from './readings';

/** What stands written at some times, to tell which lines of a file are there already. */
const written = z.strictObject({
	at: time,
	station: z.string(),
	instrument: z.string(),
	quantity: z.enum(QUANTITIES),
	digits: z.string(),
	unitText: z.string(),
});
export type Written = z.output<typeof written>;
/** @param before only rows with a smaller number */
export async function writtenAt(
	db: Db,
	siteId: number,
	times: readonly number[],
	before: number | null,
): Promise<Written[]> {
	const rows = await read(
		db,
		written,
		`SELECT r.at, s.code AS station, coalesce(i.code, '') AS instrument, r.quantity, r.digits, r.unit_text AS "unitText"
		FROM reading r JOIN station s ON s.site_id = r.site_id AND s.id = r.station_id
		LEFT JOIN instrument i ON i.site_id = r.site_id AND i.id = r.instrument_id
		WHERE r.site_id = $1 AND r.at = ANY($2) AND ($3::bigint IS NULL OR r.id < $3)`,
		[siteId, times.map((at) => new Date(at)), before],
	);
	return rows;
}

/** A reading as it is written into a file. */
const writtenReading = written.extend({
	id: z.number(),
	tempC: z.number().nullable(),
	waitS: z.number().nullable(),
	note: z.string(),
	extra: z.record(z.string(), z.string()).nullable(),
});
export type WrittenReading = z.output<typeof writtenReading>;

/** Readings with what a file holds of them, and no more. */
export async function listWritten(db: Db, siteId: number, filter: ReadingFilter): Promise<WrittenReading[]> {
	const { sql, values } = where(siteId, filter);
	const rows = await read(
		db,
		writtenReading,
		`SELECT r.id, r.at, s.code AS station, coalesce(i.code, '') AS instrument, r.quantity, r.digits, r.unit_text AS "unitText",
			r.temp_c AS "tempC", r.wait_s AS "waitS", r.note, r.extra
		FROM (SELECT * FROM reading_standing WHERE ${sql} ORDER BY at, id LIMIT ${Math.trunc(filter.limit)}) r
		JOIN station s ON s.site_id = r.site_id AND s.id = r.station_id
		LEFT JOIN instrument i ON i.site_id = r.site_id AND i.id = r.instrument_id ORDER BY r.at, r.id`,
		values,
	);
	return rows;
}

/** Names of the further columns that some of these readings carry. */
export async function extraNames(db: Db, siteId: number, filter: Omit<ReadingFilter, 'limit'>): Promise<string[]> {
	const { sql, values } = where(siteId, { ...filter, limit: 0 });
	const rows = await read(
		db,
		z.strictObject({ name: z.string() }),
		`SELECT DISTINCT jsonb_object_keys(extra) AS name FROM reading_standing WHERE ${sql} AND extra IS NOT NULL`,
		values,
	);
	return rows.map((r) => r.name).sort();
}
