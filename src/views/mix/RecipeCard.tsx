import type { StoredBatch } from '@/contract/batches';
import type { KnownWater } from '@/contract/pages';
import type { Product, Recipe } from '@/contract/products';
import { planFeed } from '@/core/mix/feed/plan';
import { inLabelMeasure } from '@/core/mix/label-rate';
import { STAGES, type Stage } from '@/core/mix/strength';
import type { DisplayUnits } from '@/core/reading/site-view';
import { problemWords } from '@/words/en/problem';
import { contentOf, recipeFeed } from './batch-plan';
import { Contents } from './Contents';
import { StockTanks } from './StockTanks';
import { ecShown } from './typed';
import { poured } from './words';

/** One recipe: what it takes today, at the size that is asked, in the order it is poured. */
export function RecipeCard({
	recipe: r,
	litres,
	shelf,
	water,
	units,
	onPutAway,
}: {
	recipe: Recipe;
	litres: number | null;
	shelf: { products: Product[]; batches: StoredBatch[] };
	water: KnownWater | undefined;
	units: DisplayUnits;
	onPutAway: () => void;
}) {
	const { feed, learned } = recipeFeed(r, shelf);
	const answer = planFeed(
		feed,
		{
			waterEcUsCm: water?.ecUsCm ?? 0,
			targetEcUsCm: r.target_ec_us_cm ?? undefined,
			strength: r.strength ?? undefined,
		},
		learned?.riseUsCm ?? null,
	);
	const plan = answer.ok ? answer.value : null;
	const stages = Object.entries(r.stages).map(([s, ec]) => `${STAGES[s as Stage].words} ${ecShown(ec, units)}`);
	return (
		<section className="border-t border-line py-2" data-recipe={r.name} aria-label={r.name}>
			<div className="flex flex-wrap items-baseline gap-x-4">
				<h2 className="text-[1.1rem]">{r.name}</h2>
				<span>
					{r.target_ec_us_cm !== null
						? `to EC ${ecShown(r.target_ec_us_cm, units)}`
						: `${Math.round(100 * (r.strength ?? 1))} % of the label`}
					, {water?.name ?? r.water ?? 'any water'}
					{r.target_ph !== null && `, pH ${r.target_ph}`}
					{r.ph_first && ' (first and last)'}
				</span>
			</div>
			{stages.length > 0 && <p className="text-soft text-[0.92rem]">By stage: {stages.join(', ')}.</p>}
			{!answer.ok && <p className="text-error">{problemWords(answer.problem)}</p>}
			{plan && litres !== null && (
				<ol className={plan.pours.length > 1 ? 'list-decimal pl-6' : ''}>
					{plan.pours.map((p) => {
						const label = shelf.products.find((x) => x.name === p.product)?.rate_text ?? '';
						const asLabel = label ? inLabelMeasure(p.perL * litres, label) : null;
						return (
							<li key={`${p.product}${p.bottle}`}>
								<strong>
									{poured(p.perL * litres)} {p.unit}
								</strong>
								{asLabel && ` (${asLabel})`} of {p.product}
								{p.bottle && `, part ${p.bottle}`}
								{!p.scales && <span className="text-soft"> at its own rate</span>}
							</li>
						);
					})}
				</ol>
			)}
			{plan && <Contents feed={contentOf(plan.pours, shelf.products)} water={water} quiet />}
			{plan && r.injector !== null && (
				<StockTanks
					recipe={r}
					plan={plan}
					products={shelf.products}
					waterEcUsCm={water?.ecUsCm ?? null}
					units={units}
				/>
			)}
			<a className="underline inline-block py-2.5" href={`/mix?part=batch&recipe=${encodeURIComponent(r.name)}`}>
				mix it
			</a>
			<button type="button" className="underline cursor-pointer min-h-11 text-soft ml-5" onClick={onPutAway}>
				put away
			</button>
		</section>
	);
}
