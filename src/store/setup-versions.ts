import { z } from 'zod';
import type { Quantity } from '@/core/quantity';
import type { Db } from './pool';
import { json, read, time } from './read';

const versionRow = z.strictObject({
	stationId: z.number().nullable(),
	systemId: z.number().nullable(),
	until: time,
	volumeL: z.number().nullable(),
	ranges: json<Partial<Record<Quantity, [number, number]>>>().nullable(),
});
/** What a station or a system was until a time. */
export type SetupVersion = z.output<typeof versionRow>;

/** What stations and systems were before they were changed, the oldest first. */
export const listSetupVersions = (db: Db, siteId: number): Promise<SetupVersion[]> =>
	read(
		db,
		versionRow,
		'SELECT station_id AS "stationId", system_id AS "systemId", until, volume_l AS "volumeL", ranges FROM setup_version WHERE site_id = $1 ORDER BY until, id',
		[siteId],
	);

export async function insertSetupVersion(db: Db, siteId: number, v: SetupVersion): Promise<void> {
	await db.query(
		'INSERT INTO setup_version (site_id, station_id, system_id, until, volume_l, ranges) VALUES ($1, $2, $3, $4, $5, $6)',
		[siteId, v.stationId, v.systemId, new Date(v.until), v.volumeL, v.ranges],
	);
}

/** It was always as it is now. */
export async function forgetSetupVersions(
	db: Db,
	siteId: number,
	of: Pick<SetupVersion, 'stationId' | 'systemId'>,
): Promise<void> {
	await db.query(
		'DELETE FROM setup_version WHERE site_id = $1 AND station_id IS NOT DISTINCT FROM $2 AND system_id IS NOT DISTINCT FROM $3',
		[siteId, of.stationId, of.systemId],
	);
}

/** Whether anything was read, or logged, at stations of a site before a time. */
export async function anythingBefore(
	db: Db,
	siteId: number,
	stationIds: readonly number[],
	at: number,
): Promise<boolean> {
	const rows = await read(
		db,
		z.strictObject({ any: z.boolean() }),
		`SELECT EXISTS (SELECT 1 FROM reading WHERE site_id = $1 AND station_id = ANY($2) AND at < $3)
			OR EXISTS (SELECT 1 FROM event WHERE site_id = $1 AND station_id = ANY($2) AND at < $3) AS any`,
		[siteId, stationIds, new Date(at)],
	);
	return rows[0]!.any;
}
