import type { StoredEvent } from '@/contract/events';
import type { SiteView } from '@/core/reading/site-view';
import { eventLine } from '@/words/en/event';
import { enter } from '../data/queue';
import { EventFields } from './EventFields';
import { EventQuestion } from './EventQuestion';
import { valuesOf } from './event-values';
import { useEventForm } from './use-event-form';

/** An event's own words, to be mended; or it is taken back. */
export default function EventMend({
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
