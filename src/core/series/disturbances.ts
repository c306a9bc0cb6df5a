import { type EventKind, POURING_KINDS, type WaterEvent } from '../reading/model';

/** How long water takes to be one again after something was done to it (common practice: within the hour). */
const MIXING_MS = 60 * 60_000;
/** An event is noted when it is done, or just after. */
const NOTED_LATE_MS = 15 * 60_000;
const STIRS: ReadonlySet<EventKind> = new Set([
	...POURING_KINDS,
	'sampled',
	'irrigated',
	'probe_cleaned',
	'probe_out',
	'calibrated',
] satisfies EventKind[]);

/** These make the comparison of a sensor with hand readings start afresh. */
export const PUTS_RIGHT: ReadonlySet<EventKind> = new Set(['calibrated', 'probe_cleaned', 'probe_out']);

/**
 * When the water of a station, or a probe in it, was disturbed: from a little before what was noted until it has mixed; joined where
 * they meet, ascending.
 * @param events of one station, in any order
 */
export function disturbances(events: readonly Pick<WaterEvent, 'at' | 'kind'>[]): [number, number][] {
	const all: [number, number][] = [];
	for (const { at } of events.filter((e) => STIRS.has(e.kind)).sort((a, b) => a.at - b.at)) {
		const last = all.at(-1);
		if (last && at - NOTED_LATE_MS <= last[1]) last[1] = at + MIXING_MS;
		else all.push([at - NOTED_LATE_MS, at + MIXING_MS]);
	}
	return all;
}
