/** What can be watched for. */
export const WATCH_KINDS = ['out-of-range', 'will-leave', 'silent', 'out-of-water', 'doubtful', 'below-level'] as const;
export type WatchKind = (typeof WATCH_KINDS)[number];

/** What a condition comes to: it holds since a time, it does not, or nobody can tell. */
export type WatchState =
	| { holds: true; since: number; value: number | null; limit: number | null; by?: number | undefined }
	| { holds: false }
	| null;

export interface WatchedPoint {
	at: number;
	value: number;
}
const MINUTE = 60_000;
/** It ends this share of the range inside it, so that a value at its edge does not come and go. */
const INSIDE = 0.05;

/**
 * Whether what is believed has been out of its range for longer than some minutes. Once it is told it goes on until a value lies inside
 * by a twentieth of the range.
 * @param points believed, ascending
 * @param told it is told already
 * @example outOfRange([{ at: 0, value: 7 }, { at: 600000, value: 7 }], { low: 5, high: 6 }, 5, 600000, false) // { holds: true, since: 0, value: 7, limit: 6 }
 */
export function outOfRange(
	points: readonly WatchedPoint[],
	range: { low: number; high: number },
	minutes: number,
	now: number,
	told: boolean,
): WatchState {
	const newest = points.at(-1);
	if (!newest) return null;
	const room = told ? INSIDE * (range.high - range.low) : 0;
	const out = (v: number) => v < range.low + room || v > range.high - room;
	let since: number | null = null;
	for (let i = points.length - 1; i >= 0 && out(points[i]!.value); i--) since = points[i]!.at;
	if (since === null) return { holds: false };
	if (!told && now - since < minutes * MINUTE) return { holds: false };
	const limit = newest.value < (range.low + range.high) / 2 ? range.low : range.high;
	return { holds: true, since, value: newest.value, limit };
}

/**
 * Whether a level lies below its least; it ends a twentieth above.
 * @example belowLevel([{ at: 0, value: 80 }], 100, false) // { holds: true, since: 0, value: 80, limit: 100 }
 */
export function belowLevel(points: readonly WatchedPoint[], least: number, told: boolean): WatchState {
	const newest = points.at(-1);
	if (!newest) return null;
	const limit = told ? least * (1 + INSIDE) : least;
	let since: number | null = null;
	for (let i = points.length - 1; i >= 0 && points[i]!.value < limit; i--) since = points[i]!.at;
	return since === null ? { holds: false } : { holds: true, since, value: newest.value, limit: least };
}

/**
 * Whether a node has said nothing for longer than some minutes.
 * @param newest its newest sample; null where there is none yet
 * @example silent(0, 10, 900000) // { holds: true, since: 0, value: null, limit: null }
 */
export function silent(newest: number | null, minutes: number, now: number): WatchState {
	if (newest === null) return null;
	return now - newest > minutes * MINUTE ? { holds: true, since: newest, value: null, limit: null } : { holds: false };
}

/**
 * Whether a stretch of doubt goes on for longer than some minutes.
 * @param stretches that the newest sample is one of
 * @example doubtful([{ since: 0 }], 10, 900000) // { holds: true, since: 0, value: null, limit: null }
 */
export function doubtful(stretches: readonly { since: number }[], minutes: number, now: number): WatchState {
	const since = stretches.reduce((m, s) => Math.min(m, s.since), Number.POSITIVE_INFINITY);
	return now - since > minutes * MINUTE ? { holds: true, since, value: null, limit: null } : { holds: false };
}

/**
 * Whether nothing is told now: quiet hours may run over midnight.
 * @param minute of the day
 * @example isQuiet({ from: 1320, to: 360 }, 60) // true
 */
export const isQuiet = (quiet: { from: number; to: number } | null, minute: number): boolean =>
	quiet !== null &&
	(quiet.from <= quiet.to ? minute >= quiet.from && minute < quiet.to : minute >= quiet.from || minute < quiet.to);
