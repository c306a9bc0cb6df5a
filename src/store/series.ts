import { z } from 'zod';
import type { FindingSaid } from '@/core/judge/said';
import { type Quantity, quantitiesOf } from '@/core/quantity';
import type { Db } from './pool';
import { json, read, time } from './read';
import { CURRENT } from './readings';

/** A point of a chart with what the checks found of it, not in words yet. */
const seriesRow = z.strictObject({
	at: time,
	value: z.number(),
	least: z.number(),
	greatest: z.number(),
	u: z.number(),
	count: z.number(),
	flag: z.number(),
	decision: z.string().nullable(),
	id: z.number().nullable(),
	said: json<FindingSaid | null>(),
	instrument: z.string().nullable(),
	restated: z.number().nullable(),
});
export type SeriesRow = z.output<typeof seriesRow>;

/**
 * The current readings of one station and quantity, at most about `points` of them: as they are when few, else by
 * even spans of time with mean, least, greatest and worst flag.
 */
export async function stationSeries(
	db: Db,
	siteId: number,
	station: string,
	quantity: Quantity,
	from: number,
	to: number,
	points: number,
): Promise<SeriesRow[]> {
	const rows = await read(
		db,
		seriesRow,
		`WITH own AS MATERIALIZED (
			SELECT id, at, value, restated, coalesce(u, 0) AS u, coalesce(flag, 2) AS flag, decision, said, instrument
			FROM reading_judged
			WHERE site_id = $1 AND station_id = (SELECT id FROM station WHERE site_id = $1 AND code = $2) AND quantity = ANY($3) AND at >= $4 AND at < $5
				AND ${CURRENT}
		), size AS (SELECT count(*) AS n FROM own)
		SELECT at, value, value AS least, value AS greatest, u, 1 AS count, flag, decision, id, said, instrument, restated FROM own, size WHERE n <= $6
		UNION ALL
		SELECT to_timestamp(avg(extract(epoch FROM at))), avg(value), min(value), max(value), avg(u), count(*)::int, max(flag), NULL, NULL, NULL, NULL, CASE WHEN count(restated) > 0 THEN avg(coalesce(restated, value)) END FROM own, size WHERE n > $6
		GROUP BY floor((extract(epoch FROM at) * 1000 - $7) / $8)
		ORDER BY at`,
		[
			siteId,
			station,
			quantitiesOf(quantity),
			new Date(from),
			new Date(to),
			points,
			from,
			Math.max((to - from) / points, 1),
		],
	);
	return rows;
}
