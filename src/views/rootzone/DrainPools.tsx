import { useState } from 'react';
import type { Drains } from '@/contract/drains';
import type { SiteView } from '@/core/reading/site-view';
import { ecShown, ecUnit, volumeName, volumeShown } from '../mix/typed';
import { shortDay } from '../ui/format';

/** Days and weeks with what was given, what ran off and what the plants took, pooled by their volumes. */
export function DrainPools({ drains: d, site }: { drains: Drains; site: SiteView }) {
	const [by, setBy] = useState<'weeks' | 'days'>('weeks');
	const rows = d[by].slice(-14).reverse();
	if (rows.length === 0) return null;
	const percent = (x: number) => `${Math.round(100 * x)}`;
	const ec = (v: number) => ecShown(v, site.units);
	return (
		<section className="note-rule" data-drain-pools={by}>
			<div className="flex gap-2 items-center">
				<h2>By</h2>
				{(['weeks', 'days'] as const).map((b) => (
					<button
						key={b}
						type="button"
						aria-pressed={by === b}
						className={`act ${by === b ? 'act-main' : '!font-normal !border-line'}`}
						onClick={() => setBy(b)}
					>
						{b === 'weeks' ? 'week' : 'day'}
					</button>
				))}
			</div>
			<div className="overflow-x-auto">
				<table className="text-[0.92rem] mt-1">
					<thead>
						<tr>
							<th className="pr-4">from</th>
							<th className="pr-4">samples</th>
							<th className="pr-4">feed, {ecUnit(site.units)}</th>
							<th className="pr-4">drain</th>
							<th className="pr-4">given, {volumeName(site.units)}</th>
							<th className="pr-4">ran off, %</th>
							<th>taken up at EC</th>
						</tr>
					</thead>
					<tbody>
						{rows.map((r) => (
							<tr key={r.from} className="border-t border-line">
								<td className="pr-4">{shortDay(Date.parse(r.from), site.timezone)}</td>
								<td className="pr-4">{r.samples}</td>
								<td className="pr-4">{ec(r.feed_us_cm)}</td>
								<td className="pr-4 font-bold">{ec(r.drain_us_cm)}</td>
								<td className="pr-4">
									{r.balance ? volumeShown(Number(r.balance.applied_l.toPrecision(3)), site.units) : '–'}
								</td>
								<td className="pr-4">
									{r.balance ? (
										<>
											{percent(r.balance.leaching_fraction.value)}{' '}
											<span className="text-soft">
												{percent(r.balance.leaching_fraction.low)}–{percent(r.balance.leaching_fraction.high)}
											</span>
										</>
									) : (
										'–'
									)}
								</td>
								<td>
									{r.balance?.uptake_ec_us_cm ? (
										r.balance.uptake_unknown ? (
											<span className="text-soft">cannot be told</span>
										) : (
											<>
												{ec(r.balance.uptake_ec_us_cm.value)}{' '}
												<span className="text-soft">
													{ec(Math.max(0, r.balance.uptake_ec_us_cm.low))}–{ec(r.balance.uptake_ec_us_cm.high)}
												</span>
											</>
										)
									) : (
										'–'
									)}
								</td>
							</tr>
						))}
					</tbody>
				</table>
			</div>
			<p className="text-soft text-[0.85rem]">
				Pooled by volume; small: where 95 of 100 cases lie. Uptake holds in a steady state, so a week tells more than a
				day.
			</p>
		</section>
	);
}
