import type { ProbeStory } from '@/contract/probes';
import type { SiteView } from '@/core/reading/site-view';
import { dateTime, shown } from '../ui/format';
import { GaugeStrip } from '../ui/GaugeStrip';

/** Decisions that stood on a number which was put right later. */
export function Turned({ story, site }: { story: ProbeStory; site: SiteView }) {
	const q = story.quantity;
	if (story.turned.length === 0) return null;
	return (
		<>
			<h2>What it would have changed</h2>
			<div className="overflow-x-auto">
				<table className="w-full text-[0.92rem]" data-turned>
					<thead>
						<tr className="border-b border-base-content">
							<th scope="col">When</th>
							<th scope="col">Station</th>
							<th scope="col" className="hidden sm:table-cell">
								Read, and was
							</th>
							<th scope="col">Judged</th>
							<th scope="col">Truly</th>
							<th scope="col" className="hidden sm:table-cell">
								Done meanwhile
							</th>
						</tr>
					</thead>
					<tbody>
						{[...story.turned]
							.reverse()
							.slice(0, 12)
							.map((t) => {
								const r = story.touched.find((x) => x.id === t.id);
								const range = site.stations.find((s) => s.info.code === t.station)?.info.ranges[q] ?? null;
								return (
									<tr key={t.id} className="border-b border-line">
										<td className="py-1 pr-3 whitespace-nowrap">{dateTime(Date.parse(t.time), site.timezone)}</td>
										<td className="pr-3">{site.stations.find((s) => s.info.code === t.station)?.name ?? t.station}</td>
										<td className="pr-3 w-48 hidden sm:table-cell">
											<GaugeStrip
												quantity={q}
												value={t.restated}
												was={t.value}
												u={r?.uncertainty ?? 0}
												range={range}
												standing="restated"
												units={site.units}
												width={180}
											/>
										</td>
										<td className="pr-3">
											{shown(q, t.value, site.units)} {t.was}
										</td>
										<td className="pr-3 font-bold">
											{shown(q, t.restated, site.units)} {t.truly}
										</td>
										<td className="text-soft hidden sm:table-cell">
											{t.doses.map((d) => d.words).join(', ') || 'left it'}
										</td>
									</tr>
								);
							})}
					</tbody>
				</table>
			</div>
			{story.turned.length > 12 && <p className="text-soft">and {story.turned.length - 12} earlier ones</p>}
		</>
	);
}
