import { products as resource } from '@/contract/products';
import { changeProduct, productList } from '@/service/products';
import { putAwayRecipe, saveRecipe } from '@/service/recipes';
import { listRecipes } from '@/store/recipes';
import { handle } from '../dispatch';

export const products = handle(resource, {
	'GET /products': async ({ db, site, now }) => ({ products: await productList(db, await site(), now) }),
	'POST /products': async ({ body, db, site, now, who }) => changeProduct(db, await site(), body, now, who),
	'GET /recipes': async ({ db, site }) => ({
		recipes: await listRecipes(db, (await site()).site.id),
	}),
	'POST /recipes': async ({ body, db, site, now, who }) => {
		await saveRecipe(db, await site(), body, now, who);
		return { ok: true };
	},
	'POST /recipes/put-away': async ({ body, db, site, who }) => {
		await putAwayRecipe(db, await site(), body.name, who);
		return { ok: true };
	},
});
