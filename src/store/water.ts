import type { Ions } from '@/core/water/ions';
import type { Db } from './pool';

const MS = (column: string) => `(extract(epoch FROM ${column}) * 1000)::double precision`;

export interface ReportRow {
	id: number;
	station: string;
	at: number;
	lab: string;
	ions: Ions & { b_mg_l?: number };
	ecUsCm: number | null;
	ph: number | null;
	note: string;
}

export async function insertReport(
	db: Db,
	siteId: number,
	r: Omit<ReportRow, 'id' | 'station'> & { stationId: number; who: string },
): Promise<number> {
	const { rows } = await db.query<{ id: number }>(
		`INSERT INTO water_report (site_id, station_id, at, lab, ions, ec_us_cm, ph, note, entered_by)
		VALUES ($1,$2,$3,$4,$5,$6,$7,$8,$9) RETURNING id`,
		[siteId, r.stationId, new Date(r.at), r.lab, r.ions, r.ecUsCm, r.ph, r.note, r.who],
	);
	return rows[0]!.id;
}

/** Newest first. */
export async function listReports(db: Db, siteId: number, station?: string): Promise<ReportRow[]> {
	const { rows } = await db.query<ReportRow>(
		`SELECT r.id, s.code AS station, ${MS('r.at')} AS at, r.lab, r.ions, r.ec_us_cm AS "ecUsCm", r.ph, r.note
		FROM water_report r JOIN station s ON s.site_id = r.site_id AND s.id = r.station_id
		WHERE r.site_id = $1 AND ($2::text IS NULL OR s.code = $2) ORDER BY r.at DESC, r.id DESC`,
		[siteId, station ?? null],
	);
	return rows;
}

export interface ProductRow {
	id: number;
	name: string;
	kind: 'nutrient' | 'acid' | 'base';
	chemical: string;
	percentWw: number | null;
	densityGMl: number | null;
	jugMeqMl: number | null;
	parts: number;
	rateMlL: number | null;
	gainUsCm: number | null;
	stockMl: number | null;
	opened: string | null;
	note: string;
}

const PRODUCT = `id, name, kind, chemical, percent_ww AS "percentWw", density_g_ml AS "densityGMl", jug_meq_ml AS "jugMeqMl", parts,
	rate_ml_l AS "rateMlL", gain_us_cm AS "gainUsCm", stock_ml AS "stockMl", opened::text AS opened, note`;

export async function listProducts(db: Db, siteId: number): Promise<ProductRow[]> {
	const { rows } = await db.query<ProductRow>(`SELECT ${PRODUCT} FROM product WHERE site_id = $1 ORDER BY kind, name`, [
		siteId,
	]);
	return rows;
}

/** Makes a product or brings the one with this name to the given state. */
export async function putProduct(db: Db, siteId: number, p: Omit<ProductRow, 'id'>): Promise<ProductRow> {
	const { rows } = await db.query<ProductRow>(
		`INSERT INTO product (site_id, name, kind, chemical, percent_ww, density_g_ml, jug_meq_ml, parts, rate_ml_l, gain_us_cm, stock_ml, opened, note)
		VALUES ($1,$2,$3,$4,$5,$6,$7,$8,$9,$10,$11,$12,$13)
		ON CONFLICT (site_id, name) DO UPDATE SET kind = EXCLUDED.kind, chemical = EXCLUDED.chemical, percent_ww = EXCLUDED.percent_ww,
			density_g_ml = EXCLUDED.density_g_ml, jug_meq_ml = EXCLUDED.jug_meq_ml, parts = EXCLUDED.parts, rate_ml_l = EXCLUDED.rate_ml_l,
			gain_us_cm = EXCLUDED.gain_us_cm, stock_ml = EXCLUDED.stock_ml, opened = EXCLUDED.opened, note = EXCLUDED.note
		RETURNING ${PRODUCT}`,
		[
			siteId,
			p.name,
			p.kind,
			p.chemical,
			p.percentWw,
			p.densityGMl,
			p.jugMeqMl,
			p.parts,
			p.rateMlL,
			p.gainUsCm,
			p.stockMl,
			p.opened,
			p.note,
		],
	);
	return rows[0]!;
}
