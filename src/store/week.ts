import { z } from 'zod';
import { QUANTITIES } from '@/core/quantity';
import type { TrustLists } from '@/core/trust/trust';
import type { Db } from './pool';
import { read, time } from './read';
import { CURRENT } from './readings';

const spanRow = z.strictObject({
	station: z.string(),
	quantity: z.enum(QUANTITIES),
	/** All that were taken, and of them those that count. */
	taken: z.number(),
	counted: z.number(),
	least: z.number().nullable(),
	greatest: z.number().nullable(),
	mean: z.number().nullable(),
	inRange: z.number(),
	/** Whether there is a range at all. */
	ranged: z.boolean(),
	restated: z.number(),
	newestAt: time,
});
export type SpanRow = z.output<typeof spanRow>;

/** What was read between two times, by station and quantity, as calibrations put it right; what is not believed is taken and not counted. */
export const readInSpan = (db: Db, siteId: number, from: number, to: number, trust: TrustLists): Promise<SpanRow[]> =>
	read(
		db,
		spanRow,
		`WITH own AS (
			SELECT r.station, CASE r.quantity WHEN 'tds' THEN 'ec' ELSE r.quantity END AS quantity, r.at, coalesce(r.restated, r.value) AS value,
				r.restated IS NOT NULL AS restated, s.position, s.ranges -> (CASE r.quantity WHEN 'tds' THEN 'ec' ELSE r.quantity END) AS range,
				(coalesce(r.flag, 2) < $4 OR r.cause = ANY($5) OR r.decision = 'keep') AND NOT coalesce(r.decision = ANY($6), false) AS counts
			FROM reading_judged r JOIN station s ON s.site_id = r.site_id AND s.id = r.station_id
			WHERE r.site_id = $1 AND r.at >= $2 AND r.at < $3 AND ${CURRENT}
		)
		SELECT station, quantity, count(*)::int AS taken, (count(*) FILTER (WHERE counts))::int AS counted,
			min(value) FILTER (WHERE counts) AS least, max(value) FILTER (WHERE counts) AS greatest, avg(value) FILTER (WHERE counts) AS mean,
			(count(*) FILTER (WHERE counts AND value BETWEEN (range ->> 0)::float8 AND (range ->> 1)::float8))::int AS "inRange",
			bool_or(range IS NOT NULL) AS ranged, (count(*) FILTER (WHERE restated))::int AS restated, max(at) AS "newestAt"
		FROM own GROUP BY station, quantity, position ORDER BY position, station, array_position($7::text[], quantity)`,
		[siteId, new Date(from), new Date(to), trust.belowFlag, trust.causes, trust.givenUp, [...QUANTITIES]],
	);

const decidedRow = z.strictObject({
	id: z.number(),
	at: time,
	who: z.string(),
	kind: z.string(),
	reason: z.string(),
	station: z.string(),
	quantity: z.enum(QUANTITIES),
	digits: z.string(),
	unitText: z.string(),
	takenAt: time,
});
export type DecidedRow = z.output<typeof decidedRow>;

/** What people decided between two times, and what they corrected, oldest first; at most so many. */
export const decidedInSpan = (db: Db, siteId: number, from: number, to: number, limit: number): Promise<DecidedRow[]> =>
	read(
		db,
		decidedRow,
		`SELECT d.id, d.decided_at AS at, d.decided_by AS who, d.kind, d.reason, r.station, r.quantity, r.digits, r.unit_text AS "unitText", r.at AS "takenAt"
		FROM decision d JOIN reading_judged r ON r.site_id = d.site_id AND r.id = d.reading_id
		WHERE d.site_id = $1 AND d.decided_at >= $2 AND d.decided_at < $3
		UNION ALL
		SELECT n.id, n.entered_at, n.entered_by, 'corrected', '', n.station, n.quantity, n.digits, n.unit_text, n.at
		FROM reading_judged n WHERE n.site_id = $1 AND n.source = 'correction' AND n.entered_at >= $2 AND n.entered_at < $3
		ORDER BY at, id LIMIT $4`,
		[siteId, new Date(from), new Date(to), limit],
	);
