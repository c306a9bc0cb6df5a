import { z } from 'zod';
import type { Db } from './pool';
import { read, time } from './read';

const productRow = z.strictObject({
	id: z.number(),
	name: z.string(),
	kind: z.enum(['nutrient', 'acid', 'base']),
	chemical: z.string(),
	percentWw: z.number().nullable(),
	densityGMl: z.number().nullable(),
	jugMeqMl: z.number().nullable(),
	parts: z.number(),
	rateMlL: z.number().nullable(),
	gainUsCm: z.number().nullable(),
	/** How it is measured: rate, gain and stock are in millilitres or in grams. */
	unit: z.enum(['mL', 'g']),
	/** The label's own words. */
	rateText: z.string(),
	/** Of each part, when it was counted. */
	stockMl: z.number().nullable(),
	stockAt: time.nullable(),
	opened: z.string().nullable(),
	keepsDays: z.number().nullable(),
	expires: z.string().nullable(),
	note: z.string(),
	/** What its label says is in it. */
	analysis: z.string(),
	retired: z.boolean(),
});
export type ProductRow = z.output<typeof productRow>;

const PRODUCT = `id, name, kind, chemical, percent_ww AS "percentWw", density_g_ml AS "densityGMl", jug_meq_ml AS "jugMeqMl", parts,
	rate_ml_l AS "rateMlL", gain_us_cm AS "gainUsCm", unit, rate_text AS "rateText", stock_ml AS "stockMl", stock_at AS "stockAt",
	opened::text AS opened, keeps_days AS "keepsDays", expires::text AS expires, note,
	analysis, retired_at IS NOT NULL AS retired`;

export async function listProducts(db: Db, siteId: number): Promise<ProductRow[]> {
	const rows = await read(db, productRow, `SELECT ${PRODUCT} FROM product WHERE site_id = $1 ORDER BY kind, name`, [
		siteId,
	]);
	return rows;
}

/** Makes a product or brings the one with this name to the given state. */
export async function putProduct(db: Db, siteId: number, p: Omit<ProductRow, 'id'>): Promise<ProductRow> {
	const rows = await read(
		db,
		productRow,
		`INSERT INTO product (site_id, name, kind, chemical, percent_ww, density_g_ml, jug_meq_ml, parts, rate_ml_l, gain_us_cm, stock_ml, opened, note,
			unit, rate_text, stock_at, keeps_days, expires, analysis, retired_at)
		VALUES ($1,$2,$3,$4,$5,$6,$7,$8,$9,$10,$11,$12,$13,$14,$15,$16,$17,$18,$19,CASE WHEN $20 THEN now() END)
		ON CONFLICT (site_id, name) DO UPDATE SET kind = EXCLUDED.kind, chemical = EXCLUDED.chemical, percent_ww = EXCLUDED.percent_ww,
			density_g_ml = EXCLUDED.density_g_ml, jug_meq_ml = EXCLUDED.jug_meq_ml, parts = EXCLUDED.parts, rate_ml_l = EXCLUDED.rate_ml_l,
			gain_us_cm = EXCLUDED.gain_us_cm, stock_ml = EXCLUDED.stock_ml, opened = EXCLUDED.opened, note = EXCLUDED.note,
			unit = EXCLUDED.unit, rate_text = EXCLUDED.rate_text, stock_at = EXCLUDED.stock_at, keeps_days = EXCLUDED.keeps_days, expires = EXCLUDED.expires,
			analysis = EXCLUDED.analysis, retired_at = CASE WHEN $20 THEN coalesce(product.retired_at, now()) END
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
			p.unit,
			p.rateText,
			p.stockAt === null ? null : new Date(p.stockAt),
			p.keepsDays,
			p.expires,
			p.analysis,
			p.retired,
		],
	);
	return rows[0]!;
}

/** What was poured of each product since its stock was counted, as events: amount, unit and note. */
export async function listPoured(
	db: Db,
	siteId: number,
): Promise<{ product: string; at: number; amount: number; unit: string; note: string }[]> {
	const rows = await read(
		db,
		z.strictObject({ product: z.string(), at: time, amount: z.number(), unit: z.string(), note: z.string() }),
		`SELECT p.name AS product, e.at AS at, e.amount, e.unit_text AS unit, e.note
		FROM product p JOIN event_current e ON e.site_id = p.site_id AND lower(e.product) = lower(p.name)
		WHERE p.site_id = $1 AND p.stock_at IS NOT NULL AND e.at >= p.stock_at AND e.amount IS NOT NULL
			AND e.kind IN ('nutrient_added', 'acid_added', 'base_added') ORDER BY e.at`,
		[siteId],
	);
	return rows;
}

/** A jug titration as it was noted. */
const jugRow = z.strictObject({
	at: time,
	litres: z.number(),
	steps: z.array(z.strictObject({ ml: z.number(), ph: z.number() })),
});
export type JugRow = z.output<typeof jugRow>;

export async function insertJug(
	db: Db,
	siteId: number,
	j: JugRow & { stationId: number | null; productId: number; who: string },
): Promise<void> {
	await db.query(
		'INSERT INTO jug_titration (site_id, station_id, product_id, at, litres, steps, entered_by) VALUES ($1,$2,$3,$4,$5,$6,$7)',
		[siteId, j.stationId, j.productId, new Date(j.at), j.litres, JSON.stringify(j.steps), j.who],
	);
}

/** Titrations of a tank's solution with a product since a time, oldest first. */
export async function listJugs(
	db: Db,
	siteId: number,
	q: { stationId: number; productId: number; from: number },
): Promise<JugRow[]> {
	const rows = await read(
		db,
		jugRow,
		`SELECT at AS at, litres, steps FROM jug_titration
		WHERE site_id = $1 AND station_id = $2 AND product_id = $3 AND at >= $4 ORDER BY at, id`,
		[siteId, q.stationId, q.productId, new Date(q.from)],
	);
	return rows;
}
