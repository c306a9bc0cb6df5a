import { z } from 'zod';
import { quantitiesOf, type SeriesQuantity } from '@/core/quantity';
import type { Db } from './pool';
import { read, time } from './read';
import { CURRENT } from './readings';

export interface SeriesAsked {
	station: string;
	quantity: SeriesQuantity;
}

const measured = z.strictObject({
	id: z.number(),
	at: time,
	value: z.number(),
	/** What calibrations made of it; null where they changed nothing. */
	restated: z.number().nullable(),
	u: z.number().nullable(),
	flag: z.number().nullable(),
	cause: z.string(),
	decision: z.string().nullable(),
	instrument: z.string().nullable(),
});
export type Measured = z.output<typeof measured>;
const measuredOfSeries = measured.extend({ nr: z.number() });

/**
 * What is drawn or reckoned of readings that nobody corrected or took back, without all that is told of them: of several series with
 * one question.
 * @returns of each series its newest, the newest first
 */
export async function measuredOf(
	db: Db,
	siteId: number,
	series: readonly SeriesAsked[],
	{ from, to, limit }: { from?: number | undefined; to?: number | undefined; limit: number },
): Promise<Measured[][]> {
	const found: Measured[][] = series.map(() => []);
	if (series.length === 0) return found;
	const rows = await read(
		db,
		measuredOfSeries,
		`SELECT q.nr, x.* FROM jsonb_to_recordset($2) AS q(nr integer, station text, quantities text[])
		JOIN station s ON s.site_id = $1 AND s.code = q.station
		CROSS JOIN LATERAL (
			SELECT r.id, r.at, r.value, r.restated, r.u, r.flag, coalesce(r.cause, '') AS cause, r.decision, r.instrument
			FROM reading_judged r
			WHERE r.site_id = $1 AND r.station_id = s.id AND r.quantity = ANY(q.quantities) AND ${CURRENT}
				${from === undefined ? '' : 'AND r.at >= $3'} ${to === undefined ? '' : `AND r.at < $${from === undefined ? 3 : 4}`}
			ORDER BY r.at DESC, r.id DESC LIMIT ${Math.trunc(limit)}) x`,
		[
			siteId,
			JSON.stringify(series.map(({ station, quantity }, nr) => ({ nr, station, quantities: quantitiesOf(quantity) }))),
			...[from, to].flatMap((t) => (t === undefined ? [] : [new Date(t)])),
		],
	);
	for (const { nr, ...row } of rows) found[nr]!.push(row);
	for (const list of found) list.sort((a, b) => b.at - a.at || b.id - a.id);
	return found;
}
