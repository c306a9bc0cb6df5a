import type { Db } from './pool';

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
	/** How it is measured: rate, gain and stock are in millilitres or in grams. */
	unit: 'mL' | 'g';
	/** The label's own words. */
	rateText: string;
	/** Of each part, when it was counted. */
	stockMl: number | null;
	stockAt: number | null;
	opened: string | null;
	keepsDays: number | null;
	expires: string | null;
	note: string;
}

const PRODUCT = `id, name, kind, chemical, percent_ww AS "percentWw", density_g_ml AS "densityGMl", jug_meq_ml AS "jugMeqMl", parts,
	rate_ml_l AS "rateMlL", gain_us_cm AS "gainUsCm", unit, rate_text AS "rateText", stock_ml AS "stockMl", stock_at AS "stockAt",
	opened::text AS opened, keeps_days AS "keepsDays", expires::text AS expires, note`;

export async function listProducts(db: Db, siteId: number): Promise<ProductRow[]> {
	const { rows } = await db.query<ProductRow>(`SELECT ${PRODUCT} FROM product WHERE site_id = $1 ORDER BY kind, name`, [
		siteId,
	]);
	return rows;
}

/** Makes a product or brings the one with this name to the given state. */
export async function putProduct(db: Db, siteId: number, p: Omit<ProductRow, 'id'>): Promise<ProductRow> {
	const { rows } = await db.query<ProductRow>(
		`INSERT INTO product (site_id, name, kind, chemical, percent_ww, density_g_ml, jug_meq_ml, parts, rate_ml_l, gain_us_cm, stock_ml, opened, note,
			unit, rate_text, stock_at, keeps_days, expires)
		VALUES ($1,$2,$3,$4,$5,$6,$7,$8,$9,$10,$11,$12,$13,$14,$15,$16,$17,$18)
		ON CONFLICT (site_id, name) DO UPDATE SET kind = EXCLUDED.kind, chemical = EXCLUDED.chemical, percent_ww = EXCLUDED.percent_ww,
			density_g_ml = EXCLUDED.density_g_ml, jug_meq_ml = EXCLUDED.jug_meq_ml, parts = EXCLUDED.parts, rate_ml_l = EXCLUDED.rate_ml_l,
			gain_us_cm = EXCLUDED.gain_us_cm, stock_ml = EXCLUDED.stock_ml, opened = EXCLUDED.opened, note = EXCLUDED.note,
			unit = EXCLUDED.unit, rate_text = EXCLUDED.rate_text, stock_at = EXCLUDED.stock_at, keeps_days = EXCLUDED.keeps_days, expires = EXCLUDED.expires
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
		],
	);
	return rows[0]!;
}

/** What was poured of each product since its stock was counted, as events: amount, unit and note. */
export async function listPoured(
	db: Db,
	siteId: number,
): Promise<{ product: string; at: number; amount: number; unit: string; note: string }[]> {
	const { rows } = await db.query<{ product: string; at: number; amount: number; unit: string; note: string }>(
		`SELECT p.name AS product, e.at AS at, e.amount, e.unit_text AS unit, e.note
		FROM product p JOIN event_current e ON e.site_id = p.site_id AND lower(e.product) = lower(p.name)
		WHERE p.site_id = $1 AND p.stock_at IS NOT NULL AND e.at >= p.stock_at AND e.amount IS NOT NULL
			AND e.kind IN ('nutrient_added', 'acid_added', 'base_added') ORDER BY e.at`,
		[siteId],
	);
	return rows;
}

/** A jug titration as it was noted. */
export interface JugRow {
	at: number;
	litres: number;
	steps: { ml: number; ph: number }[];
}

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
	const { rows } = await db.query<JugRow>(
		`SELECT at AS at, litres, steps FROM jug_titration
		WHERE site_id = $1 AND station_id = $2 AND product_id = $3 AND at >= $4 ORDER BY at, id`,
		[siteId, q.stationId, q.productId, new Date(q.from)],
	);
	return rows;
}

/** A mixing that is made again: what goes in, how strong, and what it should come to. */
export interface RecipeRow {
	id: number;
	name: string;
	product: string;
	/** Code of the source or blend; null where any will do. */
	water: string | null;
	/** One of the two is set. */
	targetEcUsCm: number | null;
	strength: number | null;
	targetPh: number | null;
	phFirst: boolean;
	note: string;
	changedAt: number;
}

export async function listRecipes(db: Db, siteId: number): Promise<RecipeRow[]> {
	const { rows } = await db.query<RecipeRow>(
		`SELECT r.id, r.name, p.name AS product, s.code AS water, r.target_ec AS "targetEcUsCm", r.strength, r.target_ph AS "targetPh",
			r.ph_first AS "phFirst", r.note, r.changed_at AS "changedAt"
		FROM recipe r JOIN product p ON p.site_id = r.site_id AND p.id = r.product_id
			LEFT JOIN station s ON s.site_id = r.site_id AND s.id = r.water_id
		WHERE r.site_id = $1 AND NOT r.retired ORDER BY lower(r.name)`,
		[siteId],
	);
	return rows;
}

/** Keeps a recipe under its name; one of the same name is changed. */
export async function putRecipe(
	db: Db,
	siteId: number,
	r: Omit<RecipeRow, 'id' | 'changedAt' | 'product' | 'water'> & {
		productId: number;
		waterId: number | null;
		at: number;
	},
): Promise<void> {
	await db.query(
		`INSERT INTO recipe (site_id, name, product_id, water_id, target_ec, strength, target_ph, ph_first, note, changed_at)
		VALUES ($1,$2,$3,$4,$5,$6,$7,$8,$9,$10)
		ON CONFLICT (site_id, name) DO UPDATE SET product_id = EXCLUDED.product_id, water_id = EXCLUDED.water_id, target_ec = EXCLUDED.target_ec,
			strength = EXCLUDED.strength, target_ph = EXCLUDED.target_ph, ph_first = EXCLUDED.ph_first, note = EXCLUDED.note,
			changed_at = EXCLUDED.changed_at, retired = false`,
		[siteId, r.name, r.productId, r.waterId, r.targetEcUsCm, r.strength, r.targetPh, r.phFirst, r.note, new Date(r.at)],
	);
}

/** Puts a recipe away; its batches keep their plans. False when there is none of this name. */
export async function retireRecipe(db: Db, siteId: number, name: string): Promise<boolean> {
	const { rowCount } = await db.query(
		'UPDATE recipe SET retired = true WHERE site_id = $1 AND name = $2 AND NOT retired',
		[siteId, name],
	);
	return rowCount === 1;
}
