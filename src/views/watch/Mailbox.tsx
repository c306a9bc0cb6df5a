import { useCallback } from 'react';
import type { SiteView } from '@/core/reading/site-view';
import { useChanges } from '../data/changes';
import { type Held, unheld } from '../data/held';
import { askAgain, useAsked } from '../data/queries';
import { dateTime } from '../ui/format';

/** What the mailbox that stands in for a mail server was sent. */
export function Mailbox({ site: held }: { site: Held<SiteView> }) {
	const site = unheld(held);
	const { data } = useAsked('GET /mailbox', {});
	useChanges(
		useCallback(() => void setTimeout(() => void askAgain(), 1500), []),
		true,
	);
	return (
		<div className="max-w-[46rem]">
			<h1>Mailbox</h1>
			<p className="text-soft mb-3">
				{data?.open === false
					? 'No mailbox stands in here: mail goes to the server that you named.'
					: 'It stands in for a mail server, so that you see what would be sent. Name “mailbox” as the mail server under Watch to use it.'}
			</p>
			<ul>
				{(data?.mails ?? []).map((m) => (
					<li key={m.id} className="border-t border-line py-2" data-mail={m.id}>
						<p>
							<strong>{m.subject}</strong>{' '}
							<span className="text-soft">{dateTime(Date.parse(m.received_at), site.timezone)}</span>
						</p>
						<p className="whitespace-pre-wrap">{m.body}</p>
						<p className="text-soft text-[0.85rem]">
							from {m.sender} to {m.recipient}
						</p>
					</li>
				))}
			</ul>
			{data?.mails.length === 0 && <p>Nothing came so far.</p>}
		</div>
	);
}
