import { useCallback, useEffect, useState } from 'react';
import type { Contract } from '@/contract';
import type { Got } from '@/contract/operation';
import type { SiteView } from '@/core/reading/site-view';
import { api } from '../data/client';
import { type Held, unheld } from '../data/held';
import { enter } from '../data/queue';
import { EventForm } from '../entry/EventForm';
import { EventRow } from './EventRow';

export type StoredEvent = Got<Contract['GET /events']>['events'][number];
const MOST = 100;

/** Everything that was done to the water, newest first: corrected, taken back and logged late here. */
export function EventList({ site: held, station: first }: { site: Held<SiteView>; station: string }) {
	const site = unheld(held);
	const [station, setStation] = useState(first);
	const [events, setEvents] = useState<StoredEvent[]>([]);
	const [loading, setLoading] = useState(true);
	const [open, setOpen] = useState<number | null>(null);
	const [problem, setProblem] = useState('');
	const [said, setSaid] = useState('');
	const [takenBack, setTakenBack] = useState<StoredEvent | null>(null);

	const load = useCallback(async () => {
		try {
			const answer = await api('GET /events', {
				query: { order: 'newest', limit: MOST, ...(station ? { station } : {}) },
			});
			setEvents(answer.events);
			setProblem('');
		} catch (error) {
			setProblem((error as Error).message);
		}
		setLoading(false);
	}, [station]);
	useEffect(() => {
		load();
		window.addEventListener('cordwain:changed', load);
		return () => window.removeEventListener('cordwain:changed', load);
	}, [load]);

	async function withdraw(e: StoredEvent, withdrawn: boolean) {
		try {
			const what = withdrawn ? 'taken back' : 'put back';
			const result = await enter(
				'POST /events/:id/withdrawal',
				{ params: { id: e.id }, body: { withdrawn } },
				`${e.station} ${e.kind} ${what}`,
			);
			setSaid(result.kind === 'stored' ? `It is ${what}; what hung on it is judged anew.` : result.message);
			setTakenBack(withdrawn ? e : null);
			setOpen(null);
			await load();
		} catch (error) {
			setProblem((error as Error).message);
		}
	}

	return (
		<div data-ready={!loading}>
			<div className="flex flex-wrap items-end gap-x-5 gap-y-2 mb-3">
				<h1>Events</h1>
				<a className="underline min-h-8" href="/ledger">
					Readings
				</a>
				<label className="block w-44">
					<span className="field-label">Station</span>
					<select className="field" value={station} onChange={(e) => setStation(e.target.value)}>
						<option value="">all of them</option>
						{site.stations.map((s) => (
							<option key={s.info.code} value={s.info.code}>
								{s.name}
							</option>
						))}
					</select>
				</label>
			</div>
			{station === '' ? (
				<p className="text-soft mb-2">Choose a station to log what was done there, now or earlier.</p>
			) : (
				<EventForm
					site={site}
					station={station}
					onLogged={(words) => {
						setSaid(words);
						load();
					}}
				/>
			)}
			<div aria-live="polite" className="mt-2">
				{said && (
					<p className="border-l-4 border-base-content pl-3 py-1 mb-2" data-event-said>
						{said}{' '}
						{takenBack && (
							<button type="button" className="act !font-normal" onClick={() => withdraw(takenBack, false)}>
								Put it back
							</button>
						)}
					</p>
				)}
			</div>
			{problem && (
				<p role="alert" className="text-error mb-2">
					{problem}
				</p>
			)}
			<ul className="border-t border-line">
				{events.map((e) => (
					<EventRow
						key={e.id}
						event={e}
						site={site}
						open={open === e.id}
						onToggle={() => setOpen(open === e.id ? null : e.id)}
						onWithdraw={() => withdraw(e, true)}
						onCorrected={(words) => {
							setSaid(words);
							setTakenBack(null);
							setOpen(null);
							load();
						}}
					/>
				))}
			</ul>
			{!loading && events.length === 0 && <p className="mt-3">Nothing was logged here yet.</p>}
			{events.length === MOST && (
				<p className="text-soft mt-2">The newest {MOST}; older ones are in the file of events.</p>
			)}
		</div>
	);
}
