import { useState } from 'react';
import type { SiteView } from '@/core/reading/site-view';
import { amountWords, EVENT_WORDS, eventLine } from '@/words/en/event';
import { askAgain, useAsked } from '../data/queries';
import { enter } from '../data/queue';
import { Dialog } from '../ui/Dialog';
import { dateTime } from '../ui/format';
import { Attached } from './Attached';
import EventMend from './EventMend';

/** An event opened over the page it was seen on: as it stands, as it was before, and what may be done about it. */
export default function EventDialog({ id, site, onClose }: { id: number; site: SiteView; onClose: () => void }) {
	const { data, error } = useAsked('GET /events/:id/history', { params: { id } });
	const [problem, setProblem] = useState('');
	const event = data?.events.find((e) => !e.superseded);
	const nameOf = (code: string) => site.stations.find((s) => s.info.code === code)?.name ?? code;
	const when = (time: string) => dateTime(Date.parse(time), site.timezone);
	const done = () => {
		void askAgain();
		window.dispatchEvent(new Event('cordwain:changed'));
		onClose();
	};
	const withdraw = async (withdrawn: boolean) => {
		if (!event) return;
		try {
			const what = eventLine(nameOf(event.station), event);
			await enter('POST /events/:id/withdrawal', { params: { id: event.id }, body: { withdrawn } }, what);
			done();
		} catch (e) {
			setProblem((e as Error).message);
		}
	};
	return (
		<Dialog
			label={event ? eventLine(nameOf(event.station), event) : 'An event'}
			wide
			onClose={onClose}
			data-event-dialog={id}
		>
			{event ? (
				<>
					<h2 className="text-[1.2rem]">
						{nameOf(event.station)}, {when(event.time)}: {EVENT_WORDS[event.kind][0]}
						{event.amount !== null && ` ${amountWords(event.amount)} ${event.unit}`}
					</h2>
					<p className="mb-2">{[event.product, event.note].filter((x) => x !== '').join(', ')}</p>
					{event.withdrawn ? (
						<p>
							It was taken back, and nothing is judged by it.{' '}
							<button type="button" className="act" onClick={() => withdraw(false)}>
								Put it back
							</button>
						</p>
					) : (
						<EventMend
							event={event}
							name={nameOf(event.station)}
							site={site}
							onWithdraw={() => void withdraw(true)}
							onCorrected={done}
						/>
					)}
					<Attached of={{ event: event.id }} />
					<h2 className="mt-2 text-[0.9rem]">History</h2>
					<ul className="text-[0.9rem]" data-history>
						{data?.events.map((e) => (
							<li key={e.id}>
								{when(e.entered_at)} · {e.entered_by} logged {eventLine(nameOf(e.station), e)}, for {when(e.time)}
								{e.superseded && ' (corrected since)'}
								{e.withdrawn && ' (taken back)'}
							</li>
						))}
					</ul>
				</>
			) : (
				<p>{error ? error.message : 'It is being fetched…'}</p>
			)}
			{problem && (
				<p role="alert" className="text-error">
					{problem}
				</p>
			)}
		</Dialog>
	);
}
