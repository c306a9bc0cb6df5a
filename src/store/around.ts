import { z } from 'zod';
import { quantitiesOf } from '@/core/quantity';
import type { TrustLists } from '@/core/trust/trust';
import type { Db } from './pool';
import { read, time } from './read';

/** A reading just before or just after something was poured. */
const nearbyReading = z.strictObject({
	id: z.number(),
	at: time,
	value: z.number(),
	/** Code of the instrument; null where nobody said. */
	by: z.string().nullable(),
});
export type NearbyReading = z.output<typeof nearbyReading>;

/**
 * For each of the times the last reading that may be used before it and the first after it, each once, oldest first: few rows
 * whatever a sensor has written in between. Restated values stand for their originals.
 */
export async function readingsAround(
	db: Db,
	siteId: number,
	station: string,
	quantity: 'ph' | 'ec',
	times: readonly number[],
	reach: { beforeMs: number; afterMs: number },
	trust: TrustLists,
): Promise<NearbyReading[]> {
	if (times.length === 0) return [];
	const one = (range: string, direction: 'ASC' | 'DESC') =>
		`(SELECT r.id, r.at, coalesce(r.restated, r.value) AS value, r.instrument FROM reading_judged r
			WHERE r.site_id = $1 AND r.station_id = s.id AND r.quantity = ANY($3) AND ${range}
				AND NOT r.superseded AND coalesce(r.decision, '') <> ALL($7)
				AND (coalesce(r.flag, 2) < $8 OR r.decision = 'keep' OR r.cause = ANY($9))
			ORDER BY r.at ${direction} LIMIT 1)`;
	const rows = await read(
		db,
		nearbyReading,
		`SELECT DISTINCT ON (x.at, x.id) x.id, x.at AS at, x.value, x.instrument AS by
		FROM station s CROSS JOIN unnest($4::timestamptz[]) t(at)
		CROSS JOIN LATERAL (${one("r.at <= t.at AND r.at >= t.at - $5 * interval '1 millisecond'", 'DESC')}
			UNION ALL ${one("r.at > t.at AND r.at <= t.at + $6 * interval '1 millisecond'", 'ASC')}) x
		WHERE s.site_id = $1 AND s.code = $2 ORDER BY x.at, x.id`,
		[
			siteId,
			station,
			quantitiesOf(quantity),
			times.map((t) => new Date(t).toISOString()),
			reach.beforeMs,
			reach.afterMs,
			trust.givenUp,
			trust.belowFlag,
			trust.causes,
		],
	);
	return rows;
}
