import type { Episode } from '@/contract/episodes';
import type { SiteView } from '@/core/reading/site-view';
import { standingOf } from '@/core/trust/standing';
import { Decide, type Decided } from '../entry/Decide';
import { NeighbourChart } from '../entry/NeighbourChart';
import { useNeighbours } from '../entry/Neighbours';
import { OpensReading } from '../entry/OpensButton';
import { openReading } from '../entry/opens';
import { dateTime, shown } from '../ui/format';
import { StandingMark } from '../ui/StandingMark';
import { ManyAtOnce } from './ManyAtOnce';

/** What waits, looked at: among its neighbours, with what was poured, the evidence and what may be done. */
export function Reviewing({
	episode: e,
	site,
	onDecided,
	onDecideAll,
	onRetest,
}: {
	episode: Episode;
	site: SiteView;
	onDecided: (what: Decided) => void;
	onDecideAll: (kind: 'keep' | 'discard', reason?: string) => void;
	onRetest: () => void;
}) {
	const { reading: r } = e;
	const at = Date.parse(r.time);
	const { points, events } = useNeighbours(r);
	const name = site.stations.find((s) => s.info.code === r.station)?.name ?? r.station;
	const many = e.readings > 1;
	return (
		<div data-reviewing={r.id}>
			<h2 className="text-[1.2rem]">
				{name}, {dateTime(at, site.timezone)}
			</h2>
			<NeighbourChart reading={r} points={points} events={events} site={site} />
			{many && <ManyAtOnce key={e.newest} episode={e} site={site} onDecide={onDecideAll} />}
			{many && <h2 className="mt-3">The newest of them alone</h2>}
			<Decide key={r.id} reading={r} site={site} now={site.now} onDone={onDecided} />
			<div className="flex flex-wrap gap-1.5 mt-1">
				<button type="button" className="act !font-normal" onClick={onRetest}>
					Ask for a retest <kbd>a</kbd>
				</button>
				<button type="button" className="act !font-normal" onClick={() => openReading(r.id)}>
					All of it <kbd>o</kbd>
				</button>
				<a className="act !font-normal" href={`/trends?station=${encodeURIComponent(r.station)}`}>
					Trend
				</a>
			</div>
			<details className="mt-3">
				<summary className="cursor-pointer text-soft min-h-8">The neighbours as a table</summary>
				<table className="text-[0.92rem]">
					<tbody>
						{[...points]
							.sort((a, b) => Math.abs(a.at - at) - Math.abs(b.at - at))
							.slice(0, 9)
							.sort((a, b) => a.at - b.at)
							.map((n) => (
								<tr key={n.at} className={`border-t border-line ${n.id === r.id ? 'bg-lit font-bold' : ''}`}>
									<td className="pr-6 py-0.5">
										<OpensReading id={n.id}>{dateTime(n.at, site.timezone)}</OpensReading>
									</td>
									<td className="pr-6">{shown(r.quantity, n.value, site.units)}</td>
									<td>
										<StandingMark standing={standingOf({ ...n, restated: n.was })} word />
									</td>
								</tr>
							))}
					</tbody>
				</table>
			</details>
			<p className="hidden sm:block text-soft mt-3">
				<kbd>j</kbd> <kbd>k</kbd> next, previous · <kbd>y</kbd> keep · <kbd>a</kbd> ask for a retest
				{many && (
					<>
						{' '}
						· <kbd>Y</kbd> keep all {e.readings}
					</>
				)}
			</p>
		</div>
	);
}
