import type { Product } from '@/contract/products';
import type { FeedPlan } from '@/core/mix/feed/plan';
import { inLabelMeasure } from '@/core/mix/label-rate';
import type { DisplayUnits } from '@/core/reading/site-view';
import { unitLabel } from '../ui/format';
import type { BatchDraft } from './batch-draft';
import { ecShown, ecUnit, volumeWithUnit } from './typed';
import { poured } from './words';

interface Sheet {
	draft: BatchDraft;
	plan: FeedPlan;
	litres: number;
	places: { tank: string; water: string };
	products: readonly Product[];
	units: DisplayUnits;
}

/** The plan on paper, with a box for what each step showed. */
export function BatchSheet({ title, ...sheet }: Sheet & { title: string }) {
	return (
		<div className="hidden print:block mt-4" data-batch-sheet>
			<p className="font-bold">{title}</p>
			<p>Gloves and eye protection. Never concentrate on concentrate; acid into water, never the reverse.</p>
			<table className="w-full border-collapse mt-2">
				<tbody>
					{sheetRows(sheet).map(([what, unit], i) => (
						<tr key={`${i}${what}`} className="h-12">
							<th scope="row" className="border border-base-content px-2 !text-base-content !text-[1rem]">
								{what}
							</th>
							<td className="border border-base-content w-40 px-2 text-right text-soft align-bottom">{unit}</td>
							<td className="border border-base-content w-32 px-2 text-soft align-bottom">at</td>
						</tr>
					))}
				</tbody>
			</table>
		</div>
	);
}

/** The steps of a planned batch, each with the unit that is written beside it. */
function sheetRows({ draft: d, plan, litres, places, products, units }: Sheet): (readonly [string, string])[] {
	return [
		[`${volumeWithUnit(litres, units)} of ${places.water} into ${places.tank}`, unitLabel(units.volume)],
		...(d.phFirst ? ([[`pH of the water, target ${d.targetPh}: before, dose, after`, 'mL']] as const) : []),
		...plan.pours.map((p, i): [string, string] => {
			const label = products.find((x) => x.name === p.product)?.rate_text;
			const asLabel = label ? inLabelMeasure(p.perL * litres, label) : null;
			const last = i === plan.pours.length - 1;
			return [
				`${poured(p.perL * litres)} ${p.unit}${asLabel ? ` (${asLabel})` : ''} of ${p.product}${p.bottle ? `, part ${p.bottle}` : ''}; stir${p.waitMin > 0 && !last ? `, wait ${p.waitMin} min` : ''}`,
				p.unit,
			];
		}),
		[
			`wait until it has mixed; EC${plan.expectedEcUsCm === null ? '' : `, expected ${ecShown(plan.expectedEcUsCm, units)}`}`,
			ecUnit(units),
		],
		['corrected with', ''],
		[`pH last, target ${d.targetPh}: before`, ''],
		['dose, then pH', 'mL'],
		['dose, then pH', 'mL'],
	];
}
