import { QUANTITY } from '@/core/quantity';
import type { SiteView } from '@/core/reading/site-view';
import { EVENT_WORDS } from '@/words/en/event';
import { unitLabel } from '../ui/format';
import type { QuickUnderstood } from './quick-lines';

/** What a line was understood as, piece by piece. */
export function QuickChips({
	u: { said },
	names,
	site,
}: {
	u: QuickUnderstood;
	names: Map<string, string>;
	site: SiteView;
}) {
	const { event } = said;
	return (
		<p className="flex flex-wrap gap-1.5">
			{said.station && <Chip>{names.get(said.station)}</Chip>}
			{event && (
				<Chip>
					{EVENT_WORDS[event.kind][0]}{' '}
					{event.amount !== null && (
						<strong>
							{event.amount} {event.unit}
						</strong>
					)}
				</Chip>
			)}
			{event?.product && <Chip>{event.product}</Chip>}
			{event?.note && <Chip>“{event.note}”</Chip>}
			{said.instrument && <Chip>with {site.instruments.find((x) => x.info.code === said.instrument)?.name}</Chip>}
			{said.readings.map((r, k) => (
				<Chip key={k}>
					{QUANTITY[r.quantity].name} <strong>{r.digits}</strong> {unitLabel(r.unit)}
				</Chip>
			))}
			{said.note && <Chip>“{said.note}”</Chip>}
		</p>
	);
}

function Chip({ children }: { children: React.ReactNode }) {
	return <span className="border border-line bg-zone px-2 py-0.5 rounded-[3px]">{children}</span>;
}
