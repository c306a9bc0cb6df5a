import { useState } from 'react';
import { useForm } from 'react-hook-form';
import type { EventDoubt } from '@/core/reading/event-doubt';
import type { SiteView } from '@/core/reading/site-view';
import { doubtHere, type EventBody, type EventValues, readEvent } from './event-values';

/**
 * A form for an event: what is wrong is said at its field; an amount that is likelier a slip is asked about once before it is kept.
 * @param keep sends it; what it throws is said in the form
 */
export function useEventForm(site: SiteView, first: EventValues, keep: (body: EventBody) => Promise<void>) {
	const form = useForm<EventValues>({ defaultValues: first });
	const [asked, setAsked] = useState<{ doubt: EventDoubt; body: EventBody } | null>(null);

	async function send(body: EventBody): Promise<void> {
		setAsked(null);
		try {
			await keep(body);
		} catch (error) {
			form.setError('root', { message: (error as Error).message });
		}
	}
	const submit = form.handleSubmit(async (values) => {
		const read = readEvent(values, Date.now(), site.timezone);
		if (!read.ok) return form.setError(read.field, { message: read.message });
		const doubt = doubtHere(read.body, site);
		if (doubt) return setAsked({ doubt, body: read.body });
		await send(read.body);
	});
	return { form, submit, asked, send, forget: () => setAsked(null) };
}
