import { useState } from 'react';
import type { KnownWater } from '@/contract/pages';
import type { Product, Recipe } from '@/contract/products';
import { inLabelMeasure } from '@/core/mix/label-rate';
import { nutrientDose } from '@/core/mix/nutrient-dose';
import type { DisplayUnits } from '@/core/reading/site-view';
import { problemWords } from '@/words/en/problem';
import { api } from '../data/client';
import { ecShown, litresTyped } from './typed';
import { gainOf, poured } from './words';

/** Recipes with what they take today, at any size. */
export function Recipes({
	units,
	recipes: first,
	products,
	waters,
}: {
	units: DisplayUnits;
	recipes: Recipe[];
	products: Product[];
	waters: KnownWater[];
}) {
	const [recipes, setRecipes] = useState(first);
	const [litres, setLitres] = useState('100');
	const [said, setSaid] = useState<{ words: string; undo: Recipe | null }>({ words: '', undo: null });
	const volume = litresTyped(litres);
	async function putAway(r: Recipe) {
		try {
			await api('POST /recipes/put-away', { body: { name: r.name } });
			setRecipes((list) => list.filter((x) => x.name !== r.name));
			setSaid({ words: `“${r.name}” is put away; its batches stay.`, undo: r });
		} catch (error) {
			setSaid({ words: (error as Error).message, undo: null });
		}
	}
	async function back(r: Recipe) {
		try {
			await api('POST /recipes', { body: r });
			setRecipes((list) => [...list, r].sort((a, b) => a.name.localeCompare(b.name)));
			setSaid({ words: `“${r.name}” is back.`, undo: null });
		} catch (error) {
			setSaid({ words: (error as Error).message, undo: null });
		}
	}
	if (recipes.length === 0 && said.words === '')
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
			<label className="block w-32">
				<span className="field-label">for so many litres</span>
				<input
					id="recipe-litres"
					className="field"
					inputMode="decimal"
					value={litres}
					onChange={(e) => setLitres(e.target.value)}
				/>
			</label>
			<div className="overflow-x-auto mt-2">
				<table className="w-full max-w-[68rem]">
					<thead>
						<tr>
							<th className="pr-4">recipe</th>
							<th className="pr-4">feed</th>
							<th className="pr-4">water</th>
							<th className="pr-4">to</th>
							<th className="pr-4">each part, today</th>
							<th className="pr-4">pH</th>
							<th />
						</tr>
					</thead>
					<tbody>
						{recipes.map((r) => {
							const feed = products.find((p) => p.name === r.product);
							const water = waters.find((w) => w.code === r.water);
							const dose =
								feed && volume !== undefined && volume > 0
									? nutrientDose({
											volumeL: volume,
											baseEcUsCm: water?.ecUsCm,
											gainUsCmPerMlL: gainOf(feed),
											...(r.target_ec_us_cm !== null
												? { targetEcUsCm: r.target_ec_us_cm }
												: { rateMlPerL: feed.rate_ml_per_l ?? undefined, strength: r.strength ?? 1 }),
										})
									: null;
							const label = dose?.ok && feed ? inLabelMeasure(dose.value.mlEach, feed.rate_text) : null;
							return (
								<tr key={r.name} className="border-t border-line" data-recipe={r.name}>
									<th scope="row" className="!text-base-content !text-[1rem] pr-4 py-1">
										{r.name}
									</th>
									<td className="pr-4">{r.product}</td>
									<td className="pr-4">{water?.name ?? r.water ?? 'any'}</td>
									<td className="pr-4">
										{r.target_ec_us_cm !== null
											? `EC ${ecShown(r.target_ec_us_cm, units)}`
											: `${Math.round(100 * (r.strength ?? 1))} % of the label`}
									</td>
									<td className="pr-4">
										{dose?.ok ? (
											<>
												<strong>
													{poured(dose.value.mlEach)} {feed!.unit}
												</strong>
												{label && ` (${label})`}
											</>
										) : (
											<span className="text-error">{dose ? problemWords(dose.problem) : '–'}</span>
										)}
									</td>
									<td className="pr-4">
										{r.target_ph === null ? '–' : r.target_ph}
										{r.ph_first && ' (first and last)'}
									</td>
									<td className="whitespace-nowrap">
										<a
											className="underline inline-block py-2"
											href={`/mix?part=batch&recipe=${encodeURIComponent(r.name)}`}
										>
											mix it
										</a>{' '}
										<button
											type="button"
											className="underline cursor-pointer min-h-10 sm:min-h-8 text-soft ml-3"
											onClick={() => putAway(r)}
										>
											put away
										</button>
									</td>
								</tr>
							);
						})}
					</tbody>
				</table>
			</div>
			<p aria-live="polite" className="mt-2">
				{said.words}{' '}
				{said.undo && (
					<button type="button" className="underline cursor-pointer min-h-10" onClick={() => back(said.undo!)}>
						undo
					</button>
				)}
			</p>
		</div>
	);
}
