import { tzOffset } from '@date-fns/tz';

/**
 * Times in files: ISO 8601 with offset or Z; a local time without offset is taken in the site's zone.
 *
 * In the hour that daylight saving repeats, a local time names two instants; the first is taken, unless what goes on there had come
 * past it already, and said.
 * In the hour it skips, the time is moved forward by the size of the skip and said.
 */

export type LocalTimeNote = 'site-zone' | 'repeated-hour' | 'skipped-hour';
export type ParsedTime =
	| {
			ok: true;
			at: number;
			local: LocalTimeNote | null;
			/** The second instant of that name, in the hour that daylight saving repeats. */
			again?: number;
	  }
	| { ok: false };

const ISO =
	/^(\d{4})-(\d{2})-(\d{2})(?:[T ](\d{2}):(\d{2})(?::(\d{2})(?:[.,](\d{1,9}))?)?)?\s*(Z|z|[+-]\d{2}(?::?\d{2})?)?$/;
const MINUTE = 60_000;
const DAY = 86_400_000;
/** Nobody logged before, and nobody will after. */
const FIRST_YEAR = 1970;
const LAST_YEAR = 2199;

/**
 * Whether a text names a time zone of the tz database.
 * @example isZone('Europe/Amsterdam') // true
 */
export function isZone(zone: string): boolean {
	// An offset is no zone: it knows nothing of summer.
	if (!/^[A-Za-z][\w+\-/]*$/.test(zone)) return false;
	try {
		new Intl.DateTimeFormat('en', { timeZone: zone });
	} catch {
		return false;
	}
	return Number.isFinite(tzOffset(zone, new Date(0)));
}

function offsetMinutes(text: string): number | undefined {
	if (text === 'Z' || text === 'z') return 0;
	const hours = Number(text.slice(1, 3));
	const minutes = Number(text.slice(3).replace(':', '') || 0);
	if (hours > 14 || minutes > 59) return undefined;
	return (text.startsWith('-') ? -1 : 1) * (hours * 60 + minutes);
}

function inZone(wall: number, zone: string): { at: number; local: LocalTimeNote; again?: number } {
	const before = tzOffset(zone, new Date(wall - DAY));
	const after = tzOffset(zone, new Date(wall + DAY));
	const valid = [...new Set([before, after])]
		.map((offset) => ({ at: wall - offset * MINUTE, offset }))
		.filter(({ at, offset }) => tzOffset(zone, new Date(at)) === offset)
		.map(({ at }) => at)
		.sort((a, b) => a - b);
	if (valid.length === 0) return { at: wall - before * MINUTE, local: 'skipped-hour' };
	if (valid.length > 1) return { at: valid[0]!, local: 'repeated-hour', again: valid[1]! };
	return { at: valid[0]!, local: 'site-zone' };
}

const digit = (text: string, i: number): number => {
	const d = text.charCodeAt(i) - 48;
	return d >= 0 && d <= 9 ? d : Number.NaN;
};
const two = (text: string, i: number): number => 10 * digit(text, i) + digit(text, i + 1);

/** `2026-03-01T07:30:00Z`, with or without milliseconds, as most lines of most files have it; NaN for whatever else is a time too. */
function plainUtc(text: string): number {
	const n = text.length;
	if ((n !== 20 && n !== 24) || text[n - 1] !== 'Z' || text[4] !== '-' || text[7] !== '-' || text[10] !== 'T')
		return Number.NaN;
	if (text[13] !== ':' || text[16] !== ':' || (n === 24 && text[19] !== '.')) return Number.NaN;
	const year = 100 * two(text, 0) + two(text, 2);
	const month = two(text, 5);
	const day = two(text, 8);
	const hour = two(text, 11);
	const minute = two(text, 14);
	const second = two(text, 17);
	const fraction = n === 24 ? 10 * two(text, 20) + digit(text, 22) : 0;
	// The end of a month is looked at by whoever looks at everything.
	const usual = year >= FIRST_YEAR && year <= LAST_YEAR && month >= 1 && month <= 12 && day >= 1 && day <= 28;
	return usual && hour <= 23 && minute <= 59 && second <= 59
		? Date.UTC(year, month - 1, day, hour, minute, second, fraction)
		: Number.NaN;
}

/** All values of a sample say the same time, one after the other: it is read once. */
let lastText = '';
let lastPlain = Number.NaN;

/**
 * @param zone the site's IANA zone, for times without offset
 * @returns milliseconds since 1970 in UTC; refused for impossible dates such as 30 February, and outside of 1970 to 2199
 * @example parseTime('2026-03-01T07:30', 'Europe/Amsterdam') // { ok: true, at: Date.UTC(2026, 2, 1, 6, 30), local: 'site-zone' }
 */
