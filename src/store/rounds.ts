import { z } from 'zod';
import type { Db } from './pool';
import { json, read, time } from './read';

const roundRow = z.strictObject({
	id: z.number(),
	startedAt: time,
	finishedAt: time.nullable(),
	leftOut: z.array(z.strictObject({ station: z.string(), reason: z.string() })),
});
export type RoundRow = z.output<typeof roundRow>;

const ROUND = `id, started_at AS "startedAt", finished_at AS "finishedAt", left_out AS "leftOut"`;

export async function insertRound(db: Db, siteId: number, at: number, who: string): Promise<RoundRow> {
	const rows = await read(
		db,
		roundRow,
		`INSERT INTO round (site_id, started_at, started_by) VALUES ($1, $2, $3) RETURNING ${ROUND}`,
		[siteId, new Date(at), who],
	);
	return rows[0]!;
}

export async function findRound(db: Db, siteId: number, id: number): Promise<RoundRow | null> {
	const rows = await read(db, roundRow, `SELECT ${ROUND} FROM round WHERE site_id = $1 AND id = $2`, [siteId, id]);
	return rows[0] ?? null;
}

/** The newest round begun after a time, finished or not. */
export async function newestRound(db: Db, siteId: number, after: number): Promise<RoundRow | null> {
	const rows = await read(
		db,
		roundRow,
		`SELECT ${ROUND} FROM round WHERE site_id = $1 AND started_at > $2 ORDER BY started_at DESC, id DESC LIMIT 1`,
		[siteId, new Date(after)],
	);
	return rows[0] ?? null;
}

export async function finishRound(
	db: Db,
	siteId: number,
	id: number,
	at: number,
	leftOut: readonly { station: string; reason: string }[],
): Promise<RoundRow | null> {
	const rows = await read(
		db,
		roundRow,
		`UPDATE round SET finished_at = coalesce(finished_at, $3), left_out = CASE WHEN finished_at IS NULL THEN $4 ELSE left_out END
		WHERE site_id = $1 AND id = $2 RETURNING ${ROUND}`,
		[siteId, id, new Date(at), JSON.stringify(leftOut)],
	);
	return rows[0] ?? null;
}

/** Adds a sample to a round, as late where it was finished. @returns when it was; null where there is no such round */
export async function addToRound(
	db: Db,
	siteId: number,
	roundId: number,
	sampleId: number,
): Promise<Pick<RoundRow, 'finishedAt'> | null> {
	const rows = await read(
		db,
		json<Pick<RoundRow, 'finishedAt'>>(),
		`WITH r AS (SELECT finished_at FROM round WHERE site_id = $1 AND id = $2),
		added AS (INSERT INTO round_sample (site_id, round_id, sample_id, late) SELECT $1, $2, $3, finished_at IS NOT NULL FROM r ON CONFLICT DO NOTHING)
		SELECT finished_at AS "finishedAt" FROM r`,
		[siteId, roundId, sampleId],
	);
	return rows[0] ?? null;
}

/** Readings whose newest decision asks for a retest, with the samples that have answered. */
const openRetest = z.strictObject({
	readingId: z.number(),
	station: z.string(),
	quantity: z.string(),
	at: time,
	askedAt: time,
	answers: z.array(z.strictObject({ sampleId: z.number(), at: time })),
});
export type OpenRetest = z.output<typeof openRetest>;

export async function retests(db: Db, siteId: number): Promise<OpenRetest[]> {
	const rows = await read(
		db,
		openRetest,
		`SELECT r.id AS "readingId", s.code AS station, r.quantity, r.at AS at, v.decided_at AS "askedAt",
			(SELECT coalesce(json_agg(json_build_object('sampleId', a.sample_id, 'at', (extract(epoch FROM a.at) * 1000)::double precision) ORDER BY a.at), '[]')
				FROM retest_answer a WHERE a.site_id = r.site_id AND a.reading_id = r.id) AS answers
		FROM verdict v JOIN reading r ON r.site_id = v.site_id AND r.id = v.reading_id
		JOIN station s ON s.site_id = r.site_id AND s.id = r.station_id
		WHERE v.site_id = $1 AND v.decision = 'retest' AND NOT v.superseded
		ORDER BY v.decided_at, r.id`,
		[siteId],
	);
	return rows;
}

export async function answerRetest(
	db: Db,
	siteId: number,
	readingId: number,
	sampleId: number,
	at: number,
): Promise<void> {
	await db.query(
		'INSERT INTO retest_answer (site_id, reading_id, sample_id, at) VALUES ($1, $2, $3, $4) ON CONFLICT DO NOTHING',
		[siteId, readingId, sampleId, new Date(at)],
	);
}

/** How long was usually waited at each station, where it was noted: the median of the last thirty. */
export async function usualWaits(
	db: Db,
	siteId: number,
): Promise<{ station: string; quantity: string; waitS: number; from: number }[]> {
	const rows = await read(
		db,
		z.strictObject({ station: z.string(), quantity: z.string(), waitS: z.number(), from: time }),
		`SELECT s.code AS station, x.quantity, percentile_cont(0.5) WITHIN GROUP (ORDER BY x.wait_s) AS "waitS", count(*)::int AS from
		FROM station s CROSS JOIN unnest(ARRAY['ph', 'ec']) q(quantity)
		CROSS JOIN LATERAL (SELECT r.quantity, r.wait_s FROM reading r WHERE r.site_id = s.site_id AND r.station_id = s.id
			AND r.quantity = q.quantity AND r.wait_s IS NOT NULL ORDER BY r.at DESC LIMIT 30) x
		WHERE s.site_id = $1 GROUP BY s.code, x.quantity HAVING count(*) >= 5`,
		[siteId],
	);
	return rows;
}
