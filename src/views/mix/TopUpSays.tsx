import type { KnownWater } from '@/contract/pages';
import type { Product } from '@/contract/products';
import type { TopUp } from '@/core/mix/top-up';
import type { TopUpPh } from '@/core/mix/top-up-ph';
import type { DisplayUnits } from '@/core/reading/site-view';
import { ecShown, ecUnit, volumeShown, volumeWithUnit } from './typed';
import { poured } from './words';

/** What a top-up makes of EC and pH, in which parts it goes in, and when it can be judged. */
export function TopUpSays({
	plan,
	target,
	feed,
	water,
	phComes,
	units,
	onLitres,
}: {
	plan: TopUp;
	target: number | undefined;
	feed: Product | undefined;
	water: KnownWater;
	/** Null where it is not known. */
	phComes: TopUpPh | null;
	units: DisplayUnits;
	onLitres: (litres: string) => void;
}) {
	return (
		<>
			<p className="text-[1.15rem]" data-top-up-ec>
				EC comes to <strong>{ecShown(plan.ecUsCm, units)}</strong> {ecUnit(units)} in{' '}
				{volumeWithUnit(plan.volumeL, units)}
				{target !== undefined &&
					(plan.feedMlEach === null
						? '; how much feed brings it to target is not known before its first batch'
						: plan.feedMlEach > 0
							? `; ${poured(plan.feedMlEach)} ${feed?.unit ?? 'mL'} of each part of ${feed?.name} bring it to ${ecShown(target, units)}`
							: `, no feed wanted for ${ecShown(target, units)}`)}
				.
			</p>
			{plan.toTarget && (
				<p data-top-up-litres>
					{plan.toTarget.drainL > 0.5
						? `To land on ${ecShown(target!, units)} with ${water.name} alone, drain ${volumeWithUnit(plan.toTarget.drainL, units)} and add ${volumeWithUnit(plan.toTarget.addL, units)}.`
						: `${volumeWithUnit(plan.toTarget.addL, units)} of ${water.name} alone would land on ${ecShown(target!, units)}.`}{' '}
					{plan.toTarget.drainL <= 0.5 && (
						<button
							type="button"
							className="underline cursor-pointer min-h-10 sm:min-h-8"
							onClick={() => onLitres(volumeShown(plan.toTarget!.addL, units))}
						>
							use it
						</button>
					)}
				</p>
			)}
			{phComes ? (
				<p data-top-up-ph>
					pH comes to about <strong>{phComes.ph.toFixed(1)}</strong> ({phComes.low.toFixed(1)} to{' '}
					{phComes.high.toFixed(1)}, by how much phosphate is in it)
					{phComes.aerated - phComes.ph > 0.1 &&
						`, and climbs to about ${phComes.aerated.toFixed(1)} as the carbon dioxide of the new water leaves`}
					.{plan.feedMlEach !== null && plan.feedMlEach > 0 && ' Feed pulls it down a little.'}
				</p>
			) : (
				<p className="text-soft" data-top-up-ph>
					{water.alkalinityMgLCaco3 === null || water.ph == null
						? `What it does to pH is not known: ${water.name} wants a pH and an alkalinity, by drop kit or laboratory.`
						: 'Give the pH now, and what it does to it is said as well.'}
				</p>
			)}
			{plan.parts.length > 1 && (
				<p>
					Roots hang still in it: add it in {plan.parts.length} parts of {volumeWithUnit(plan.parts[0]!.litres, units)}.
				</p>
			)}
			<p className="text-soft">
				{plan.waitHours >= 1
					? `Wait about ${plan.waitHours} hours after each part before judging it: it spikes first and settles slowly.`
					: 'Let it mix a quarter of an hour, then measure EC, then pH.'}
			</p>
			{plan.feedMlEach !== null && plan.feedMlEach > 0 && (
				<p className="border-l-4 border-warning pl-2 text-[0.92rem] my-1" data-caution>
					Feed goes in after the water, each part by itself and stirred. Never concentrate on concentrate; gloves and
					eye protection.
				</p>
			)}
		</>
	);
}
