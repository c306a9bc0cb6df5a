import { z } from 'zod';
import { QUANTITIES } from '@/core/quantity';
import { OPEN_DOUBTS } from '@/core/trust/trust';
import type { Db } from './pool';
import { idRow, read, time } from './read';
import { JUDGED, type JudgedReading, judgedReading, where } from './readings';

/** Doubtful readings that wait for a person, as one for each thing that happened. */
const episode = z.strictObject({
	station: z.string(),
	instrument: z.string().nullable(),
	quantity: z.enum(QUANTITIES),
	cause: z.string(),
	flag: z.number(),
	from: time,
	to: time,
	readings: z.number(),
	/** Its newest reading. */
	newest: z.number(),
});
export type Episode = z.output<typeof episode>;

/** Doubts of one cause in one series that follow each other within a day and a half are one. */
const APART = "interval '36 hours'";

/**
 * What waits, each with the number of its episode: one series, one cause, without a break. What offers a value of its own, as a slip
 * does, is an episode of its own: it is put right by itself.
 */
function open(siteId: number): { sql: string; values: unknown[] } {
	const { sql, values } = where(siteId, { ...OPEN_DOUBTS, limit: 0 });
	return {
		values,
		sql: `WITH waiting AS (SELECT r.id, r.at, r.station_id, r.instrument_id, r.quantity, r.cause, r.flag, r.site_id,
				CASE WHEN r.cause <> 'drift' AND (SELECT v.suggested FROM verdict v WHERE v.site_id = r.site_id AND v.reading_id = r.id) IS NOT NULL THEN r.id END AS alone
				FROM (SELECT * FROM reading_standing WHERE ${sql}) r),
			follows AS (SELECT *, at - lag(at) OVER series > ${APART} AS begins FROM waiting WINDOW series AS (PARTITION BY station_id, instrument_id, quantity, cause, alone ORDER BY at, id)),
			numbered AS (SELECT *, count(*) FILTER (WHERE begins) OVER (PARTITION BY station_id, instrument_id, quantity, cause, alone ORDER BY at, id) AS n FROM follows)`,
	};
}

/** The worst first: failed before suspect, newer before older. */
export function listEpisodes(db: Db, siteId: number, limit: number): Promise<Episode[]> {
	const { sql, values } = open(siteId);
	return read(
		db,
		episode,
		`${sql}, episodes AS (SELECT station_id, instrument_id, quantity, cause, max(flag) AS flag, min(at) AS from, max(at) AS to,
				count(*)::int AS readings, (array_agg(id ORDER BY at DESC, id DESC))[1] AS newest
			FROM numbered GROUP BY station_id, instrument_id, quantity, cause, alone, n ORDER BY max(flag) DESC, max(at) DESC LIMIT ${Math.trunc(limit)})
		SELECT s.code AS station, i.code AS instrument, e.quantity, e.cause, e.flag, e.from, e.to, e.readings, e.newest FROM episodes e
		JOIN station s ON s.site_id = $1 AND s.id = e.station_id LEFT JOIN instrument i ON i.site_id = $1 AND i.id = e.instrument_id
		ORDER BY e.flag DESC, e.to DESC`,
		values,
	);
}

/** The readings of the episode that a reading belongs to, up to that one, oldest first; none where it does not wait any more. */
export async function episodeUpTo(db: Db, siteId: number, readingId: number): Promise<{ id: number; at: number }[]> {
	const { sql, values } = open(siteId);
	return read(
		db,
		idRow.extend({ at: time }),
		`${sql} SELECT o.id, o.at AS at FROM numbered o JOIN numbered e ON e.id = $${values.length + 1} AND o.station_id = e.station_id
			AND o.instrument_id IS NOT DISTINCT FROM e.instrument_id AND o.quantity = e.quantity AND o.cause = e.cause
			AND o.alone IS NOT DISTINCT FROM e.alone AND o.n = e.n AND (o.at, o.id) <= (e.at, e.id) ORDER BY o.at, o.id`,
		[...values, readingId],
	);
}

/** A decision about many readings. */
export async function insertDecisions(
	db: Db,
	siteId: number,
	readingIds: readonly number[],
	kind: string,
	reason: string,
	who: string,
): Promise<void> {
	await db.query(
		'INSERT INTO decision (site_id, reading_id, kind, reason, decided_by) SELECT $1, x, $3, $4, $5 FROM unnest($2::bigint[]) x',
		[siteId, readingIds, kind, reason, who],
	);
}

/** Readings by their numbers, in no order. */
export const readingsById = (db: Db, siteId: number, ids: readonly number[]): Promise<JudgedReading[]> =>
	read(db, judgedReading, `SELECT ${JUDGED} FROM reading_judged WHERE site_id = $1 AND id = ANY($2)`, [siteId, ids]);
