import type { KnownWater, Tank } from '@/contract/pages';
import type { Product, Recipe } from '@/contract/products';
import { STAGES, type Stage } from '@/core/mix/strength';
import type { DisplayUnits } from '@/core/reading/site-view';
import { Choice, Text } from '../ui/controls';
import { type BatchDraft, forTank, fromRecipe } from './batch-draft';
import { TankChoice, WaterChoice } from './choices';
import { ecRange } from './season-values';
import { ecShown, ecUnit, volumeName } from './typed';

const stageWords = { '': 'as typed', ...Object.fromEntries(Object.entries(STAGES).map(([k, s]) => [k, s.words])) };

/** What a batch is to be: recipe, tank, water, and what it should come to. */
export function BatchFields({
	draft: d,
	units,
	tanks,
	products,
	waters,
	recipes,
	targetEcUsCm,
	onChange,
}: {
	draft: BatchDraft;
	units: DisplayUnits;
	tanks: Tank[];
	products: Product[];
	waters: KnownWater[];
	recipes: Recipe[];
	/** As it was understood. */
	targetEcUsCm: number | undefined;
	onChange: (d: BatchDraft) => void;
}) {
	const set = (change: Partial<BatchDraft>) => onChange({ ...d, ...change });
	const recipe = recipes.find((r) => r.name === d.recipe);
	const tank = tanks.find((t) => t.code === d.tank);
	const atStage = (stage: Stage) =>
		d.by === 'label'
			? { stage, percent: String(100 * STAGES[stage].share) }
			: {
					stage,
					target: ecShown(recipe?.stages[stage] ?? recipe?.target_ec_us_cm ?? targetEcUsCm ?? 0, units),
				};
	const staged = d.by === 'label' || Object.keys(recipe?.stages ?? {}).length > 0;
	return (
		<>
			{recipes.length > 0 && (
				<Choice
					label="recipe"
					width="w-44"
					value={d.recipe}
					options={['', ...recipes.map((r) => r.name)]}
					labels={{ '': 'none' }}
					onChange={(v) => {
						const r = recipes.find((x) => x.name === v);
						onChange(r ? fromRecipe(d, r, units, products, tank) : { ...d, recipe: '' });
					}}
				/>
			)}
			<TankChoice
				tanks={tanks}
				value={d.tank}
				onChange={(code) =>
					onChange(
						forTank(
							d,
							tanks.find((t) => t.code === code),
							units,
						),
					)
				}
			/>
			<label className="block w-24">
				<span className="field-label">{volumeName(units)}</span>
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
						...Object.keys(STAGES).filter((s) => d.by === 'label' || s === 'full' || recipe?.stages[s] !== undefined),
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
			{tank?.stage && tank.ecRange && (
				<p className="text-soft text-[0.9rem] self-end pb-2" data-stage-target>
					{tank.stage}: EC {ecRange(tank.ecRange, units)}
				</p>
			)}
			<Text label="target pH" width="w-20" mode="decimal" value={d.targetPh} onChange={(v) => set({ targetPh: v })} />
			<Choice
				label="pH"
				width="w-32"
				value={d.phFirst ? 'first' : 'last'}
				options={['last', 'first']}
				labels={{ last: 'last', first: 'first and last' }}
				onChange={(v) => set({ phFirst: v === 'first' })}
			/>
		</>
	);
}
