import { z } from 'zod';
import type { Dissolved } from '@/core/water/ions';
import type { Db } from './pool';
import { idRow, json, read, time } from './read';

const reportRow = z.strictObject({
	id: z.number(),
	station: z.string(),
	at: time,
	lab: z.string(),
	ions: json<Dissolved>(),
	ecUsCm: z.number().nullable(),
	ph: z.number().nullable(),
	note: z.string(),
});
export type ReportRow = z.output<typeof reportRow>;

export async function insertReport(
	db: Db,
	siteId: number,
	r: Omit<ReportRow, 'id' | 'station'> & { stationId: number; who: string },
): Promise<number> {
	const rows = await read(
		db,
		idRow,
		`INSERT INTO water_report (site_id, station_id, at, lab, ions, ec_us_cm, ph, note, entered_by)
		VALUES ($1,$2,$3,$4,$5,$6,$7,$8,$9) RETURNING id`,
		[siteId, r.stationId, new Date(r.at), r.lab, r.ions, r.ecUsCm, r.ph, r.note, r.who],
	);
	return rows[0]!.id;
}

/** Newest first. */
export async function listReports(db: Db, siteId: number, station?: string): Promise<ReportRow[]> {
	const rows = await read(
		db,
		reportRow,
		`SELECT r.id, s.code AS station, r.at AS at, r.lab, r.ions, r.ec_us_cm AS "ecUsCm", r.ph, r.note
		FROM water_report r JOIN station s ON s.site_id = r.site_id AND s.id = r.station_id
		WHERE r.site_id = $1 AND ($2::text IS NULL OR s.code = $2) ORDER BY r.at DESC, r.id DESC`,
		[siteId, station ?? null],
	);
	return rows;
}
