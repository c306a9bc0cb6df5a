import { z } from 'zod';
import { QUANTITIES, quantitiesOf, type Unit } from '@/core/quantity';
import { POURING_KINDS } from '@/core/reading/model';
import { type Db, patiently } from './pool';
import { json, read, time } from './read';

/** Readings that another instrument may have met: what a pair is, is not decided here. */
const pairReading = z.strictObject({
	id: z.number(),
	instrument: z.string(),
	sampleId: z.number(),
	station: z.string(),
	at: time,
	quantity: z.enum(QUANTITIES),
	unit: json<Unit>(),
	digits: z.string(),
	value: z.number(),
	halfWidth: z.number(),
	tempC: z.number().nullable(),
});
export type PairReading = z.output<typeof pairReading>;

/**
 * Readings of a quantity taken by hand that another instrument was near to, with those that were near; and of instruments that stay
 * together in one water the first of each day. Whether or not they were judged yet; neither corrected, undone nor discarded; in order of time.
 */
export function pairReadings(
	db: Db,
	siteId: number,
	quantity: 'ph' | 'ec',
	instruments: { byHand: readonly number[]; continuous: readonly number[] },
	withinMs: number,
): Promise<PairReading[]> {
	return read(
		db,
		pairReading,
		patiently(
			`WITH hand AS (SELECT r.id, r.station_id, r.at, r.instrument_id FROM reading r
				WHERE r.site_id = $1 AND r.instrument_id = ANY($3::bigint[]) AND r.quantity = ANY($2)),
			near AS (SELECT h.id AS hand, o.id AS other FROM hand h CROSS JOIN unnest($2::text[]) q(quantity)
				CROSS JOIN LATERAL (SELECT r.id FROM reading r WHERE r.site_id = $1 AND r.station_id = h.station_id AND r.quantity = q.quantity
					AND r.at >= h.at - $5 * interval '1 millisecond' AND r.at <= h.at + $5 * interval '1 millisecond'
					AND r.instrument_id <> h.instrument_id AND r.instrument_id = ANY($3::bigint[] || $4::bigint[]) OFFSET 0) o),
			span AS (SELECT i AS instrument_id, w.first, w.last FROM unnest($4::bigint[]) i
				CROSS JOIN LATERAL (SELECT min(at) AS first, max(at) AS last FROM reading WHERE site_id = $1 AND instrument_id = i) w
				WHERE cardinality($4::bigint[]) > 1 AND w.first IS NOT NULL),
			-- OFFSET keeps each day a question of its own to the index.
			daily AS (SELECT d.id FROM span s
				CROSS JOIN generate_series(date_trunc('day', s.first AT TIME ZONE 'UTC'), s.last AT TIME ZONE 'UTC', interval '1 day') day
				CROSS JOIN LATERAL (SELECT r.id FROM reading r LEFT JOIN verdict v ON v.site_id = r.site_id AND v.reading_id = r.id
					WHERE r.site_id = $1 AND r.instrument_id = s.instrument_id AND r.quantity = ANY($2)
					AND r.at >= day AT TIME ZONE 'UTC' AND r.at < (day + interval '1 day') AT TIME ZONE 'UTC'
					AND v.superseded IS NOT TRUE AND v.decision IS DISTINCT FROM 'undo' AND v.decision IS DISTINCT FROM 'discard'
					ORDER BY r.at LIMIT 1 OFFSET 0) d),
			wanted AS (SELECT hand AS id FROM near UNION SELECT other FROM near UNION SELECT id FROM daily)
			SELECT r.id, i.code AS instrument, r.sample_id AS "sampleId", s.code AS station, r.at AS at, r.quantity, r.unit, r.digits,
				r.value, r.half_width AS "halfWidth", r.temp_c AS "tempC"
			FROM wanted w JOIN reading r ON r.site_id = $1 AND r.id = w.id JOIN station s ON s.site_id = r.site_id AND s.id = r.station_id
			JOIN instrument i ON i.site_id = r.site_id AND i.id = r.instrument_id LEFT JOIN verdict v ON v.site_id = r.site_id AND v.reading_id = r.id
			WHERE v.superseded IS NOT TRUE AND v.decision IS DISTINCT FROM 'undo' AND v.decision IS DISTINCT FROM 'discard'
			ORDER BY r.at, r.sample_id, r.id`,
			[siteId, quantitiesOf(quantity), instruments.byHand, instruments.continuous, withinMs],
		),
	);
}

/** When something was poured into a water or drained from it, in order of time. */
export function pourings(db: Db, siteId: number): Promise<{ station: string; at: number }[]> {
	return read(
		db,
		z.strictObject({ station: z.string(), at: time }),
		patiently('SELECT station, at AS at FROM event_current WHERE site_id = $1 AND kind = ANY($2) ORDER BY at', [
			siteId,
			[...POURING_KINDS],
		]),
	);
}
