import { z } from 'zod';
import type { StationMemory } from '@/core/judge/memory';
import { QUANTITY } from '@/core/quantity';
import { ENGINE_VERSION, EVENT_KINDS, type EventKind } from '@/core/reading/model';
import type { Db } from './pool';
import { json, read, time, timeOrEnd } from './read';
import { CURRENT, JUDGED, type JudgedReading, judgedReading } from './readings';

const keptMemory = z.strictObject({
	station: z.string(),
	at: time,
	state: json<StationMemory>(),
	/** It is the last: nothing was read here since. */
	newest: z.boolean(),
});
export type KeptMemory = z.output<typeof keptMemory>;

/** The newest memory of every station up to a time. */
export async function memoriesAsOf(db: Db, siteId: number, upTo: number, including: boolean): Promise<KeptMemory[]> {
	const rows = await read(
		db,
		keptMemory,
		`SELECT s.code AS station, m.at, m.state, NOT EXISTS (SELECT 1 FROM station_memory n WHERE n.site_id = s.site_id AND n.station_id = s.id AND n.at > m.at)
				AND NOT EXISTS (SELECT 1 FROM reading r WHERE r.site_id = s.site_id AND r.station_id = s.id AND r.at > m.at AND r.quantity = ANY($5)) AS newest FROM station s
		CROSS JOIN LATERAL (SELECT at, state FROM station_memory m WHERE m.site_id = s.site_id AND m.station_id = s.id AND m.engine = $2
			AND (m.at < $3::timestamptz OR ($4 AND m.at = $3::timestamptz)) ORDER BY m.day DESC LIMIT 1) m
		WHERE s.site_id = $1 ORDER BY s.position, s.id`,
		[siteId, ENGINE_VERSION, timeOrEnd(upTo), including, Object.keys(QUANTITY)],
	);
	return rows;
}

/** @returns the version of what is remembered from now on */
export async function putMemories(
	db: Db,
	siteId: number,
	/** Each with its state as JSON of a StationMemory. */
	memories: readonly { stationId: number; at: number; state: string }[],
): Promise<number> {
	const rows = await read(
		db,
		z.strictObject({ version: z.number() }),
		`WITH v AS (UPDATE judging SET memory_version = nextval('row_id') WHERE site_id = $1 RETURNING memory_version),
		kept AS (INSERT INTO station_memory (site_id, station_id, day, at, engine, state)
		SELECT $1, x.station_id, (x.at AT TIME ZONE 'UTC')::date, x.at, $2, x.state
		FROM jsonb_to_recordset($3) AS x(station_id bigint, at timestamptz, state jsonb)
		ON CONFLICT (site_id, station_id, day) DO UPDATE SET at = EXCLUDED.at, engine = EXCLUDED.engine, state = EXCLUDED.state)
		SELECT memory_version AS version FROM v`,
		[
			siteId,
			ENGINE_VERSION,
			`[${memories.map((m) => `{"station_id":${m.stationId},"at":"${new Date(m.at).toISOString()}","state":${m.state}}`).join()}]`,
		],
	);
	return rows[0]!.version;
}

/** Forgets what was remembered from a time on, and before another time. */
export async function dropMemories(db: Db, siteId: number, from: number, to: number | null): Promise<void> {
	await db.query(
		`WITH v AS (UPDATE judging SET memory_version = nextval('row_id') WHERE site_id = $1)
		DELETE FROM station_memory WHERE site_id = $1 AND at >= $2 AND ($3::timestamptz IS NULL OR at < $3)`,
		[siteId, timeOrEnd(from), to === null ? null : new Date(to)],
	);
}

/** Of days long past only the last of each month is kept: a late line of then goes through that month again. */
export async function thinMemories(db: Db, siteId: number, before: number): Promise<void> {
	await db.query(
		`DELETE FROM station_memory m WHERE m.site_id = $1 AND m.at < $2 AND EXISTS (SELECT 1 FROM station_memory n
			WHERE n.site_id = m.site_id AND n.station_id = m.station_id AND n.day > m.day AND date_trunc('month', n.day) = date_trunc('month', m.day))`,
		[siteId, new Date(before)],
	);
}

/** Events of each station from a time of its own on, in order of time. */
export async function eventsFrom(
	db: Db,
	siteId: number,
	stations: readonly { station: string; from: number }[],
): Promise<{ at: number; station: string; kind: EventKind; amount: number | null; unitText: string }[]> {
	const rows = await read(
		db,
		z.strictObject({
			at: time,
			station: z.string(),
			kind: z.enum(EVENT_KINDS),
			amount: z.number().nullable(),
			unitText: z.string(),
		}),
		`SELECT e.at AS at, s.code AS station, e.kind, e.amount, e.unit_text AS "unitText"
		FROM unnest($2::text[], $3::timestamptz[]) x(code, since)
		JOIN station s ON s.site_id = $1 AND s.code = x.code
		JOIN event_current e ON e.site_id = s.site_id AND e.station_id = s.id AND e.at >= x.since
		ORDER BY e.at, e.id`,
		[siteId, stations.map((s) => s.station), stations.map((s) => timeOrEnd(s.from))],
	);
	return rows;
}

