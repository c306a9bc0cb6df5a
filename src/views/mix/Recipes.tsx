import { useState } from 'react';
import type { Recipe } from '@/contract/products';
import { api } from '../data/client';
import { Notice } from '../ui/Notice';
import { RecipeCard } from './RecipeCard';
import { litresTyped, volumeName } from './typed';
import { type MixThings, useMix } from './use-mix';

/** Recipes with what they take today, at any size. */
export function Recipes(things: MixThings) {
	const { units, recipes: first, products, waters, batches } = useMix(things);
	const [recipes, setRecipes] = useState(first);
	const [litres, setLitres] = useState('100');
	const [said, setSaid] = useState<{ said: string; problem: string; undo: Recipe | null }>({
		said: '',
		problem: '',
		undo: null,
	});
	const volume = litresTyped(litres, units);
	async function putAway(r: Recipe) {
		try {
			await api('POST /recipes/put-away', { body: { name: r.name } });
			setRecipes((list) => list.filter((x) => x.name !== r.name));
			setSaid({ said: `“${r.name}” is put away; its batches stay.`, problem: '', undo: r });
		} catch (error) {
			setSaid({ said: '', problem: (error as Error).message, undo: null });
		}
	}
	async function back(r: Recipe) {
		try {
			await api('POST /recipes', { body: r });
			setRecipes((list) => [...list, r].sort((a, b) => a.name.localeCompare(b.name)));
			setSaid({ said: `“${r.name}” is back.`, problem: '', undo: null });
		} catch (error) {
			setSaid({ said: '', problem: (error as Error).message, undo: null });
		}
	}
	if (recipes.length === 0 && said.said === '')
		return (
			<p>
				No recipe yet. Plan{' '}
				<a className="underline" href="/mix?part=batch">
					a batch
				</a>{' '}
				and keep it under a name: it can then be made again at any size, and its batches are held against each other.
			</p>
		);
	return (
		<div data-recipes={recipes.length}>
			<label className="block w-32 mb-2">
				<span className="field-label">for so much, {volumeName(units)}</span>
				<input
					id="recipe-litres"
					className="field"
					inputMode="decimal"
					value={litres}
					onChange={(e) => setLitres(e.target.value)}
				/>
			</label>
			<div className="grid lg:grid-cols-2 gap-x-10">
				{recipes.map((r) => (
					<RecipeCard
						key={r.name}
						recipe={r}
						litres={volume !== undefined && volume > 0 ? volume : null}
						shelf={{ products, batches }}
						water={waters.find((w) => w.code === r.water)}
						units={units}
						onPutAway={() => putAway(r)}
					/>
				))}
			</div>
			<Notice said={said.said} problem={said.problem}>
				{said.undo && (
					<button type="button" className="underline cursor-pointer min-h-11" onClick={() => back(said.undo!)}>
						undo
					</button>
				)}
			</Notice>
		</div>
	);
}
