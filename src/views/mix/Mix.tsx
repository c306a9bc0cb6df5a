import { useState } from 'react';
import type { StoredBatch } from '@/contract/batches';
import type { KnownWater, Tank } from '@/contract/pages';
import type { Product, Recipe } from '@/contract/products';
import { decimal } from '@/core/quantity';
import type { SiteView } from '@/core/reading/site-view';
import { useEngine } from '../data/engine';
import { type Held, unheld } from '../data/held';
import { Choice, Text } from '../setup/fields';
import { Batch } from './Batch';
import { Dose } from './Dose';
import { Products } from './Products';
import { Recipes } from './Recipes';
import { TankTable } from './TankTable';
import { TopUpTool } from './TopUpTool';

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
	const [part, setPart] = useState<Part>((PARTS as readonly string[]).includes(asked ?? '') ? (asked as Part) : 'dose');
	const acids = products.filter((p) => p.kind !== 'nutrient');
	const [tankCode, setTankCode] = useState(tanks[0]?.code ?? '');
	const tank = tanks.find((t) => t.code === tankCode);
	const [acid, setAcid] = useState(acids.find((a) => a.kind === 'acid')?.name ?? acids[0]?.name ?? '');
	const product = acids.find((a) => a.name === acid);
	const middle = (t: Tank | undefined) => (t?.phRange ? ((t.phRange[0] + t.phRange[1]) / 2).toFixed(1) : '5.8');
	const [target, setTarget] = useState(middle(tank));
	const goal = decimal(target.trim());
	return (
		<div>
			<h1>Mix</h1>
			<div className="flex flex-wrap gap-5 my-2 no-print" role="tablist" aria-label="What to mix">
				{PARTS.map((p) => (
					<button
						key={p}
						type="button"
						role="tab"
						aria-selected={part === p}
						data-part-tab={p}
						className={`cursor-pointer min-h-10 border-b-[3px] ${part === p ? 'border-base-content font-bold' : 'border-transparent text-soft'}`}
						onClick={() => {
							setPart(p);
							history.replaceState(null, '', `?part=${p}`);
						}}
					>
						{WORDS[p]}
					</button>
				))}
			</div>
			{part === 'dose' &&
				(tank && product ? (
					<section className="note-rule">
						<div className="flex flex-wrap gap-2 items-end mb-3">
							<Choice
								label="tank"
								width="w-44"
								value={tankCode}
								options={tanks.map((t) => t.code)}
								labels={Object.fromEntries(tanks.map((t) => [t.code, t.name]))}
								onChange={(v) => {
									setTankCode(v);
									setTarget(middle(tanks.find((t) => t.code === v)));
								}}
							/>
							<Choice label="with" width="w-40" value={acid} options={acids.map((a) => a.name)} onChange={setAcid} />
							<Text label="to pH" width="w-20" mode="decimal" value={target} onChange={setTarget} />
						</div>
						{goal !== undefined && (
							<Dose
								key={`${tankCode}${acid}`}
								site={site}
								engine={engine}
								tank={tank}
								product={product}
								targetPh={goal}
							/>
						)}
						<p className="text-soft text-[0.9rem] mt-4 max-w-[75ch]">
							Bring EC right before pH. A dose undershoots on purpose: what is missing is added after measuring, what is
							too much is hard to take back. Young plants move their bucket less than large ones do.
						</p>
					</section>
				) : (
					<p>
						{tanks.length === 0
							? 'There is no tank yet: add one in Setup.'
							: 'Add an acid or a base under Products, with what its label says.'}
					</p>
				))}
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
					<TankTable site={site} engine={engine} tanks={tanks} products={products} waters={waters} batches={batches} />
				</section>
			)}
			{part === 'products' && (
				<section className="note-rule">
					<Products site={site} products={shelf} onChange={setShelf} />
				</section>
			)}
		</div>
	);
}
