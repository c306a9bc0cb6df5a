import type { Product } from '@/contract/products';
import type { DisplayUnits } from '@/core/reading/site-view';
import { ecShown, ecWithUnit } from './typed';
import { poured } from './words';

/** What is to be poured for a batch, what it should come to, and how that is known. */
export function PlanWords({
	plan,
	feed,
	litres,
	asLabel,
	gain,
	waterEcUsCm,
	units,
}: {
	plan: { mlEach: number; expectedEcUsCm: number | null };
	feed: Product;
	litres: number;
	/** The amount in the label's own measure. */
	asLabel: string | null;
	gain: number | undefined;
	waterEcUsCm: number;
	units: DisplayUnits;
}) {
	return (
		<p className="mt-2" data-batch-plan>
			<strong className="text-[1.15rem]">
				{poured(plan.mlEach)} {feed.unit}
			</strong>
			{asLabel && ` (${asLabel})`} {feed.parts === 1 ? '' : `of each of ${feed.parts} parts `}(
			{(plan.mlEach / litres).toFixed(2)} {feed.unit}
			/L).
			{plan.expectedEcUsCm !== null &&
				` EC should come to ${ecWithUnit(plan.expectedEcUsCm, units)}, of which ${ecShown(waterEcUsCm, units)} is the water’s own.`}
			{gain !== undefined && (
				<span className="text-soft">
					{' '}
					{feed.learned_from_batches > 0
						? `Its gain, ${gain.toFixed(0)} µS/cm for each ${feed.unit}/L, is what it showed the last ${feed.learned_from_batches === 1 ? 'time' : `${feed.learned_from_batches} times`}.`
						: `Its gain, ${gain.toFixed(0)} µS/cm for each ${feed.unit}/L, is as typed; the first batch teaches it.`}
				</span>
			)}
			{gain === undefined && (
				<span className="text-soft"> What EC it brings is not known yet; this batch teaches it.</span>
			)}
		</p>
	);
}