/** Readings in the order in which they are judged: by time, then as they were entered. */
const ORDER = 'at, sample_id, id';

/** Current readings of each station after a time of its own and up to one time. */
export async function readingsAfter(
	db: Db,
	siteId: number,
	stations: readonly { station: string; after: number }[],
	upTo: number,
	including: boolean,
): Promise<JudgedReading[]> {
	const rows = await read(
		db,
		judgedReading,
		`SELECT ${JUDGED} FROM reading_judged WHERE site_id = $1 AND ${CURRENT} AND id = ANY(ARRAY(
			SELECT r.id FROM unnest($2::text[], $3::timestamptz[]) x(code, after)
			JOIN station s ON s.site_id = $1 AND s.code = x.code
			CROSS JOIN unnest($6::text[]) q(quantity)
			-- OFFSET keeps each series a question of its own to the index; joined at once they were looked for among all.
			CROSS JOIN LATERAL (SELECT id FROM reading r WHERE r.site_id = $1 AND r.station_id = s.id AND r.quantity = q.quantity AND r.at > x.after
				AND r.at <= $4::timestamptz AND ($5 OR r.at < $4::timestamptz) OFFSET 0) r))
		ORDER BY ${ORDER}`,
		[
			siteId,
			stations.map((s) => s.station),
			stations.map((s) => timeOrEnd(s.after)),
			timeOrEnd(upTo),
			including,
			Object.keys(QUANTITY),
		],
	);
	return rows;
}

/**
 * Current readings from a time on, at most about so many, whole times only; and when those that are left begin. Which rows are
 * meant is asked of the table and its index alone: joined at once, they were looked for among all.
 */
export async function readingsFrom(
	db: Db,
	siteId: number,
	from: number,
	limit: number,
): Promise<{ readings: JudgedReading[]; next: number | null }> {
	const picked = await read(
		db,
		z.strictObject({ id: z.number(), at: time }),
		`SELECT id, at AS at FROM reading WHERE site_id = $1 AND at >= $2 ORDER BY ${ORDER} LIMIT $3`,
		[siteId, timeOrEnd(from), limit],
	);
	const next = picked.length === limit ? picked.at(-1)!.at : null;
	const ids = picked.filter((p) => next === null || p.at < next).map((p) => p.id);
	// All of one time: they are wanted together.
	if (next !== null && ids.length === 0) return readingsFrom(db, siteId, from, 2 * limit);
	if (ids.length === 0) return { readings: [], next };
	const rows = await read(
		db,
		judgedReading,
		`SELECT ${JUDGED} FROM reading_judged WHERE site_id = $1 AND id = ANY($2) AND ${CURRENT} ORDER BY ${ORDER}`,
		[siteId, ids],
	);
	return { readings: rows, next };
}

/** Whether anything is stored from a time on, these rows left out. */
export async function isLate(db: Db, siteId: number, from: number): Promise<boolean> {
	const rows = await read(
		db,
		z.strictObject({ late: z.boolean() }),
		'SELECT EXISTS (SELECT 1 FROM reading WHERE site_id = $1 AND at >= $2) AS late',
		[siteId, timeOrEnd(from)],
	);
	return rows[0]!.late;
}

/** The time of the newest reading of a site; before every time where there is none. */
export async function newestAt(db: Db, siteId: number): Promise<number> {
	const rows = await read(
		db,
		z.strictObject({ at: time.nullable() }),
		'SELECT max(at) AS at FROM reading WHERE site_id = $1',
		[siteId],
	);
	return rows[0]?.at ?? Number.NEGATIVE_INFINITY;
}

/** Readings from a time on wait to be judged again. Inside a transaction that holds the site: a judgement under way would undo it. */
export async function markDue(db: Db, siteId: number, from: number): Promise<void> {
	await db.query(
		`INSERT INTO judging (site_id, engine, due_from)
		VALUES ($1, $2, $3)
		ON CONFLICT (site_id) DO UPDATE SET due_from = least(judging.due_from, EXCLUDED.due_from)`,
		[siteId, ENGINE_VERSION, timeOrEnd(from)],
	);
}

/** From when on readings wait to be judged again; null where none do. Everything does where another engine judged it. */
export async function dueFrom(db: Db, siteId: number): Promise<number | null> {
	const rows = await read(
		db,
		z.strictObject({ engine: z.number(), due: time.nullable() }),
		'SELECT engine, due_from AS due FROM judging WHERE site_id = $1',
		[siteId],
	);
	const row = rows[0];
	if (!row) return null;
	return row.engine === ENGINE_VERSION ? row.due : Number.NEGATIVE_INFINITY;
}

/** Everything has been judged by this engine, up to a time from which it still waits. */
export async function setDue(db: Db, siteId: number, from: number | null): Promise<void> {
	await db.query(
		`INSERT INTO judging (site_id, engine, due_from) VALUES ($1, $2, $3)
		ON CONFLICT (site_id) DO UPDATE SET engine = EXCLUDED.engine, due_from = EXCLUDED.due_from`,
		[siteId, ENGINE_VERSION, from === null ? null : timeOrEnd(from)],
	);
}
