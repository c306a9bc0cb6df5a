import type { WaterEvent } from '../reading/model';
import { countWhile } from '../series/search';

const NONE: readonly WaterEvent[] = [];

/** Events after one time and up to another, from a list in order of time. */
export function eventsBetween(
	list: readonly WaterEvent[] | undefined,
	after: number,
	upTo: number,
): readonly WaterEvent[] {
	if (!list || list.length === 0 || list[list.length - 1]!.at <= after) return NONE;
	const low = countWhile(list, (e) => e.at <= after);
	let end = low;
	while (end < list.length && list[end]!.at <= upTo) end++;
	return end === low ? NONE : list.slice(low, end);
}

/** Puts an event where it belongs in a list in order of time; of those at one time the later given stands last. */
export function insertEvent(list: WaterEvent[], event: WaterEvent): void {
	let i = list.length;
	while (i > 0 && list[i - 1]!.at > event.at) i--;
	list.splice(i, 0, event);
}
