import type { Product } from '@/contract/products';
import type { FeedPlan } from '@/core/mix/feed/plan';
import { inLabelMeasure } from '@/core/mix/label-rate';
import type { DisplayUnits } from '@/core/reading/site-view';
import { ecShown, ecWithUnit } from './typed';
import { gainOf, poured } from './words';

const times = (n: number): string => (n === 1 ? 'time' : `${n} times`);

/** What is to be poured for a batch, what it should come to, and how that is known. */
export function PlanWords({
	plan,
	products,
	litres,
	learned,
	waterEcUsCm,
	units,
}: {
	plan: FeedPlan;
	products: readonly Product[];
	litres: number;
	/** What batches of these proportions have shown. */
	learned: { batches: number } | null;
	waterEcUsCm: number;
	units: DisplayUnits;
}) {
	const rows = plan.pours.filter((p, i, all) => all.findIndex((x) => x.product === p.product) === i);
	return (
		<div className="mt-2" data-batch-plan>
			<ol className={rows.length > 1 ? 'list-decimal pl-6' : ''}>
				{rows.map((p) => {
					const product = products.find((x) => x.name === p.product)!;
					const asLabel = product.rate_text ? inLabelMeasure(p.perL * litres, product.rate_text) : null;
					const bottles = plan.pours.filter((x) => x.product === p.product).length;
					return (
						<li key={p.product} data-pour={p.product}>
							<strong className="text-[1.15rem]">
								{poured(p.perL * litres)} {p.unit}
							</strong>
							{asLabel && ` (${asLabel})`} {bottles === 1 ? '' : `of each of ${bottles} parts `}
							{rows.length > 1 && `of ${p.product} `}({p.perL.toFixed(2)} {p.unit}/L)
						</li>
					);
				})}
			</ol>
			{plan.heldFrom !== null && (
				<p data-held>
					By what is known of the gain the target would take {plan.heldFrom.toFixed(1)} times the label’s rate. That is
					rarely so: pour this much, stir, measure, and add what is missing then. If EC rose as little as expected, ask
					what the gain was learned from.
				</p>
			)}
			<p>
				{plan.expectedEcUsCm !== null &&
					`EC should come to ${ecWithUnit(plan.expectedEcUsCm, units)}, of which ${ecShown(waterEcUsCm, units)} is the water’s own.`}
				<span className="text-soft">
					{' '}
					{howKnown(
						rows.map((p) => products.find((x) => x.name === p.product)!),
						learned,
					)}
				</span>
			</p>
		</div>
	);
}

/** How the EC that a feed brings is known. */
function howKnown(products: readonly Product[], learned: { batches: number } | null): string {
	if (products.length > 1) {
		if (learned) return `What these do together is what they showed the last ${times(learned.batches)}.`;
		const unknown = products.filter((p) => gainOf(p) === undefined);
		return unknown.length > 0
			? `What ${unknown.map((p) => p.name).join(' and ')} brings is not known yet; this batch teaches it.`
			: 'That is the sum of what each is known to bring; the first batch shows what they do together.';
	}
	const [feed] = products;
	const gain = feed && gainOf(feed);
	if (!feed || gain === undefined) return 'What EC it brings is not known yet; this batch teaches it.';
	const by =
		feed.learned_gain_us_cm_per_ml_l !== null
			? `is what it showed the last ${times(feed.learned_from_batches)}`
			: feed.gain_us_cm_per_ml_l !== null
				? 'is as typed; the first batch teaches it'
				: 'follows from its label; the first batch teaches it';
	return `Its gain, ${gain.toFixed(0)} µS/cm for each ${feed.unit}/L, ${by}.`;
}
