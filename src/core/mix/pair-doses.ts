import type { GainSample } from './nutrient-dose';
import type { PastDose } from './response';

/** Readings and events of one station, paired into what each dose did. */
export interface Dosed {
	at: number;
	ml: number;
	product: string;
}
export interface Seen {
	at: number;
	value: number;
}

const HOUR = 3_600_000;
/** The reading before a dose may be a night old, the one after must be of the same day: uptake moves pH as well. */
const BEFORE_MS = 24 * HOUR;
const AFTER_MS = 6 * HOUR;

/** The readings just before and after an event, where nothing else was done to the water between them. */
export function around(
	at: number,
	readings: readonly Seen[],
	others: readonly number[],
): { before: number; after: number } | null {
	let before: Seen | null = null;
	let after: Seen | null = null;
	for (const r of readings) {
		if (r.at <= at && at - r.at <= BEFORE_MS && (!before || r.at > before.at)) before = r;
		if (r.at > at && r.at - at <= AFTER_MS && (!after || r.at < after.at)) after = r;
	}
	if (!before || !after) return null;
	const [from, to] = [before.at, after.at];
	return others.some((o) => o !== at && o > from && o <= to) ? null : { before: before.value, after: after.value };
}

export function pairDoses(
	doses: readonly Dosed[],
	ph: readonly Seen[],
	otherEvents: readonly number[],
	volumeL: number,
): (PastDose & { at: number })[] {
	return doses.flatMap((d) => {
		const seen = around(d.at, ph, otherEvents);
		return seen && d.ml > 0 ? [{ at: d.at, volumeL, ml: d.ml, phBefore: seen.before, phAfter: seen.after }] : [];
	});
}

export function pairFeeds(
	feeds: readonly Dosed[],
	ec: readonly Seen[],
	otherEvents: readonly number[],
	volumeL: number,
): GainSample[] {
	return feeds.flatMap((f) => {
		const seen = around(f.at, ec, otherEvents);
		return seen ? [{ mlPerL: f.ml / volumeL, ecBeforeUsCm: seen.before, ecAfterUsCm: seen.after }] : [];
	});
}
