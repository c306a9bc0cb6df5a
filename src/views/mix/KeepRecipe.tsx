import { useState } from 'react';
import type { Recipe } from '@/contract/products';
import { RATIOS } from '@/core/mix/feed/stock-tank';
import { STAGES, type Stage } from '@/core/mix/strength';
import { decimal } from '@/core/quantity';
import type { DisplayUnits } from '@/core/reading/site-view';
import { api } from '../data/client';
import { Text } from '../ui/controls';
import type { BatchDraft } from './batch-draft';
import { asRecipe, type Planned } from './batch-plan';
import { ecShown, ecTyped, ecUnit } from './typed';

const OTHER_STAGES = (Object.keys(STAGES) as Stage[]).filter((s) => s !== 'full');

/** Keeps a plan under a name: with a target for each stage where plants grow through it, and an injector where one is used. */
export function KeepRecipe({
	draft,
	planned,
	kept,
	units,
	onKept,
}: {
	draft: BatchDraft;
	planned: Planned;
	/** The recipe that the draft was taken from. */
	kept: Recipe | undefined;
	units: DisplayUnits;
	onKept: (r: Recipe) => void;
}) {
	const [name, setName] = useState('');
	const [stages, setStages] = useState<Partial<Record<Stage, string>>>(() =>
		Object.fromEntries(Object.entries(kept?.stages ?? {}).map(([k, v]) => [k, ecShown(v, units)])),
	);
	const [ratio, setRatio] = useState(kept?.injector == null ? '' : String(kept.injector));
	const [problem, setProblem] = useState('');
	const injector = ratio.trim() === '' ? null : decimal(ratio.trim().replace(/^1\s*:\s*/, ''));
	const badRatio = injector === undefined || (injector !== null && (injector < RATIOS.least || injector > RATIOS.most));
	async function keep() {
		const targets = Object.entries(stages).flatMap(([k, text]) => {
			const ec = text.trim() === '' ? undefined : ecTyped(text, units);
			return ec === undefined ? [] : [[k, ec] as const];
		});
		try {
			const recipe = asRecipe(name.trim(), draft, planned, {
				stages: draft.by === 'target' ? Object.fromEntries(targets) : {},
				injector: injector ?? null,
			});
			await api('POST /recipes', { body: recipe });
			onKept(recipe);
			setName('');
			setProblem('');
		} catch (error) {
			setProblem((error as Error).message);
		}
	}
	return (
		<form
			className="flex flex-wrap gap-2 items-end"
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
			<button type="submit" className="act !font-normal" disabled={name.trim() === '' || badRatio}>
				Keep
			</button>
			{name.trim() !== '' && (
				<div className="flex flex-wrap gap-2 items-end w-full" data-recipe-more>
					{draft.by === 'target' &&
						OTHER_STAGES.map((s) => (
							<Text
								key={s}
								label={`${ecUnit(units)} for ${STAGES[s].words}`}
								width="w-56"
								mode="decimal"
								value={stages[s] ?? ''}
								onChange={(v) => setStages({ ...stages, [s]: v })}
							/>
						))}
					<Text
						label="injector, 1 part in"
						width="w-36"
						mode="decimal"
						value={ratio}
						wrong={badRatio ? `A number from ${RATIOS.least} to ${RATIOS.most}, or nothing.` : undefined}
						onChange={setRatio}
					/>
				</div>
			)}
			{problem && (
				<p role="alert" className="text-error">
					{problem}
				</p>
			)}
		</form>
	);
}
