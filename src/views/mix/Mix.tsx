import { Suspense, useState } from 'react';
import type { StoredBatch } from '@/contract/batches';
import type { KnownWater, Tank } from '@/contract/pages';
import type { Product, Recipe } from '@/contract/products';
import type { SiteView } from '@/core/reading/site-view';
import { useEngine } from '../data/engine';
import { type Held, unheld } from '../data/held';
import { later } from '../ui/later';

const TankDose = later(() => import('./TankDose'));
const Batch = later(() => import('./Batch'));
const Recipes = later(() => import('./Recipes'));
const TopUpTool = later(() => import('./TopUpTool'));
const TankTable = later(() => import('./TankTable'));
const Products = later(() => import('./Products'));

const PARTS = ['dose', 'batch', 'recipes', 'top-up', 'tanks', 'products'] as const;
type Part = (typeof PARTS)[number];
const WORDS: Record<Part, string> = {
	dose: 'pH of one tank',
	batch: 'a batch',
	recipes: 'recipes',
	'top-up': 'top up',
	tanks: 'several tanks',
	products: 'products',
};

/** Water into solution: a batch from empty to plants, and pH in few learned steps. */
export function Mix({
	site: held,
	tanks,
	products: first,
	waters,
	recipes,
	batches,
	asked,
	askedRecipe,
}: {
	site: Held<SiteView>;
	tanks: Tank[];
	products: Product[];
	waters: KnownWater[];
	recipes: Recipe[];
	batches: StoredBatch[];
	asked: string | null;
	askedRecipe: string | null;
}) {
	const site = unheld(held);
	const engine = useEngine(
		site,
		tanks.map((t) => t.code),
	);
	const [shelf, setShelf] = useState(first);
	const products = shelf.filter((p) => !p.retired);
	const part = PARTS.find((p) => p === asked) ?? 'dose';
	return (
		<div>
			<h1>Mix</h1>
			<nav className="flex flex-wrap gap-x-5 my-2 no-print" aria-label="What to mix">
				{PARTS.map((p) => (
					<a
						key={p}
						href={`/mix?part=${p}`}
						aria-current={part === p ? 'page' : undefined}
						data-part={p}
						className={`min-h-11 flex items-center border-b-[3px] ${part === p ? 'border-base-content font-bold' : 'border-transparent text-soft hover:text-base-content'}`}
					>
						{WORDS[p]}
					</a>
				))}
			</nav>
			<Suspense fallback={<p className="text-soft">…</p>}>
				{part === 'dose' && (
					<section className="note-rule">
						<TankDose site={site} engine={engine} tanks={tanks} products={products} />
					</section>
				)}
				{part === 'batch' && (
					<section className="note-rule">
						<Batch
							site={site}
							engine={engine}
							tanks={tanks}
							products={products}
							waters={waters}
							recipes={recipes}
							batches={batches}
							askedRecipe={askedRecipe}
						/>
					</section>
				)}
				{part === 'recipes' && (
					<section className="note-rule">
						<Recipes units={site.units} recipes={recipes} products={products} waters={waters} batches={batches} />
					</section>
				)}
				{part === 'top-up' && (
					<section className="note-rule">
						<TopUpTool
							units={site.units}
							engine={engine}
							tanks={tanks}
							products={products}
							waters={waters}
							batches={batches}
						/>
					</section>
				)}
				{part === 'tanks' && (
					<section className="note-rule">
						<TankTable
							site={site}
							engine={engine}
							tanks={tanks}
							products={products}
							waters={waters}
							batches={batches}
						/>
					</section>
				)}
				{part === 'products' && (
					<section className="note-rule">
						<Products site={site} products={shelf} onChange={setShelf} />
					</section>
				)}
			</Suspense>
		</div>
	);
}
