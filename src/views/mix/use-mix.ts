import type { StoredBatch } from '@/contract/batches';
import type { KnownWater, Tank } from '@/contract/pages';
import type { Product, Recipe } from '@/contract/products';
import type { SiteView } from '@/core/reading/site-view';
import { useEngine } from '../data/engine';
import { type Held, unheld } from '../data/held';

/** What the page hands to each part of Mix. */
export interface MixThings {
	site: Held<SiteView>;
	mix: Held<OnTheShelf>;
}
export interface OnTheShelf {
	tanks: Tank[];
	/** Retired ones too. */
	shelf: Product[];
	waters: KnownWater[];
	recipes: Recipe[];
	batches: StoredBatch[];
	askedRecipe: string | null;
}

/** The same for the part itself: the site, its engine, and what is on the shelf and in use. */
export function useMix({ site: held, mix }: MixThings) {
	const site = unheld(held);
	const things = unheld(mix);
	const engine = useEngine(
		site,
		things.tanks.map((t) => t.code),
	);
	return { ...things, site, units: site.units, engine, products: things.shelf.filter((p) => !p.retired) };
}
