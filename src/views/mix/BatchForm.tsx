import type { BatchPlan, StoredBatch } from '@/contract/batches';
import type { KnownWater, Tank } from '@/contract/pages';
import type { Product, Recipe } from '@/contract/products';
import { STAGES, type Stage } from '@/core/mix/strength';
import type { DisplayUnits } from '@/core/reading/site-view';
import { Choice, Text } from '../setup/fields';
import { BatchSheet } from './BatchSheet';
import { type BatchDraft, fromRecipe } from './batch-draft';
import { asBatchPlan, contentOf, planDraft } from './batch-plan';
import { Contents } from './Contents';
import { TankChoice, WaterChoice } from './choices';
import { FeedList } from './FeedList';
import { KeepRecipe } from './KeepRecipe';
import { PlanWords } from './PlanWords';
import { ecShown, ecUnit } from './typed';
import { WHY_PH_FIRST, WHY_PH_LAST } from './words';

const stageWords = { '': 'as typed', ...Object.fromEntries(Object.entries(STAGES).map(([k, s]) => [k, s.words])) };

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
	const atStage = (stage: Stage) =>
		d.by === 'label'
			? { stage, percent: String(100 * STAGES[stage].share) }
			: {
					stage,
					target: ecShown(recipe?.stages[stage] ?? recipe?.target_ec_us_cm ?? planned.targetEcUsCm ?? 0, units),
				};
	const staged = d.by === 'label' || Object.keys(recipe?.stages ?? {}).length > 0;
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
					{recipes.length > 0 && (
						<Choice
							label="recipe"
							width="w-36"
							value={d.recipe}
							options={['', ...recipes.map((r) => r.name)]}
							labels={{ '': 'none' }}
							onChange={(v) => {
								const r = recipes.find((x) => x.name === v);
								onChange(r ? fromRecipe(d, r, units, products) : { ...d, recipe: '' });
							}}
						/>
					)}
					<TankChoice
						tanks={tanks}
						value={d.tank}
						onChange={(code) => set({ tank: code, litres: String(tanks.find((t) => t.code === code)?.volumeL ?? 100) })}
					/>
					<label className="block w-24">
						<span className="field-label">litres</span>
						<input
							id="batch-litres"
							className="field"
							inputMode="decimal"
							value={d.litres}
							onChange={(e) => set({ litres: e.target.value })}
						/>
					</label>
					<WaterChoice units={units} waters={waters} value={d.water} onChange={(v) => set({ water: v })} />
					<Choice
						label="by"
						width="w-32"
						value={d.by}
						options={['target', 'label']}
						labels={{ target: 'a target EC', label: 'the label' }}
						onChange={(v) => set({ by: v as 'target' })}
					/>
					{staged && (
						<Choice
							label="for"
							width="w-48"
							value={d.stage}
							options={[
								...(d.stage === '' ? [''] : []),
								...Object.keys(STAGES).filter(
									(s) => d.by === 'label' || s === 'full' || recipe?.stages[s] !== undefined,
								),
							]}
							labels={stageWords}
							onChange={(v) => v !== '' && set(atStage(v as Stage))}
						/>
					)}
					{d.by === 'target' ? (
						<Text
							label={`target EC, ${ecUnit(units)}`}
							width="w-28"
							mode="decimal"
							value={d.target}
							onChange={(v) => set({ target: v, stage: '' })}
						/>
					) : (
						<Text
							label="% of the label"
							width="w-24"
							mode="decimal"
							value={d.percent}
							onChange={(v) => set({ percent: v, stage: '' })}
						/>
					)}
					<Text
						label="target pH"
						width="w-20"
						mode="decimal"
						value={d.targetPh}
						onChange={(v) => set({ targetPh: v })}
					/>
					<Choice
						label="pH"
						width="w-32"
						value={d.phFirst ? 'first' : 'last'}
						options={['last', 'first']}
						labels={{ last: 'last', first: 'first and last' }}
						onChange={(v) => set({ phFirst: v === 'first' })}
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
					</div>
					{plan && <Contents feed={contentOf(plan.pours, products)} water={water} />}
				</div>
				<button type="submit" className="act act-main mt-2" disabled={!plan}>
					The tank is filled: begin
				</button>
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
