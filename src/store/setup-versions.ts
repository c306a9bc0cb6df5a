import { z } from 'zod';
import type { Quantity } from '@/core/quantity';
import { STATION_KINDS } from '@/core/reading/model';
import type { InstrumentRow } from './line';
import type { Db } from './pool';
import { json, read, time } from './read';

/** What readings of an instrument are understood and judged by. */
export type InstrumentWas = Pick<
	InstrumentRow,
	'quantities' | 'perDrop' | 'ppmScale' | 'compensates' | 'alphaPct' | 'continuous' | 'calibrateBy' | 'makerDays'
>;

const versionRow = z.strictObject({
	stationId: z.number().nullable(),
	systemId: z.number().nullable(),
	instrumentId: z.number().nullable(),
	until: time,
	volumeL: z.number().nullable(),
	ranges: json<Partial<Record<Quantity, [number, number]>>>().nullable(),
	/** Of a station; null: as it is. */
	kind: z.enum(STATION_KINDS).nullable(),
	/** The system that the station was of, where its kind is said. */
	ofSystemId: z.number().nullable(),
	instrument: json<InstrumentWas>().nullable(),
});
/** What a station, a system or an instrument was until a time. */
export type SetupVersion = z.output<typeof versionRow>;

/** What was set up, before it was changed, the oldest first. */
export const listSetupVersions = (db: Db, siteId: number): Promise<SetupVersion[]> =>
	read(
		db,
		versionRow,
		`SELECT station_id AS "stationId", system_id AS "systemId", instrument_id AS "instrumentId", until, volume_l AS "volumeL", ranges, kind,
			of_system_id AS "ofSystemId", instrument
		FROM setup_version WHERE site_id = $1 ORDER BY until, id`,
		[siteId],
	);

export async function insertSetupVersion(db: Db, siteId: number, v: SetupVersion): Promise<void> {
	await db.query(
		`INSERT INTO setup_version (site_id, station_id, system_id, instrument_id, until, volume_l, ranges, kind, of_system_id, instrument)
		VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10)`,
		[
			siteId,
			v.stationId,
			v.systemId,
			v.instrumentId,
			new Date(v.until),
			v.volumeL,
			v.ranges,
			v.kind,
			v.ofSystemId,
			v.instrument,
		],
	);
}

/**
 * It has been as it is now since a time: what it was at that time it was until then, and nothing of what it was later.
 * @returns whether it had been changed since
 */
export async function endSetupVersions(
	db: Db,
	siteId: number,
	of: Pick<SetupVersion, 'stationId' | 'systemId' | 'instrumentId'>,
	since: number,
): Promise<boolean> {
	const { rowCount } = await db.query(
		`WITH later AS (SELECT id, row_number() OVER (ORDER BY until, id) AS n FROM setup_version WHERE site_id = $1
				AND station_id IS NOT DISTINCT FROM $2 AND system_id IS NOT DISTINCT FROM $3 AND instrument_id IS NOT DISTINCT FROM $4 AND until > $5),
			gone AS (DELETE FROM setup_version v USING later WHERE v.site_id = $1 AND v.id = later.id AND n > 1)
		UPDATE setup_version v SET until = $5 FROM later WHERE v.site_id = $1 AND v.id = later.id AND n = 1`,
		[siteId, of.stationId, of.systemId, of.instrumentId, new Date(since)],
	);
	return (rowCount ?? 0) > 0;
}

/** It was always as it is now. */
export async function forgetSetupVersions(
	db: Db,
	siteId: number,
	of: Pick<SetupVersion, 'stationId' | 'systemId' | 'instrumentId'>,
): Promise<void> {
	await db.query(
		`DELETE FROM setup_version WHERE site_id = $1 AND station_id IS NOT DISTINCT FROM $2 AND system_id IS NOT DISTINCT FROM $3
			AND instrument_id IS NOT DISTINCT FROM $4`,
		[siteId, of.stationId, of.systemId, of.instrumentId],
	);
}

/** Whether anything was read, or logged, at stations of a site, or read by an instrument, before a time. */
export async function anythingBefore(
	db: Db,
	siteId: number,
	of: { stationIds?: readonly number[]; instrumentId?: number },
	at: number,
): Promise<boolean> {
	const rows = await read(
		db,
		z.strictObject({ any: z.boolean() }),
		`SELECT EXISTS (SELECT 1 FROM reading WHERE site_id = $1 AND (station_id = ANY($2) OR instrument_id = $3) AND at < $4)
			OR EXISTS (SELECT 1 FROM event WHERE site_id = $1 AND station_id = ANY($2) AND at < $4)
			OR EXISTS (SELECT 1 FROM calibration WHERE site_id = $1 AND instrument_id = $3 AND at < $4)
			OR EXISTS (SELECT 1 FROM series WHERE site_id = $1 AND (station_id = ANY($2) OR instrument_id = $3)) AS any`,
		[siteId, of.stationIds ?? [], of.instrumentId ?? null, new Date(at)],
	);
	return rows[0]!.any;
}
