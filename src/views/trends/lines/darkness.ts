import type { StoredEvent } from '@/contract/events';
import type { SiteView } from '@/core/reading/site-view';
import { nights, type Stretch } from '@/core/series/nights';

/** In a longer span days and nights are too narrow to be told apart. */
const UP_TO_MS = 35 * 86_400_000;

/** The hours without light of a chart, and what they are. */
export function darkness(
	events: readonly StoredEvent[],
	site: SiteView,
	{ from, to }: { from: number; to: number },
): { stretches: Stretch[]; words: string } {
	if (to - from > UP_TO_MS) return { stretches: [], words: '' };
	const lamps = events.flatMap((e) =>
		e.kind === 'lights_on' || e.kind === 'lights_off' ? [{ at: Date.parse(e.time), on: e.kind === 'lights_on' }] : [],
	);
	const stretches = nights(lamps, site.settings.place, from, to);
	const byLamps = lamps.some((l) => l.at >= from && l.at <= to);
	return { stretches, words: stretches.length === 0 ? '' : byLamps ? 'grey: lamps off' : 'grey: the sun is down' };
}