export function parseTime(text: string, zone: string): ParsedTime {
	if (text !== lastText) {
		lastText = text;
		lastPlain = plainUtc(text);
	}
	if (!Number.isNaN(lastPlain)) return { ok: true, at: lastPlain, local: null };
	const m = ISO.exec(text.trim());
	if (!m) return { ok: false };
	const year = Number(m[1]);
	const month = Number(m[2]);
	const day = Number(m[3]);
	const hour = Number(m[4] ?? 0);
	const minute = Number(m[5] ?? 0);
	const second = Number(m[6] ?? 0);
	if (month < 1 || month > 12 || day < 1 || hour > 23 || minute > 59 || second > 59) return { ok: false };
	const wall = Date.UTC(year, month - 1, day, hour, minute, second, m[7] ? Math.trunc(Number(`0.${m[7]}`) * 1000) : 0);
	// Date.UTC rolls 30 February into March.
	if (year < FIRST_YEAR || year > LAST_YEAR || new Date(wall).getUTCDate() !== day) return { ok: false };
	if (m[8] === undefined) return { ok: true, ...inZone(wall, zone) };
	const offset = offsetMinutes(m[8]);
	return offset === undefined ? { ok: false } : { ok: true, at: wall - offset * MINUTE, local: null };
}

/**
 * The clock on the wall of a zone at an instant, as if it were UTC: what an axis of days is drawn by.
 * @example wallTime(Date.UTC(2026, 6, 1, 22), 'Europe/Amsterdam') // Date.UTC(2026, 6, 2)
 */
export const wallTime = (at: number, zone: string): number => at + offsetAt(at, zone) * MINUTE;

/** Minutes from UTC at midnights of UTC, by zone: asking the runtime takes a millisecond, and a chart asks for thousands of points. */
const midnights = new Map<string, Map<number, number>>();
const MOST_MIDNIGHTS = 20_000;

function offsetAt(at: number, zone: string): number {
	const known = midnights.get(zone) ?? new Map<number, number>();
	if (known.size > MOST_MIDNIGHTS) known.clear();
	midnights.set(zone, known);
	const of = (day: number) => {
		const offset = known.get(day) ?? tzOffset(zone, new Date(day * DAY));
		known.set(day, offset);
		return offset;
	};
	const day = Math.floor(at / DAY);
	const before = of(day);
	// Where the clocks are moved within the day it is asked for the instant itself.
	return before === of(day + 1) ? before : tzOffset(zone, new Date(at));
}

/**
 * The instant at which a day begins in a zone; null for what is no date. Where daylight saving skips midnight, the moment after.
 * @example startOfDay('2026-07-02', 'Europe/Amsterdam') // Date.UTC(2026, 6, 1, 22)
 */
export function startOfDay(date: string, zone: string): number | null {
	const parsed = parseTime(`${date}T00:00`, zone);
	return parsed.ok ? parsed.at : null;
}

/**
 * Which of two instants a local time means, line after line: in the night in which the clocks go back, a series that has come past
 * the first is at the second.
 */
export class RepeatedHours {
	/** The newest instant of each series within such an hour. */
	private readonly newest = new Map<string, number>();

	/** @param series whose lines follow each other in order of time */
	settle(series: string, time: { at: number; again?: number }): number {
		if (time.again === undefined) return time.at;
		const before = this.newest.get(series);
		// The same hour of another year is long past.
		const passed = before !== undefined && before >= time.at && before < time.again + HOUR;
		const at = passed ? time.again : time.at;
		this.newest.set(series, at);
		return at;
	}
}
const HOUR = 60 * MINUTE;

/**
 * The instant of the same time of day with day and month exchanged, as a zone's calendar has them; null where they are the same or
 * there is no such month.
 * @example exchangedDate(Date.UTC(2026, 3, 4, 8), 'UTC') // null
 * @example exchangedDate(Date.UTC(2026, 2, 4, 8), 'UTC') // Date.UTC(2026, 3, 3, 8)
 */
export function exchangedDate(at: number, zone: string): number | null {
	const wall = new Date(wallTime(at, zone));
	const [day, month] = [wall.getUTCDate(), wall.getUTCMonth() + 1];
	if (day > 12 || day === month) return null;
	return at + Date.UTC(wall.getUTCFullYear(), day - 1, month) - Date.UTC(wall.getUTCFullYear(), month - 1, day);
}

/** The instant as the files write it: UTC, seconds, and milliseconds only where there are any. */
export function formatTime(at: number): string {
	const iso = new Date(at).toISOString();
	return iso.endsWith('.000Z') ? `${iso.slice(0, -5)}Z` : iso;
}
