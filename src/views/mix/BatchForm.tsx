import type { BatchPlan, StoredBatch } from '@/contract/batches';
import type { KnownWater, Tank } from '@/contract/pages';
import type { Product, Recipe } from '@/contract/products';
import type { DisplayUnits } from '@/core/reading/site-view';
import { BatchFields } from './BatchFields';
import { BatchSheet } from './BatchSheet';
import type { BatchDraft } from './batch-draft';
import { asBatchPlan, contentOf, planDraft } from './batch-plan';
import { Contents } from './Contents';
import { FeedList } from './FeedList';
import { KeepRecipe } from './KeepRecipe';
import { PlanWords } from './PlanWords';
import { WHY_PH_FIRST, WHY_PH_LAST } from './words';

/** Plans a batch: what goes in and what it should come to, before anything is poured. */
export function BatchForm({
	units,
	draft: d,
	onChange,
	tanks,
	products,
	waters,
	recipes,
	batches,
	onBegin,
	onRecipe,
}: {
	units: DisplayUnits;
	draft: BatchDraft;
	onChange: (d: BatchDraft) => void;
	tanks: Tank[];
	products: Product[];
	waters: KnownWater[];
	recipes: Recipe[];
	batches: StoredBatch[];
	onBegin: (station: string, plan: BatchPlan) => void;
	onRecipe: (r: Recipe) => void;
}) {
	const feeds = products.filter((p) => p.kind === 'nutrient');
	const set = (change: Partial<BatchDraft>) => onChange({ ...d, ...change });
	const planned = planDraft(d, { units, tanks, products, waters, batches });
	const { plan, tank, water, litres, wrong } = planned;
	const recipe = recipes.find((r) => r.name === d.recipe);
	return (
		<div>
			<form
				className="no-print"
				onSubmit={(e) => {
					e.preventDefault();
					if (plan) onBegin(d.tank, asBatchPlan(d, planned));
				}}
			>
				<div className="flex flex-wrap gap-2 items-end">
					<BatchFields
						draft={d}
						units={units}
						tanks={tanks}
						products={products}
						waters={waters}
						recipes={recipes}
						targetEcUsCm={planned.targetEcUsCm}
						onChange={onChange}
					/>
					<FeedList parts={d.parts} products={feeds} onChange={(parts) => set({ parts })} />
				</div>
				<div className="lg:grid lg:grid-cols-[1fr_24rem] lg:gap-x-10">
					<div aria-live="polite">
						{wrong.map((w) => (
							<p key={w} className="text-error mt-1">
								{w}
							</p>
						))}
						{plan && (
							<PlanWords
								plan={plan}
								products={products}
								litres={litres!}
								learned={planned.learned}
								waterEcUsCm={water!.ecUsCm}
								units={units}
							/>
						)}
						{products
							.filter((p) => d.parts.some((x) => x.product === p.name))
							.flatMap((p) =>
								p.bottle.map((w) => (
									<p key={`${p.name}${w}`} className="border-l-4 border-warning pl-2 mt-1" data-bottle>
										{p.name}: {w}
									</p>
								)),
							)}
						<button type="submit" className="act act-main mt-2" disabled={!plan}>
							The tank is filled: begin
						</button>
					</div>
					{plan && <Contents feed={contentOf(plan.pours, products)} water={water} />}
				</div>
			</form>
			{plan && (
				<>
					<div className="no-print">
						<div className="flex flex-wrap gap-2 items-end mt-2">
							<button type="button" className="act !font-normal" onClick={() => print()}>
								Print a batch sheet
							</button>
							<KeepRecipe
								key={d.recipe}
								draft={d}
								planned={planned}
								kept={recipe}
								units={units}
								onKept={(r) => {
									onRecipe(r);
									set({ recipe: r.name });
								}}
							/>
						</div>
					</div>
					<BatchSheet
						title={`${d.recipe || d.parts.map((p) => p.product).join(' + ')}, ${tank!.name}`}
						draft={d}
						plan={plan}
						litres={litres!}
						places={{ tank: tank!.name, water: water!.name }}
						products={products}
						units={units}
					/>
				</>
			)}
			<p className="text-soft text-[0.9rem] mt-2 max-w-[75ch] no-print">{d.phFirst ? WHY_PH_FIRST : WHY_PH_LAST}</p>
		</div>
	);
}
