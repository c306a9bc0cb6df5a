import { useState } from 'react';
import type { SiteView } from '@/core/reading/site-view';
import { EVENT_WORDS, eventLine } from '@/words/en/event';
import { askAgain, useAsked } from '../data/queries';
import { enter } from '../data/queue';
import { ago } from '../ui/format';
import { Attached } from './Attached';
import { AttachWaiting } from './AttachWaiting';
import { EventFields } from './EventFields';
import type { Logged } from './EventForm';
import { EventQuestion } from './EventQuestion';
import { type EventBody, emptyEvent, LOGGED, valuesOf } from './event-values';
import { useEventForm } from './use-event-form';

const MOST_AGAIN = 3;

/** The fields of what was done to the water at a station, what was done there before, and what was logged last. */
export default function EventEntry({
	site,
	station,
	onLogged,
}: {
	site: SiteView;
	station: string;
	onLogged: (logged: Logged) => void;
}) {
	/** What was logged last, for a photo of it. */
	const [last, setLast] = useState<{ id: number } | { key: string } | null>(null);
	const name = site.stations.find((s) => s.info.code === station)?.name ?? station;
	const { form, submit, asked, send, forget } = useEventForm(site, emptyEvent(station), async (body: EventBody) => {
		const what = eventLine(name, body);
		const result = await enter('POST /events', { body }, what);
		form.reset(emptyEvent(station, body.kind));
		setLast(result.kind === 'stored' ? { id: result.answer.id } : { key: result.key });
		void askAgain();
		onLogged(
			result.kind === 'stored'
				? { words: `${what}: logged.`, id: result.answer.id }
				: { words: `${what}. ${result.message}`, id: null },
		);
	});
	const kind = form.watch('kind');
	const earlier = useAsked('GET /events', { query: { station, order: 'newest', limit: 40 } }).data?.events ?? [];
	// Each kind as it was last done here, the newest first.
	const again = LOGGED.filter((k) => k !== 'note')
		.flatMap((k) => earlier.find((e) => e.kind === k && e.amount !== null) ?? [])
		.sort((a, b) => Date.parse(b.time) - Date.parse(a.time))
		.slice(0, MOST_AGAIN);

	return (
		<>
			<form onSubmit={submit} className="mt-1">
				{again.length > 0 && (
					<p className="flex flex-wrap gap-2 items-center mb-2 text-soft" data-as-last-time>
						as last time:
						{again.map((e) => (
							<button
								key={e.id}
								type="button"
								className="act !font-normal text-base-content"
								title={ago(Date.parse(e.time), site.now)}
								onClick={() => form.reset({ ...valuesOf(e, site.timezone), station, when: '', note: '' })}
							>
								{EVENT_WORDS[e.kind][0]} {e.amount} {e.unit}
							</button>
						))}
					</p>
				)}
				<EventFields form={form} site={site} />
				{asked ? (
					<EventQuestion doubt={asked.doubt} body={asked.body} name={name} onKeep={send} onBack={forget} />
				) : (
					<button type="submit" className="act !font-normal mt-2" disabled={form.formState.isSubmitting}>
						Log it
					</button>
				)}
				{form.formState.errors.root && (
					<p role="alert" className="text-error">
						{form.formState.errors.root.message}
					</p>
				)}
			</form>
			{last !== null && (
				<div data-photo-of={'id' in last ? last.id : 'waiting'}>
					<p className="text-soft text-[0.9rem] mt-2">A photo of what was just logged:</p>
					{'id' in last ? (
						<Attached key={last.id} of={{ event: last.id }} />
					) : (
						<AttachWaiting key={last.key} to={last.key} />
					)}
				</div>
			)}
			{(kind === 'acid_added' || kind === 'base_added') && (
				<p className="text-soft text-[0.85rem] mt-1">
					Gloves and eye protection; acid into water, never the reverse; never acid with bleach or base. The product’s
					label comes first.
				</p>
			)}
		</>
	);
}
