import { useCallback, useEffect, useRef } from 'react';
import { useChanges } from '../data/changes';
import { queries, useAsked } from '../data/queries';

/** How many things go on that were told and nobody has looked at; the browser tells of them too where it was allowed to. */
export default function Bell() {
	const { data } = useAsked('GET /watch', {});
	useChanges(
		useCallback((c) => {
			if (c.kind === 'watch') void queries.invalidateQueries({ queryKey: ['GET /watch'] });
		}, []),
		true,
	);
	const known = useRef<Set<string> | null>(null);
	useEffect(() => {
		if (!data) return;
		const said = new Map<string, string>();
		for (const a of data.alerts) {
			if (a.told_at === null) continue;
			said.set(`${a.id}`, a.words);
			if (a.ended_at !== null && a.ended_words) said.set(`${a.id} ended`, a.ended_words);
		}
		const before = known.current;
		known.current = new Set(said.keys());
		// What was there when the page was opened is no news.
		if (before === null || typeof Notification === 'undefined' || Notification.permission !== 'granted') return;
		for (const [key, words] of said) if (!before.has(key)) new Notification('Cordwain', { body: words, tag: key });
	}, [data]);
	if (!data || (data.conditions.length === 0 && data.alerts.length === 0)) return null;
	const on = data.alerts.filter((a) => a.ended_at === null && a.told_at !== null);
	return (
		<a href="/watch" data-bell={on.length} className={on.length > 0 ? 'font-bold' : ''}>
			{on.length === 0 ? 'All quiet' : on.length === 1 ? '1 alert' : `${on.length} alerts`}
			{data.unseen > 0 && <span className="text-soft font-normal"> ({data.unseen} new)</span>}
		</a>
	);
}
