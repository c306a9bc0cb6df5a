import { z } from 'zod';
import type { StreamEpisode } from '@/core/series/stream-episodes';
import { type Db, patiently } from '../pool';
import { idRow, read, time, timeOrEnd } from '../read';

const episodeRow = z.strictObject({
	id: z.number(),
	seriesId: z.number(),
	cause: z.number(),
	flag: z.number(),
	since: time,
	until: time,
	samples: z.number(),
});
export type EpisodeRow = z.output<typeof episodeRow>;
const EPISODE = 'id, series_id AS "seriesId", cause, flag, since, until, samples';

/** Episodes of some series that reach into a stretch of time, ascending. */
export const episodesWithin = (
	db: Db,
	siteId: number,
	seriesIds: readonly number[],
	from: number,
	to: number,
): Promise<EpisodeRow[]> =>
	read(
		db,
		episodeRow,
		`SELECT ${EPISODE} FROM sensor_episode WHERE site_id = $1 AND series_id = ANY($2) AND until >= $3 AND since <= $4 ORDER BY since, id`,
		[siteId, seriesIds, timeOrEnd(from), timeOrEnd(to)],
	);

export async function findEpisode(db: Db, siteId: number, id: number): Promise<EpisodeRow | null> {
	const rows = await read(db, episodeRow, `SELECT ${EPISODE} FROM sensor_episode WHERE site_id = $1 AND id = $2`, [
		siteId,
		id,
	]);
	return rows[0] ?? null;
}

/** The newest episodes that nobody decided about, of a site. */
export const openEpisodes = (db: Db, siteId: number, causes: readonly number[], limit: number): Promise<EpisodeRow[]> =>
	read(
		db,
		episodeRow,
		`SELECT ${EPISODE} FROM sensor_episode e WHERE site_id = $1 AND cause = ANY($2)
			AND NOT EXISTS (SELECT 1 FROM sensor_decision d WHERE d.site_id = e.site_id AND d.series_id = e.series_id AND d.kind <> 'undo'
				AND d.since <= e.since AND d.until >= e.until
				AND NOT EXISTS (SELECT 1 FROM sensor_decision u WHERE u.site_id = d.site_id AND u.series_id = d.series_id AND u.kind = 'undo' AND u.id > d.id
					AND u.since <= d.until AND u.until >= d.since))
		ORDER BY until DESC, id DESC LIMIT $3`,
		[siteId, causes, limit],
	);

const extremes = z.strictObject({ id: z.number(), least: z.number().nullable(), greatest: z.number().nullable() });
/** Least and greatest of what was shown in some episodes; of a day and longer, or where the samples are gone, by the hours it lasted. */
export const extremesOf = (db: Db, siteId: number, ids: readonly number[]) =>
	read(
		db,
		extremes,
		patiently(
			`SELECT e.id, v.least, v.greatest FROM sensor_episode e JOIN series x ON x.site_id = e.site_id AND x.id = e.series_id,
			LATERAL (SELECT e.until - e.since >= interval '1 day' OR e.since < x.raw_from AS long) l,
			LATERAL (SELECT min(least) AS least, max(greatest) AS greatest FROM (
				SELECT s.value AS least, s.value AS greatest FROM sensor_sample s
				WHERE NOT l.long AND s.site_id = e.site_id AND s.series_id = e.series_id AND s.at >= e.since AND s.at <= e.until AND s.cause = e.cause
				UNION ALL
				SELECT r.least, r.greatest FROM rollup r
				WHERE l.long AND r.site_id = e.site_id AND r.series_id = e.series_id AND r.step = 60 AND r.at >= date_trunc('hour', e.since) AND r.at <= e.until
			) all_of_it) v
			WHERE e.site_id = $1 AND e.id = ANY($2)`,
			[siteId, ids],
		),
	);

/** Those that go on with more samples, by their beginning and cause. */
export async function putEpisodes(
	db: Db,
	siteId: number,
	seriesId: number,
	all: readonly StreamEpisode[],
): Promise<void> {
	if (all.length === 0) return;
	await db.query(
		`INSERT INTO sensor_episode (site_id, series_id, cause, flag, since, until, samples)
		SELECT $1, $2, * FROM unnest($3::int2[], $4::int2[], $5::timestamptz[], $6::timestamptz[], $7::int[])
		ON CONFLICT (site_id, series_id, since, cause) DO UPDATE SET until = EXCLUDED.until, samples = EXCLUDED.samples, flag = EXCLUDED.flag`,
		[
			siteId,
			seriesId,
			all.map((e) => e.cause),
			all.map((e) => e.flag),
			all.map((e) => timeOrEnd(e.since)),
			all.map((e) => timeOrEnd(e.until)),
			all.map((e) => e.samples),
		],
	);
}

/** Takes away those of a series that lie within a stretch and are not among these. */
export async function dropEpisodes(
	db: Db,
	siteId: number,
	seriesId: number,
	from: number,
	to: number,
	but: readonly StreamEpisode[],
): Promise<void> {
	await db.query(
		patiently(
			`DELETE FROM sensor_episode e WHERE site_id = $1 AND series_id = $2 AND until >= $3 AND since <= $4
				AND NOT EXISTS (SELECT 1 FROM unnest($5::timestamptz[], $6::int2[]) AS k(since, cause) WHERE k.since = e.since AND k.cause = e.cause)`,
			[siteId, seriesId, timeOrEnd(from), timeOrEnd(to), but.map((e) => timeOrEnd(e.since)), but.map((e) => e.cause)],
		),
	);
}

const decisionRow = z.strictObject({
	id: z.number(),
	seriesId: z.number(),
	since: time,
	until: time,
	kind: z.enum(['keep', 'discard', 'undo']),
	reason: z.string(),
	decidedAt: time,
});

/** What was decided about stretches of some series that reach into a time, oldest first. */
export const decisionsWithin = (db: Db, siteId: number, seriesIds: readonly number[], from: number, to: number) =>
	read(
		db,
		decisionRow,
		`SELECT id, series_id AS "seriesId", since, until, kind, reason, decided_at AS "decidedAt" FROM sensor_decision
		WHERE site_id = $1 AND series_id = ANY($2) AND until >= $3 AND since <= $4 ORDER BY id`,
		[siteId, seriesIds, timeOrEnd(from), timeOrEnd(to)],
	);

export async function insertSensorDecision(
	db: Db,
	siteId: number,
	d: { seriesId: number; since: number; until: number; kind: string; reason: string; who: string },
): Promise<number> {
	const rows = await read(
		db,
		idRow,
		'INSERT INTO sensor_decision (site_id, series_id, since, until, kind, reason, decided_by) VALUES ($1, $2, $3, $4, $5, $6, $7) RETURNING id',
		[siteId, d.seriesId, timeOrEnd(d.since), timeOrEnd(d.until), d.kind, d.reason, d.who],
	);
	return rows[0]!.id;
}
