import { useState } from 'react';
import type { Product } from '@/contract/products';
import { Choice } from '../ui/controls';
import { Dose } from './Dose';
import { MeasureHere } from './MeasureHere';
import type { RunStep } from './run-step';

/** pH of a batch: of the plain water by the one school, and of the feed, last, by both. */
export function RunPh({
	site,
	engine,
	batch,
	course,
	tank,
	products,
	log,
	busy,
	attempt,
}: RunStep & { products: readonly Product[] }) {
	const { plan } = batch;
	const changers = products.filter((p) => p.kind !== 'nutrient');
	const [chosen, setChosen] = useState(changers.find((a) => a.kind === 'acid')?.name ?? changers[0]?.name ?? '');
	const changer = changers.find((a) => a.name === chosen);
	const last = course.phase === 'ph';
	return (
		<div>
			<div className="flex flex-wrap gap-3 items-end mb-2">
				{changers.length > 0 && (
					<Choice label="with" width="w-40" value={chosen} options={changers.map((a) => a.name)} onChange={setChosen} />
				)}
				{last ? (
					<button
						type="button"
						className="act !font-normal"
						disabled={busy}
						onClick={() => attempt(() => log.did('done', 'done'))}
					>
						Finish the batch
					</button>
				) : (
					<button
						type="button"
						className="act !font-normal"
						data-next
						disabled={busy}
						onClick={() => attempt(() => log.did('next', 'on to the feed'))}
					>
						On to the feed
					</button>
				)}
			</div>
			{!course.phRead ? (
				<MeasureHere
					key={course.phase}
					site={site}
					engine={engine}
					station={batch.station}
					quantity="ph"
					note="batch"
					keep={log.reading('ph', null)}
				>
					<p className="mb-1">
						{last
							? `${plan.ph_first ? 'The feed has pulled it down: look at it once more' : 'EC is right: now the pH, which comes last'}.`
							: 'First the pH of the plain water. It is done again at the end, because the feed pulls it down.'}
					</p>
				</MeasureHere>
			) : (
				changer &&
				plan.target_ph !== null && (
					<Dose
						key={course.phase}
						site={site}
						engine={engine}
						tank={{ ...tank, volumeL: plan.litres }}
						product={changer}
						targetPh={plan.target_ph}
						batch={log}
					/>
				)
			)}
			{changers.length === 0 && <p>There is no acid or base under Products: the pH is kept as it was read.</p>}
		</div>
	);
}
