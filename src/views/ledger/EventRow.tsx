import { Suspense } from 'react';
import type { StoredEvent } from '@/contract/events';
import type { SiteView } from '@/core/reading/site-view';
import { amountWords, EVENT_WORDS } from '@/words/en/event';
import { Attached } from '../entry/Attached';
import { dateTime } from '../ui/format';
import { later } from '../ui/later';

const EventMend = later(() => import('../entry/EventMend'));

/** One event; open, its own words can be mended or it can be taken back. */
export function EventRow({
	event: e,
	site,
	open,
	onToggle,
	onWithdraw,
	onCorrected,
}: {
	event: StoredEvent;
	site: SiteView;
	open: boolean;
	onToggle: () => void;
	onWithdraw: () => void;
	onCorrected: (words: string) => void;
}) {
	const name = site.stations.find((s) => s.info.code === e.station)?.name ?? e.station;
	const amount = e.amount === null ? '' : ` ${amountWords(e.amount)} ${e.unit}`;
	return (
		<li className="border-b border-line" data-event={e.id}>
			<button
				type="button"
				className="w-full text-left py-2 min-h-11 cursor-pointer flex flex-wrap gap-x-3"
				aria-expanded={open}
				onClick={onToggle}
			>
				<span className="w-32 text-soft">{dateTime(Date.parse(e.time), site.timezone)}</span>
				<strong>{name}</strong>
				<span>
					{EVENT_WORDS[e.kind][0]}
					{amount}
				</span>
				<span className="text-soft">{[e.product, e.note].filter((x) => x !== '').join(', ')}</span>
			</button>
			{open && <Attached of={{ event: e.id }} />}
			{open && (
				<Suspense>
					<EventMend event={e} name={name} site={site} onWithdraw={onWithdraw} onCorrected={onCorrected} />
				</Suspense>
			)}
		</li>
	);
}
