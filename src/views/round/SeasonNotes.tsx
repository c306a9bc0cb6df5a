import { inDaysWords } from '@/words/en/season';
import { useAsked } from '../data/queries';

/** So long before it begins a stage is spoken of. */
const AHEAD_DAYS = 7;

/** Stages of a season that begin this week, or are due. */
export function SeasonNotes() {
	const plans = useAsked('GET /plans', {}).data?.plans ?? [];
	const soon = plans.filter((p) => p.current !== null && p.next && p.next.in_days <= AHEAD_DAYS);
	return soon.map((p) => (
		<p key={p.system} className="mb-2" data-season-note={p.system}>
			<a className="underline inline-block py-2" href={`/mix?part=season&system=${encodeURIComponent(p.system)}`}>
				{p.name}
			</a>
			: {p.stages[p.next!.index]!.name} {p.next!.in_days < 0 ? 'was' : 'is'} planned {inDaysWords(p.next!.in_days)}.
		</p>
	));
}
