import { z } from 'zod';
import type { Db } from './pool';
import { idRow, json, read, time } from './read';
import { putRows } from './rows';

/** One product of a recipe. */
const part = z.strictObject({
	product: z.string(),
	/** mL or g of each bottle for each litre at full strength; null: the label’s own rate. */
	perL: z.number().nullable(),
	scales: z.boolean(),
	waitMin: z.number(),
	/** Empty: by its bottle, or by what is in it. */
	stockTank: z.string(),
});
export type RecipePart = z.output<typeof part>;

/** A mixing that is made again: what goes in, how strong, and what it should come to. */
const recipeRow = z.strictObject({
	id: z.number(),
	name: z.string(),
	parts: z.array(part),
	/** Code of the source or blend; null where any will do. */
	water: z.string().nullable(),
	/** One of the two is set. */
	targetEcUsCm: z.number().nullable(),
	strength: z.number().nullable(),
	/** Target EC by stage, µS/cm. */
	stages: json<Record<string, number>>(),
	/** Parts of feed for one of stock; null where it is mixed in the tank. */
	injector: z.number().nullable(),
	targetPh: z.number().nullable(),
	phFirst: z.boolean(),
	note: z.string(),
	changedAt: time,
});
export type RecipeRow = z.output<typeof recipeRow>;

export const listRecipes = (db: Db, siteId: number): Promise<RecipeRow[]> =>
	read(
		db,
		recipeRow,
		`SELECT r.id, r.name, s.code AS water, r.target_ec AS "targetEcUsCm", r.strength, r.stages, r.injector,
			r.target_ph AS "targetPh", r.ph_first AS "phFirst", r.note, r.changed_at AS "changedAt",
			coalesce((SELECT jsonb_agg(jsonb_build_object('product', p.name, 'perL', x.per_l, 'scales', x.scales, 'waitMin', x.wait_min,
				'stockTank', x.stock_tank) ORDER BY x.position)
				FROM recipe_part x JOIN product p ON p.site_id = x.site_id AND p.id = x.product_id
				WHERE x.site_id = r.site_id AND x.recipe_id = r.id), '[]') AS parts
		FROM recipe r LEFT JOIN station s ON s.site_id = r.site_id AND s.id = r.water_id
		WHERE r.site_id = $1 AND NOT r.retired ORDER BY lower(r.name)`,
		[siteId],
	);

/** Keeps a recipe under its name; one of the same name is changed, its parts with it. */
export async function putRecipe(
	db: Db,
	siteId: number,
	r: Omit<RecipeRow, 'id' | 'changedAt' | 'parts' | 'water'> & {
		parts: readonly (Omit<RecipePart, 'product'> & { productId: number })[];
		waterId: number | null;
		at: number;
	},
): Promise<void> {
	const [kept] = await read(
		db,
		idRow,
		`INSERT INTO recipe (site_id, name, water_id, target_ec, strength, target_ph, ph_first, note, changed_at, stages, injector)
		VALUES ($1,$2,$3,$4,$5,$6,$7,$8,$9,$10,$11)
		ON CONFLICT (site_id, name) DO UPDATE SET water_id = EXCLUDED.water_id, target_ec = EXCLUDED.target_ec,
			strength = EXCLUDED.strength, target_ph = EXCLUDED.target_ph, ph_first = EXCLUDED.ph_first, note = EXCLUDED.note,
			changed_at = EXCLUDED.changed_at, stages = EXCLUDED.stages, injector = EXCLUDED.injector, retired = false
		RETURNING id`,
		[
			siteId,
			r.name,
			r.waterId,
			r.targetEcUsCm,
			r.strength,
			r.targetPh,
			r.phFirst,
			r.note,
			new Date(r.at),
			JSON.stringify(r.stages),
			r.injector,
		],
	);
	await db.query('DELETE FROM recipe_part WHERE site_id = $1 AND recipe_id = $2', [siteId, kept!.id]);
	await putRows(
		db,
		'recipe_part',
		'site_id, recipe_id, position, product_id, per_l, scales, wait_min, stock_tank',
		r.parts.map((p, i) => [siteId, kept!.id, i, p.productId, p.perL, p.scales, p.waitMin, p.stockTank]),
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
