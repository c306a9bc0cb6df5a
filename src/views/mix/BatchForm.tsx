import { useState } from 'react';
import type { BatchPlan } from '@/contract/batches';
import type { KnownWater, Tank } from '@/contract/pages';
import type { Product, Recipe } from '@/contract/products';
import { inLabelMeasure } from '@/core/mix/label-rate';
import { nutrientDose } from '@/core/mix/nutrient-dose';
import { STAGES, type Stage } from '@/core/mix/strength';
import { decimal } from '@/core/quantity';
import type { DisplayUnits } from '@/core/reading/site-view';
import { problemWords } from '@/words/en/problem';
import { api } from '../data/client';
import { Choice, Text } from '../setup/fields';
import { BatchSheet, sheetRows } from './BatchSheet';
import { type BatchDraft, fromRecipe } from './batch-draft';
import { TankChoice, WaterChoice } from './choices';
import { PlanWords } from './PlanWords';
import { ecTyped, ecUnit, litresTyped } from './typed';
import { gainOf, poured, WHY_PH_FIRST, WHY_PH_LAST } from './words';

/** Plans a batch: what goes in and what it should come to, before anything is poured. */
export function BatchForm({
	units,
	draft: d,
	onChange,
	tanks,
	products,
	waters,
	recipes,
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
	onBegin: (station: string, plan: BatchPlan) => void;
	onRecipe: (r: Recipe) => void;
}) {
	const feeds = products.filter((p) => p.kind === 'nutrient');
	const [name, setName] = useState('');
	const [problem, setProblem] = useState('');
	const set = (change: Partial<BatchDraft>) => onChange({ ...d, ...change });
	const tank = tanks.find((t) => t.code === d.tank);
	const feed = feeds.find((p) => p.name === d.feed);
	const water = waters.find((w) => w.code === d.water);
	const n = (text: string) => decimal(text.trim());
	const [goalPh, percent] = [n(d.targetPh), n(d.percent)];
	const litres = litresTyped(d.litres);
	const goal = ecTyped(d.target, units);
	const gain = feed && gainOf(feed);
	const overflow = tank?.volumeL != null && litres !== undefined && litres > tank.volumeL;
	const plan =
		feed && water && litres !== undefined && litres > 0
			? nutrientDose({
					volumeL: litres,
					baseEcUsCm: water.ecUsCm,
					gainUsCmPerMlL: gain,
					...(d.by === 'target'
						? { targetEcUsCm: goal }
						: {
								rateMlPerL: feed.rate_ml_per_l ?? undefined,
								strength: percent === undefined ? undefined : percent / 100,
							}),
				})
			: null;
	const badPercent = d.by === 'label' && !(percent !== undefined && percent > 0 && percent <= 300);
	const ready = plan?.ok && !overflow && !badPercent;
	const amount = plan?.ok ? `${poured(plan.value.mlEach)} ${feed!.unit}` : '';
	const asLabel = plan?.ok && feed!.rate_text ? inLabelMeasure(plan.value.mlEach, feed!.rate_text) : null;

	const begin = () => {
		if (!plan?.ok || !ready || !feed || !water || litres === undefined) return;
		onBegin(d.tank, {
			litres,
			water: water.code,
			water_ec_us_cm: water.ecUsCm,
			product: feed.name,
			ml_per_l: plan.value.mlEach / litres,
			unit: feed.unit,
			parts: feed.parts,
			// By the label the EC is what comes of it: what the feed should bring is the target, where that is known.
			target_ec_us_cm: d.by === 'target' ? goal! : plan.value.expectedEcUsCm,
			expected_ec_us_cm: plan.value.expectedEcUsCm,
			target_ph: goalPh ?? null,
			recipe: d.recipe || null,
			strength: d.by === 'label' ? percent! / 100 : null,
			ph_first: d.phFirst,
		});
	};
	async function keep() {
		if (name.trim() === '') return setProblem('Give the recipe a name.');
		const recipe: Recipe = {
			name: name.trim(),
			product: d.feed,
			water: d.water || null,
			target_ec_us_cm: d.by === 'target' && goal !== undefined ? goal : null,
			strength: d.by === 'label' && percent !== undefined ? percent / 100 : null,
			target_ph: goalPh ?? null,
			ph_first: d.phFirst,
			note: '',
		};
		try {
			await api('POST /recipes', { body: recipe });
			onRecipe(recipe);
			set({ recipe: recipe.name });
			setName('');
			setProblem('');
		} catch (error) {
			setProblem((error as Error).message);
		}
	}
	return (
		<div>
			<form
				className="no-print"
				onSubmit={(e) => {
					e.preventDefault();
					begin();
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
								onChange(r ? fromRecipe(d, r, units) : { ...d, recipe: '' });
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
						label="feed"
						width="w-40"
						value={d.feed}
						options={feeds.map((p) => p.name)}
						onChange={(v) => set({ feed: v })}
					/>
					<Choice
						label="by"
						width="w-32"
						value={d.by}
						options={['target', 'label']}
						labels={{ target: 'a target EC', label: 'the label' }}
						onChange={(v) => set({ by: v as 'target' })}
					/>
					{d.by === 'target' ? (
						<Text
							label={`target EC, ${ecUnit(units)}`}
							width="w-28"
							mode="decimal"
							value={d.target}
							onChange={(v) => set({ target: v })}
						/>
					) : (
						<>
							<Choice
								label="for"
								width="w-48"
								value={d.stage}
								options={[...(d.stage === '' ? [''] : []), ...Object.keys(STAGES)]}
								labels={{
									'': 'as typed',
									...Object.fromEntries(Object.entries(STAGES).map(([k, s]) => [k, s.words])),
								}}
								onChange={(v) => set({ stage: v as Stage, percent: String(100 * (STAGES[v as Stage]?.share ?? 1)) })}
							/>
							<Text
								label="% of the label"
								width="w-24"
								mode="decimal"
								value={d.percent}
								onChange={(v) => set({ percent: v, stage: '' })}
							/>
						</>
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
					<button type="submit" className="act act-main" disabled={!ready}>
						The tank is filled: begin
					</button>
				</div>
				<div aria-live="polite">
					{plan && !plan.ok && <p className="text-error mt-1">{problemWords(plan.problem)}</p>}
					{overflow && (
						<p className="text-error mt-1">
							{tank!.name} holds {tank!.volumeL} L; {Number(litres!.toPrecision(4))} L would run over.
						</p>
					)}
					{badPercent && <p className="text-error mt-1">Of the label’s rate: more than 0 %, and at most 300 %.</p>}
					{plan?.ok && ready && feed && (
						<PlanWords
							plan={plan.value}
							feed={feed}
							litres={litres!}
							asLabel={asLabel}
							gain={gain}
							waterEcUsCm={water!.ecUsCm}
							units={units}
						/>
					)}
					{feed?.bottle.map((w) => (
						<p key={w} className="border-l-4 border-warning pl-2 mt-1" data-bottle>
							{feed.name}: {w}
						</p>
					))}
				</div>
			</form>
			{plan?.ok && ready && feed && (
				<>
					<div className="flex flex-wrap gap-2 items-end mt-2 no-print">
						<button type="button" className="act !font-normal" onClick={() => print()}>
							Print a batch sheet
						</button>
						<form
							className="flex gap-2 items-end"
							onSubmit={(e) => {
								e.preventDefault();
								keep();
							}}
						>
							<label className="block w-44">
								<span className="field-label">keep as a recipe</span>
								<input
									id="recipe-name"
									className="field"
									maxLength={200}
									placeholder="its name"
									value={name}
									onChange={(e) => setName(e.target.value)}
								/>
							</label>
							<button type="submit" className="act !font-normal" disabled={name.trim() === ''}>
								Keep
							</button>
						</form>
						{problem && (
							<p role="alert" className="text-error">
								{problem}
							</p>
						)}
					</div>
					<BatchSheet
						title={`${d.recipe || feed.name}, ${tank!.name}`}
						rows={sheetRows(
							d,
							feed,
							{
								litres: litres!,
								water: water!.name,
								tank: tank!.name,
								amount,
								asLabel,
								expectedEcUsCm: plan.value.expectedEcUsCm,
							},
							units,
						)}
					/>
				</>
			)}
			<p className="text-soft text-[0.9rem] mt-2 max-w-[75ch] no-print">{d.phFirst ? WHY_PH_FIRST : WHY_PH_LAST}</p>
		</div>
	);
}
