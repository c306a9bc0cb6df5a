import type { Product } from '@/contract/products';
import type { DisplayUnits } from '@/core/reading/site-view';
import type { BatchDraft } from './batch-draft';
import { ecShown, ecUnit } from './typed';

/** The plan on paper, with a box for what each step showed. */
export function BatchSheet({ title, rows }: { title: string; rows: readonly (readonly [string, string])[] }) {
	return (
		<div className="hidden print:block mt-4">
			<p className="font-bold">{title}</p>
			<p>Gloves and eye protection. Never concentrate on concentrate; acid into water, never the reverse.</p>
			<table className="w-full border-collapse mt-2">
				<tbody>
					{rows.map(([what, unit], i) => (
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
export const sheetRows = (
	d: BatchDraft,
	feed: Product,
	plan: {
		litres: number;
		water: string;
		tank: string;
		amount: string;
		asLabel: string | null;
		expectedEcUsCm: number | null;
	},
	units: DisplayUnits,
): (readonly [string, string])[] => [
	[`${Number(plan.litres.toPrecision(4))} L of ${plan.water} into ${plan.tank}`, 'L'],
	...(d.phFirst ? ([[`pH of the water, target ${d.targetPh}: before, dose, after`, 'mL']] as const) : []),
	...Array.from({ length: feed.parts }, (_, i): [string, string] => [
		`${plan.amount}${plan.asLabel ? ` (${plan.asLabel})` : ''} of ${feed.name}, part ${String.fromCharCode(65 + i)}; stir`,
		feed.unit,
	]),
	[
		`wait until it has mixed; EC${plan.expectedEcUsCm === null ? '' : `, expected ${ecShown(plan.expectedEcUsCm, units)}`}`,
		ecUnit(units),
	],
	['corrected with', ''],
	[`pH last, target ${d.targetPh}: before`, ''],
	['dose, then pH', 'mL'],
	['dose, then pH', 'mL'],
];
