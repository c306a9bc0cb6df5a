import type { Advice } from '@/contract/doses';
import type { DisplayUnits } from '@/core/reading/site-view';
import { OpensReading } from '../entry/OpensButton';
import { volumeWithUnit } from './typed';

/** What earlier doses did in this tank, the jug’s among them. */
export function PastDoses({ past, units }: { past: Advice['past']; units: DisplayUnits }) {
	return (
		<details className="mt-2">
			<summary className="cursor-pointer text-soft min-h-8">what earlier doses did here</summary>
			<div className="overflow-x-auto">
				<table className="text-[0.92rem]">
					<thead>
						<tr>
							<th className="pr-4">when</th>
							<th className="pr-4">mL</th>
							<th className="pr-4">pH before</th>
							<th className="pr-4">pH after</th>
							<th className="pr-4">as expected</th>
							<th className="pr-4">water</th>
						</tr>
					</thead>
					<tbody>
						{past.slice(-12).map((d) => (
							<tr key={`${d.time}${d.ph_before}`} className="border-t border-line">
								<td className="pr-4">{d.time.slice(0, 10)}</td>
								<td className="pr-4">
									{Number(d.ml.toPrecision(3))}
									{d.jug && ` in a jug of ${volumeWithUnit(d.litres, units)}`}
								</td>
								<td className="pr-4">
									<OpensReading id={d.reading_before}>{d.ph_before.toFixed(2)}</OpensReading>
								</td>
								<td className="pr-4">
									<OpensReading id={d.reading_after}>{d.ph_after.toFixed(2)}</OpensReading>
								</td>
								<td className="pr-4">{d.answered === 'as expected' ? 'yes' : d.answered}</td>
								<td className="pr-4">{d.other_water ? 'another then' : 'the same'}</td>
							</tr>
						))}
					</tbody>
				</table>
			</div>
		</details>
	);
}
