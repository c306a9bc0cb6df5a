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

export interface BatchRow {
	id: number;
	station: string;
	startedAt: number;
	finishedAt: number | null;
	name: string;
	plan: BatchPlan;
	log: BatchStep[];
}

/** A recipe as it was planned, per litre so that it can be scaled. */
export interface BatchPlan {
	litres: number;
	water: string | null;
	waterEcUsCm: number;
	product: string;
	mlPerL: number;
	parts: number;
	targetEcUsCm: number | null;
	targetPh: number | null;
}
export interface BatchStep {
	at: number;
	step: 'filled' | 'part' | 'ec' | 'diluted' | 'fed' | 'dosed' | 'ph' | 'done';
	expected: number | null;
	measured: number | null;
	words: string;
}

const BATCH = `b.id, s.code AS station, ${MS('b.started_at')} AS "startedAt", ${MS('b.finished_at')} AS "finishedAt", b.name, b.plan, b.log`;

export async function insertBatch(
	db: Db,
	siteId: number,
	b: { stationId: number; at: number; name: string; plan: BatchPlan; who: string },
): Promise<number> {
	const { rows } = await db.query<{ id: number }>(
		'INSERT INTO batch (site_id, station_id, started_at, name, plan, entered_by) VALUES ($1,$2,$3,$4,$5,$6) RETURNING id',
		[siteId, b.stationId, new Date(b.at), b.name, b.plan, b.who],
	);
	return rows[0]!.id;
}

/** Adds what a step showed; `done` ends the batch. Null when there is no such batch or it is finished. */
export async function addBatchStep(db: Db, siteId: number, id: number, step: BatchStep): Promise<number | null> {
	const { rows } = await db.query<{ id: number }>(
		`UPDATE batch SET log = log || $3::jsonb, finished_at = CASE WHEN $4 THEN $5 ELSE finished_at END
		WHERE site_id = $1 AND id = $2 AND finished_at IS NULL RETURNING id`,
		[siteId, id, JSON.stringify([step]), step.step === 'done', new Date(step.at)],
	);
	return rows[0]?.id ?? null;
}

/** Newest first. */
export async function listBatches(db: Db, siteId: number, limit: number): Promise<BatchRow[]> {
	const { rows } = await db.query<BatchRow>(
		`SELECT ${BATCH} FROM batch b JOIN station s ON s.site_id = b.site_id AND s.id = b.station_id
		WHERE b.site_id = $1 ORDER BY b.started_at DESC, b.id DESC LIMIT ${Math.trunc(limit)}`,
		[siteId],
	);
	return rows;
}
