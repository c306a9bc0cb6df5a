import { useCallback, useEffect, useRef, useState } from 'react';
import type { Contract } from '@/contract';
import type { Change } from '@/contract/meters';
import type { Got } from '@/contract/operation';
import type { SiteView } from '@/core/reading/site-view';
import { useChanges } from '../data/changes';
import { type Held, unheld } from '../data/held';
import { askAgain, useAsked, useFollowing } from '../data/queries';
import { PAGE } from '../entry/sample';
import { longDate } from '../ui/format';
import { useWalk } from '../ui/use-walk';
import { RoundAside } from './RoundAside';
import { RoundStart } from './RoundStart';
import { StationRow } from './StationRow';

/** Stations that the page comes with, more than a screen shows; those further down are drawn by the browser. */
const AT_FIRST = 40;

export type Line = Got<Contract['GET /rounds/line']>;

/** Today's walk: the line in the order the water runs, each station with what it last showed. */
export function Round({ site: held, line: heldLine }: { site: Held<SiteView>; line: Held<Line> }) {
	const site = unheld(held);
	const came = unheld(heldLine);
	useFollowing();
	const line = useAsked('GET /rounds/line', {}, true, came).data ?? came;
	const rows = line.stations;
	const [now, setNow] = useState(site.now);
	const [whole, setWhole] = useState(false);
	useEffect(() => {
		setWhole(true);
		const timer = setInterval(() => setNow(Date.now()), 60_000);
		return () => clearInterval(timer);
	}, []);
	const onChange = useCallback((change: Change) => {
		if (change.by !== PAGE) void askAgain();
	}, []);
	useChanges(onChange);

	const list = useRef<HTMLOListElement>(null);
	useWalk(list, 'a[data-station]');

	const stops = rows.filter((r) => r.due.length > 0 || r.retest.length > 0);
	const under = line.round && line.round.finished_at === null ? line.round : null;
	const walk = {
		stops: stops.length,
		round: under,
		done: line.round && line.round.finished_at !== null ? line.round : null,
		site,
	};
	return (
		<div className="grid lg:grid-cols-[1fr_17rem] gap-x-8 gap-y-6">
			<section>
				<h1>{longDate(now, site.timezone)}, round</h1>
				<p className="text-soft mb-2">
					{rows.length} stations in the order the water runs
					{stops.length > 0 ? ` · ${stops.length} with something due` : ' · nothing is due now'}
				</p>
				<div className="lg:hidden">
					<RoundStart {...walk} />
				</div>
				<div
					className="hidden sm:grid grid-cols-[11.5rem_1fr_4.5rem_1fr_4.5rem_10.5rem] gap-x-3 text-soft text-[0.8rem] border-b border-line pb-1"
					aria-hidden="true"
				>
					<span className="pl-9">station</span>
					<span>pH, range and smear</span>
					<span>pH</span>
					<span>EC, range and smear</span>
					<span>{site.units.ec === 'uS/cm' ? 'µS/cm' : site.units.ec}</span>
					<span>standing</span>
				</div>
				<ol ref={list}>
					{rows.slice(0, whole ? rows.length : AT_FIRST).map((row, i) => (
						<StationRow
							key={row.station}
							row={row}
							site={site}
							now={now}
							first={i === 0}
							last={i === rows.length - 1}
						/>
					))}
				</ol>
			</section>
			<aside>
				<div className="hidden lg:block">
					<RoundStart keys {...walk} />
				</div>
				<RoundAside line={line} site={site} now={now} />
			</aside>
		</div>
	);
}
