import { QUANTITY, type Quantity } from '@/core/quantity';
import type { SiteView } from '@/core/reading/site-view';
import type { SeriesPoint as Point } from '@/core/series/point';
import { standingOf } from '@/core/trust/standing';
import { OpensReading } from '../entry/OpensButton';
import { dateTime, displayUnit, shown, unitLabel } from '../ui/format';
import { StandingMark } from '../ui/StandingMark';

/** The same as the chart in numbers, newest first. */
export function PointTable({
	quantity,
	points,
	site,
}: {
	quantity: Quantity;
	points: readonly Point[];
	site: SiteView;
}) {
	const unit = displayUnit(quantity, site.units);
	return (
		<table className="mb-6 text-[0.92rem]">
			<caption className="text-left font-bold py-1">
				{QUANTITY[quantity].name} {unit ? unitLabel(unit) : ''}
			</caption>
			<thead>
				<tr>
					<th scope="col" className="pr-6">
						Time
					</th>
					<th scope="col" className="pr-6">
						Value
					</th>
					<th scope="col" className="pr-6">
						± 95 %
					</th>
					<th scope="col">Standing</th>
				</tr>
			</thead>
			<tbody>
				{[...points].reverse().map((p) => (
					<tr key={p.at} className="border-t border-line">
						<td className="pr-6">
							<OpensReading id={p.id}>{dateTime(p.at, site.timezone)}</OpensReading>
						</td>
						<td className="pr-6 font-bold">{shown(quantity, p.value, site.units)}</td>
						<td className="pr-6">{shown(quantity, 1.96 * p.u, site.units)}</td>
						<td>
							<StandingMark standing={standingOf({ ...p, restated: p.was })} word />
						</td>
					</tr>
				))}
			</tbody>
		</table>
	);
}
