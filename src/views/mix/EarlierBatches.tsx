import { useState } from 'react';
import type { StoredBatch } from '@/contract/batches';
import type { Tank } from '@/contract/pages';
import { compareBatches, gainOf } from '@/core/mix/compare-batches';
import { feedName } from '@/core/mix/feed/plan';
import type { DisplayUnits } from '@/core/reading/site-view';
import { differenceWords } from '@/words/en/batch';
import { figuresOf } from './batch-plan';
import { ecShown, ecUnit, ecWithUnit, volumeName, volumeShown } from './typed';

const MOST = 8;

/** Batches before, side by side; each says what was different from the one like it before. */
export function EarlierBatches({
	units,
	batches,
	tanks,
	day,
	onRepeat,
}: {
	units: DisplayUnits;
	batches: StoredBatch[];
	tanks: Tank[];
	day: (at: number) => string;
	onRepeat: (b: StoredBatch) => void;
}) {
	const mS = (v: number | null) => (v === null ? '–' : ecShown(v, units));
	const [chosen, setChosen] = useState<number | null>(null);
	const done = batches.filter((b) => b.finished_at !== null);
	if (done.length === 0) return null;
	const named = (b: StoredBatch) => b.plan.recipe || feedName(b.plan.pours);
	const like = (b: StoredBatch) =>
		done.find(
			(o) =>
				Date.parse(o.started_at) < Date.parse(b.started_at) &&
				(b.plan.recipe ? o.plan.recipe === b.plan.recipe : o.station === b.station && named(o) === named(b)),
		);
	const shown = done.find((b) => b.id === chosen) ?? done[0]!;
	const earlier = like(shown);
	const differences = earlier ? compareBatches(figuresOf(earlier), figuresOf(shown)) : [];
	return (
		<section className="note-rule mt-4 no-print" aria-label="Batches before">
			<h2>Batches before</h2>
			{earlier && (
				<div className="my-1" data-differences={differences.length} aria-live="polite">
					<p>
						<strong>
							{day(Date.parse(shown.started_at))} against {day(Date.parse(earlier.started_at))}
						</strong>
						{differences.length === 0 && ': nothing that pens, cylinders and dipsticks can tell apart.'}
					</p>
					<ul>
						{differences.map((d) => (
							<li key={d.of} className="border-l-4 border-secondary pl-2 my-0.5">
								{differenceWords(d, (v) => ecWithUnit(v, units))}
							</li>
						))}
					</ul>
				</div>
			)}
			<div className="overflow-x-auto">
				<table className="text-[0.95rem] w-full max-w-[72rem]">
					<thead>
						<tr>
							<th className="pr-3">when</th>
							<th className="pr-3">what</th>
							<th className="pr-3">tank</th>
							<th className="pr-3">{volumeName(units)}</th>
							<th className="pr-3">water, {ecUnit(units)}</th>
							<th className="pr-3">feed for each L</th>
							<th className="pr-3">µS/cm for each</th>
							<th className="pr-3">EC</th>
							<th className="pr-3">doses</th>
							<th className="pr-3">pH</th>
							<th>again</th>
						</tr>
					</thead>
					<tbody>
						{done.slice(0, MOST).map((b) => {
							const f = figuresOf(b);
							const gain = gainOf(f);
							return (
								<tr
									key={b.id}
									className={`border-t border-line ${b.id === shown.id ? 'bg-lit' : ''}`}
									data-earlier={b.id}
								>
									<td className="pr-3">
										<button
											type="button"
											className="underline cursor-pointer min-h-10 sm:min-h-8"
											aria-pressed={b.id === shown.id}
											onClick={() => setChosen(b.id)}
										>
											{day(Date.parse(b.started_at))}
										</button>
									</td>
									<td className="pr-3">{named(b)}</td>
									<td className="pr-3">{tanks.find((t) => t.code === b.station)?.name ?? b.station}</td>
									<td className="pr-3">{volumeShown(f.litres, units)}</td>
									<td className="pr-3">{mS(f.waterEcUsCm)}</td>
									<td className="pr-3">
										{f.feedPerL.toFixed(2)} {b.plan.pours[0]!.unit}
									</td>
									<td className="pr-3">{gain === null ? '–' : gain.toFixed(0)}</td>
									<td className="pr-3">
										{f.firstEcUsCm !== f.lastEcUsCm ? `${mS(f.firstEcUsCm)} → ` : ''}
										{mS(f.lastEcUsCm)}
									</td>
									<td className="pr-3">
										{f.doses}
										{f.dosedMlPerL !== null && (
											<span className="text-soft text-[0.85rem]"> {f.dosedMlPerL.toPrecision(2)} mL/L</span>
										)}
									</td>
									<td className="pr-3">{f.lastPh?.toFixed(2) ?? '–'}</td>
									<td>
										<button
											type="button"
											className="underline cursor-pointer min-h-10 sm:min-h-8"
											onClick={() => onRepeat(b)}
										>
											use it
										</button>
									</td>
								</tr>
							);
						})}
					</tbody>
				</table>
			</div>
		</section>
	);
}
