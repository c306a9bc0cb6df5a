import type { StoredReading } from '@/contract/readings';
import type { SiteView } from '@/core/reading/site-view';
import { api } from '../data/client';
import { useAsked } from '../data/queries';
import { dateTime, unitLabel } from '../ui/format';
import { Attached } from './Attached';
import { Decide, type Decided } from './Decide';
import { Explain } from './Explain';
import { Neighbours } from './Neighbours';

/** A reading that was opened: what may be done about it, where its uncertainty comes from, who typed and decided what. */
export function Opened({
	reading: r,
	site,
	onDone,
}: {
	reading: StoredReading;
	site: SiteView;
	onDone: (what: Decided | 'restore') => void;
}) {
	const { data: history } = useAsked('GET /readings/:id/history', { params: { id: r.id } });
	const gone = r.superseded || r.decision === 'undo';
	const when = (time: string) => dateTime(Date.parse(time), site.timezone);
	const restorable = r.decision === 'undo' || (r.decision === 'discard' && !r.superseded);
	return (
		<>
			{gone ? (
				<p>{r.superseded ? 'It was corrected; what stands now is another row.' : 'It was taken back.'}</p>
			) : (
				<Decide reading={r} site={site} now={Date.now()} onDone={onDone} />
			)}
			<Neighbours reading={r} site={site} />
			<Explain r={r} site={site} evidence={history?.evidence ?? null} />
			<Attached of={{ reading: r.id }} />
			<h2 className="mt-2 text-[0.9rem]">History</h2>
			<ul className="text-[0.9rem]" data-history>
				{history?.readings.map((h) => (
					<li key={h.id}>
						{when(h.entered_at)} · {h.entered_by} entered{' '}
						<strong>
							{h.value} {unitLabel(h.unit)}
						</strong>
						{h.station !== r.station || h.instrument !== r.instrument
							? ` at ${nameOf(site, h.station)}${h.instrument ? ` with ${h.instrument}` : ''}`
							: ''}
						{h.supersedes ? ' in place of the value before' : ''}
						{h.superseded ? ' (replaced)' : ''}
					</li>
				))}
				{history?.decisions.map((d) => (
					<li key={d.id}>
						{when(d.time)} · {d.who}: {d.kind === 'undo' ? 'taken back' : d.kind}
						{d.reason ? `, “${d.reason}”` : ''}
					</li>
				))}
			</ul>
			{restorable && (
				<button
					type="button"
					className="act mt-2"
					onClick={() =>
						api('POST /readings/:id/decision', { params: { id: r.id }, body: { kind: 'restore' } }).then(() =>
							onDone('restore'),
						)
					}
				>
					Put it back
				</button>
			)}
		</>
	);
}

const nameOf = (site: SiteView, code: string): string => site.stations.find((s) => s.info.code === code)?.name ?? code;
