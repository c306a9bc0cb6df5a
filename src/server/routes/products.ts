import { products as resource } from '@/contract/products';
import { changeProduct, productList } from '@/service/products';
import { putAwayRecipe, saveRecipe } from '@/service/recipes';
import { requireSite } from '@/service/site';
import { listRecipes } from '@/store/mix';
import { handle } from '../dispatch';

export const products = handle(resource, {
	'GET /products': async ({ pool, now }) => ({ products: await productList(pool(), await requireSite(pool()), now) }),
	'POST /products': async ({ body, pool, now, who }) =>
		changeProduct(pool(), await requireSite(pool()), body, now, who),
	'GET /recipes': async ({ pool }) => ({
		recipes: await listRecipes(pool(), (await requireSite(pool())).site.id),
	}),
	'POST /recipes': async ({ body, pool, now, who }) => {
		await saveRecipe(pool(), await requireSite(pool()), body, now, who);
		return { ok: true };
	},
	'POST /recipes/put-away': async ({ body, pool, who }) => {
		await putAwayRecipe(pool(), await requireSite(pool()), body.name, who);
		return { ok: true };
	},
});
