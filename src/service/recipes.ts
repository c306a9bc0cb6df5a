import type { Db } from '@/store/pool';
import { putRecipe, type RecipeRow, retireRecipe } from '@/store/recipes';
import { insertAudit } from '@/store/site';
import { writing } from '@/store/writing';
import { requireFeeds } from './products';
import { Refusal } from './refusal';
import type { SiteContext } from './site';

/** Keeps a recipe under its name, or changes the one that has it. */
export async function saveRecipe(
	db: Db,
	context: SiteContext,
	r: Omit<RecipeRow, 'id' | 'changedAt'>,
	now: number,
	who: string,
): Promise<void> {
	const products = await requireFeeds(db, context, r.parts, 'parts');
	const water = r.water === null ? null : context.stations.find((s) => s.code === r.water);
	if (water === undefined)
		throw new Refusal('unknown-station', [{ path: 'water', message: `There is no station “${r.water}”.` }]);
	await writing(db, async (client) => {
		await putRecipe(client, context.site.id, {
			...r,
			parts: r.parts.map((p, i) => ({ ...p, productId: products[i]!.id })),
			waterId: water?.id ?? null,
			at: now,
		});
		await insertAudit(client, context.site.id, who, 'recipe.saved', r.name, r);
	});
}

/** Puts a recipe away. */
export async function putAwayRecipe(db: Db, context: SiteContext, name: string, who: string): Promise<void> {
	await writing(db, async (client) => {
		if (!(await retireRecipe(client, context.site.id, name)))
			throw new Refusal('unknown-recipe', [{ path: 'name', message: `There is no recipe “${name}”.` }]);
		await insertAudit(client, context.site.id, who, 'recipe.put-away', name, {});
	});
}
