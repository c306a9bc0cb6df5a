import type { SiteView } from '@/core/reading/site-view';
import { amountWords, EVENT_WORDS, eventLine } from '@/words/en/event';
import { enter } from '../data/queue';
import { Attached } from '../entry/Attached';
import { EventFields } from '../entry/EventFields';
import { EventQuestion } from '../entry/EventQuestion';
import { valuesOf } from '../entry/event-values';
import { useEventForm } from '../entry/use-event-form';
import { dateTime } from '../ui/format';
import type { StoredEvent } from './EventList';

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
			{open && <Mend event={e} name={name} site={site} onWithdraw={onWithdraw} onCorrected={onCorrected} />}
		</li>
	);
}

function Mend({
	event: e,
	name,
	site,
	onWithdraw,
	onCorrected,
}: {
	event: StoredEvent;
	name: string;
	site: SiteView;
	onWithdraw: () => void;
	onCorrected: (words: string) => void;
}) {
	const { form, submit, asked, send, forget } = useEventForm(site, valuesOf(e, site.timezone), async (body) => {
		const same = valuesOf({ ...e, ...body }, site.timezone).when === valuesOf(e, site.timezone).when;
		const result = await enter(
			'POST /events/:id/correction',
			// A minute is what was typed; what was known to the second stays where it was.
			{ params: { id: e.id }, body: { ...body, time: same ? e.time : body.time } },
			`correction of ${eventLine(name, e)}`,
		);
		onCorrected(result.kind === 'stored' ? 'Corrected; what hung on it is judged anew.' : result.message);
	});
	const busy = form.formState.isSubmitting;
	return (
		<form className="pb-3" onSubmit={submit}>
			<EventFields form={form} site={site} where />
			{asked ? (
				<EventQuestion doubt={asked.doubt} body={asked.body} name={name} onKeep={send} onBack={forget} />
			) : (
				<div className="flex flex-wrap gap-2 mt-2">
					<button type="submit" className="act act-main" disabled={busy}>
						Correct it
					</button>
					<button type="button" className="act !font-normal" disabled={busy} onClick={onWithdraw}>
						It never happened: take it back
					</button>
				</div>
			)}
			<p className="text-soft text-[0.85rem] mt-1">
				What was logged first stays in the record; readings and doses since are judged by what it says now.
			</p>
			{form.formState.errors.root && (
				<p role="alert" className="text-error">
					{form.formState.errors.root.message}
				</p>
			)}
		</form>
	);
}
