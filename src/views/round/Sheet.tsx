import type { Quantity } from '@/core/quantity';
import type { SiteView } from '@/core/reading/site-view';
import { type SheetRow, sheetColumns, sheetDay } from '@/core/rhythm/sheet-row';
import { USUAL } from '../bench/dips';
import { type Held, unheld } from '../data/held';
import { columnHead, longDate, shown } from '../ui/format';
import { KeepFile } from '../ui/KeepFile';

/** The round on paper: a box for each value that is due, the last value small beside it. */
export function Sheet({ site: held, rows }: { site: Held<SiteView>; rows: SheetRow[] }) {
	const site = unheld(held);
	const columns = sheetColumns(site.stations.map((s) => s.measured));
	const asks = (code: string, q: Quantity) => site.stations.find((s) => s.info.code === code)?.measured.includes(q);
	return (
		<div data-sheet>
			<div className="flex flex-wrap items-baseline gap-4 mb-3">
				<h1>Round, {longDate(site.now, site.timezone)}</h1>
				<button type="button" className="act act-main no-print" onClick={() => print()}>
					Print
				</button>
				<KeepFile
					part="[data-sheet]"
					title={`${site.name}, round of ${longDate(site.now, site.timezone)}`}
					name={`round-${sheetDay(site.now, site.timezone)}.html`}
				/>
				<a className="underline no-print" href="/round/grid">
					Copy a filled sheet in
				</a>
			</div>
			<p className="mb-2">{site.name} · measured by ________________ · begun at ________ · pen ________________</p>
			<div className="overflow-x-auto">
				<table className="w-full border-collapse">
					<thead>
						<tr>
							<th className="border border-base-content px-2 py-1">station</th>
							<th className="border border-base-content px-2 py-1">time</th>
							{columns.map((q) => (
								<th key={q} className="border border-base-content px-2 py-1">
									{columnHead(q, site.units)}
								</th>
							))}
							<th className="border border-base-content px-2 py-1 w-[32%]">note, what was added</th>
						</tr>
					</thead>
					<tbody>
						{rows.map((r) => (
							<tr key={r.station} className="h-11">
								<th scope="row" className="border border-base-content px-2 !text-base-content !text-[1rem]">
									{r.name}
								</th>
								<td className="border border-base-content w-16" />
								{columns.map((q) => {
									const last = r.last[q];
									return (
										<td
											key={q}
											className={`border border-base-content px-2 w-28 align-bottom ${USUAL.includes(q) || asks(r.station, q) ? '' : 'bg-zone'}`}
										>
											<span className="flex justify-between text-soft text-[0.75rem]">
												<span>{r.due.includes(q) ? 'due' : ''}</span>
												<span>{last === undefined ? '' : `last ${shown(q, last, site.units)}`}</span>
											</span>
										</td>
									);
								})}
								<td className="border border-base-content" />
							</tr>
						))}
					</tbody>
				</table>
			</div>
			<p className="text-soft text-[0.85rem] mt-2">
				Rinse, shake, cover the probe, swirl, wait: half a minute in tap water or nutrient, three minutes in rain or RO
				water. In those, EC before pH.
			</p>
		</div>
	);
}
