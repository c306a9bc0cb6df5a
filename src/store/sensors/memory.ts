import { z } from 'zod';
import { EVENT_KINDS } from '@/core/reading/model';
import type { ProbeMemory } from '@/core/series/stream-memory';
import type { Db } from '../pool';
import { read, time, timeOrEnd } from '../read';
import { CURRENT } from '../readings';

const kept = z.strictObject({ at: time, memory: z.string() });

/** The memory of a probe as it was before a time: the newest kept at or before it. The newest of all stands at infinity. */
export async function memoryBefore(
	db: Db,
	siteId: number,
	stationId: number,
	instrumentId: number,
	at: number,
): Promise<{ at: number; memory: ProbeMemory; text: string } | null> {
	const rows = await read(
		db,
		kept,
		'SELECT at, memory FROM probe_memory WHERE site_id = $1 AND station_id = $2 AND instrument_id = $3 AND at <= $4 ORDER BY at DESC LIMIT 1',
		[siteId, stationId, instrumentId, timeOrEnd(at)],
	);
	const found = rows[0];
	return found ? { at: found.at, memory: JSON.parse(found.memory) as ProbeMemory, text: found.memory } : null;
}

export async function putProbeMemories(
	db: Db,
	siteId: number,
	stationId: number,
	instrumentId: number,
	all: readonly { at: number; memory: string }[],
): Promise<void> {
	await db.query(
		`INSERT INTO probe_memory (site_id, station_id, instrument_id, at, memory)
		SELECT $1, $2, $3, * FROM unnest($4::timestamptz[], $5::text[])
		ON CONFLICT (site_id, station_id, instrument_id, at) DO UPDATE SET memory = EXCLUDED.memory`,
		[siteId, stationId, instrumentId, all.map((m) => timeOrEnd(m.at)), all.map((m) => m.memory)],
	);
}

const handRow = z.strictObject({
	at: time,
	quantity: z.enum(['ph', 'ec', 'tds']),
	value: z.number(),
	by: z.string(),
	flag: z.number().nullable(),
	cause: z.string().nullable(),
	decision: z.string().nullable(),
});
/** pH and EC that hands read at a station, from a time on and before another, ascending. */
export const handReadings = (db: Db, siteId: number, stationId: number, from: number, to: number) =>
	read(
		db,
		handRow,
		`SELECT r.at, r.quantity, coalesce(r.restated, r.value) AS value, coalesce(r.instrument, '') AS by, r.flag, r.cause, r.decision FROM reading_judged r
			LEFT JOIN instrument i ON i.site_id = r.site_id AND i.id = r.instrument_id
		WHERE r.site_id = $1 AND r.station_id = $2 AND r.quantity IN ('ph', 'ec', 'tds') AND r.at >= $3 AND r.at < $4 AND ${CURRENT} AND NOT coalesce(i.continuous, false)
		ORDER BY r.at, r.id`,
		[siteId, stationId, timeOrEnd(from), timeOrEnd(to)],
	);

const done = z.strictObject({ at: time, kind: z.enum(EVENT_KINDS) });
/** What was done at a station, from a time on and before another. */
export const doneAt = (db: Db, siteId: number, station: string, from: number, to: number) =>
	read(
		db,
		done,
		'SELECT at, kind FROM event_current WHERE site_id = $1 AND station = $2 AND at >= $3 AND at < $4 ORDER BY at, id',
		[siteId, station, timeOrEnd(from), timeOrEnd(to)],
	);

/** Stations whose streams are to be judged again, each from when on. */
export const streamsDue = (db: Db, siteId: number) =>
	read(
		db,
		z.strictObject({ stationId: z.number(), at: time, version: z.number() }),
		'SELECT station_id AS "stationId", at, version FROM stream_due WHERE site_id = $1 ORDER BY at',
		[siteId],
	);
/** They have been judged, as far as was written by a version. */
export async function streamsJudged(db: Db, siteId: number, stationId: number, version: number): Promise<void> {
	await db.query('DELETE FROM stream_due WHERE site_id = $1 AND station_id = $2 AND version = $3', [
		siteId,
		stationId,
		version,
	]);
}
