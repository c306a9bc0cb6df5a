import type { GainSample } from './nutrient-dose';

/** Readings and events of one station, paired into what each feeding did to its EC. */
export interface Dosed {
	at: number;
	ml: number;
	product: string;
	/** `part A`: one of several poured one after the other; anything else: so much of each part. */
	note?: string | undefined;
}
export interface Seen {
	at: number;
	value: number;
	/** Code of the instrument, where it was said. */
	by?: string | null | undefined;
}

const HOUR = 3_600_000;
/** The reading before a feeding may be a night old, the one after must be of the same day. */
export const BEFORE_MS = 24 * HOUR;
export const AFTER_MS = 6 * HOUR;

/** The readings just before and after an event, where nothing else was done to the water between them. */
export function around(
	at: number,
	readings: readonly Seen[],
	others: readonly number[],
): { before: number; after: number; otherInstrument: boolean } | null {
	let before: Seen | null = null;
	let after: Seen | null = null;
	for (const r of readings) {
		if (r.at <= at && at - r.at <= BEFORE_MS && (!before || r.at > before.at)) before = r;
		if (r.at > at && r.at - at <= AFTER_MS && (!after || r.at < after.at)) after = r;
	}
	if (!before || !after) return null;
	const [from, to] = [before.at, after.at];
	return others.some((o) => o !== at && o > from && o <= to)
		? null
		: { before: before.value, after: after.value, otherInstrument: (before.by ?? null) !== (after.by ?? null) };
}

/** What fills and empties a tank, in litres. */
export interface Filling {
	at: number;
	kind: 'solution_changed' | 'water_added' | 'drained';
	litres: number | null;
}
/** So long after it was filled anew the litres of that filling count; later plants have drunk from it. */
const FILLED_MS = 24 * HOUR;

/** Litres in a tank at a time: those of a filling shortly before, with what was added and drained since; else what it holds. */
export function litresAt(fillings: readonly Filling[], at: number, holdsL: number): number {
	const filled = fillings.findLast((f) => f.kind === 'solution_changed' && f.at <= at && at - f.at <= FILLED_MS);
	if (!filled || filled.litres === null || !(filled.litres > 0)) return holdsL;
	let litres = filled.litres;
	for (const f of fillings)
		if (f.at > filled.at && f.at <= at && f.litres !== null)
			litres += f.kind === 'drained' ? -f.litres : f.kind === 'water_added' ? f.litres : 0;
	return litres > 0 ? litres : holdsL;
}

const PART = /^part ([A-F])\b/;
/** Parts of one feeding follow each other within so long. */
const FEEDING_MS = 2 * HOUR;

/** Whether an event was one part of a feeding, and not so much of each. */
export const isPart = (note: string | undefined): boolean => PART.test(note ?? '');

/** Parts A and B poured one after the other are one feeding: so much of each. */
export function feedings(events: readonly Dosed[]): (Dosed & { parts: number[] })[] {
	const list: (Dosed & { parts: number[]; letters: Set<string> })[] = [];
	for (const e of [...events].sort((a, b) => a.at - b.at)) {
		const letter = PART.exec(e.note ?? '')?.[1];
		const last = list.at(-1);
		if (letter && last && last.letters.size > 0 && !last.letters.has(letter) && e.at - last.at <= FEEDING_MS) {
			last.letters.add(letter);
			last.parts.push(e.at);
			last.ml = Math.max(last.ml, e.ml);
			last.at = e.at;
		} else list.push({ ...e, parts: [e.at], letters: new Set(letter ? [letter] : []) });
	}
	return list.map(({ letters: _, ...f }) => f);
}

/**
 * Each feeding with the EC before and after it, where nothing else happened between: what the gain is learned from.
 * @param together when other feeds were poured: one poured at the very same time shares in what EC did
 */
export function pairFeeds(
	feeds: readonly Dosed[],
	ec: readonly Seen[],
	otherEvents: readonly number[],
	volumeAt: (at: number) => number,
	together: readonly number[] = [],
): GainSample[] {
	return feedings(feeds).flatMap((f) => {
		if (f.parts.some((at) => together.includes(at))) return [];
		const own = new Set(f.parts);
		const seen = around(
			f.at,
			ec,
			otherEvents.filter((o) => !own.has(o)),
		);
		return seen ? [{ mlPerL: f.ml / volumeAt(f.at), ecBeforeUsCm: seen.before, ecAfterUsCm: seen.after }] : [];
	});
}
