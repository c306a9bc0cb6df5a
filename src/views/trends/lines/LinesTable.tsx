import type { SiteView } from '@/core/reading/site-view';
import { causeWords } from '@/words/en/cause';
import { dateTime } from '../../ui/format';
import { inUnit, lineName, lineUnit } from './line';
import type { DrawnLine } from './use-lines';

const SHOWN = 300;
const short = (v: number): string => String(Number(v.toPrecision(4)));

/** The same as the chart in numbers, newest first. */
export function LinesTable({ lines, site }: { lines: readonly DrawnLine[]; site: SiteView }) {
	return lines.map((l) => {
		const rows = [...(l.sensor.length > 0 ? l.sensor : l.hands)].reverse();
		const y = (v: number) => short(inUnit(l.quantity, v, site));
		return (
			<div key={`${l.station}.${l.quantity}`} className="overflow-x-auto mb-6">
				<table className="text-[0.92rem]">
					<caption className="text-left font-bold py-1">
						{lineName(l, site)}, {lineUnit(l.quantity, site.units) || 'pH'}
						{rows.length > SHOWN && (
							<span className="font-normal text-soft">, the newest {SHOWN}; the CSV has all</span>
						)}
					</caption>
					<thead>
						<tr>
							{['Time', 'Value', 'Least', 'Greatest', 'Of', 'Believed'].map((h) => (
								<th key={h} scope="col" className="pr-6 text-left">
									{h}
								</th>
							))}
						</tr>
					</thead>
					<tbody>
						{rows.slice(0, SHOWN).map((p) => {
							const doubt = l.doubts.find((d) => d.since <= p.at + l.stepMs && d.until >= p.at);
							return (
								<tr key={p.at} className="border-t border-line">
									<td className="pr-6">{dateTime(p.at, site.timezone)}</td>
									<td className="pr-6 font-bold">{y(p.value)}</td>
									<td className="pr-6">{p.count > 1 ? y(p.low) : ''}</td>
									<td className="pr-6">{p.count > 1 ? y(p.high) : ''}</td>
									<td className="pr-6">{p.count}</td>
									<td>
										{p.believed === 1 ? 'all' : `${Math.round(100 * p.believed)} %`}
										{doubt && p.believed < 1 && <span className="text-soft">, {causeWords(doubt.cause)}</span>}
									</td>
								</tr>
							);
						})}
					</tbody>
				</table>
			</div>
		);
	});
}
