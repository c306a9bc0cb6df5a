import { done, type Outcome, refused } from '../outcome';
import { formatTime, parseTime, wallTime } from './time';

/**
 * A past moment as people say it: `7:30`, `yesterday 7:30`, `mon 18:05`, `2 jul 7:30`, `-2h`, `40 min ago`, or a time in full.
 *
 * A clock time alone is the last time the clock in the site's zone showed it. A day without an hour is asked about, for a reading is
 * held against what was poured before it. In the hour that daylight saving repeats the first is taken.
 */
export type WhenProblem =
	| 'not-a-time'
	| 'which-hour' // a day, but no clock time
	| 'to-come';

const MINUTE = 60_000;
const DAY = 86_400_000;
const BACK: Record<string, number> = { m: MINUTE, h: 60 * MINUTE, d: DAY };
const DAYS = ['sun', 'mon', 'tue', 'wed', 'thu', 'fri', 'sat'];
const MONTHS = ['jan', 'feb', 'mar', 'apr', 'may', 'jun', 'jul', 'aug', 'sep', 'oct', 'nov', 'dec'];

/** Minutes since midnight of `7:30`, `07.30`, `7h30`, `0730`; null for what is none. */
function clock(text: string): number | null {
	const m = /^(\d{1,2})[:.h](\d{2})$/.exec(text) ?? /^(\d{2})(\d{2})$/.exec(text);
	if (!m) return null;
	const [hour, minute] = [Number(m[1]), Number(m[2])];
	return hour < 24 && minute < 60 ? 60 * hour + minute : null;
}

/** Midnight of the day that words mean, on the wall clock of the zone; null for what is no day. */
function dayMeant(words: readonly string[], wallNow: number): number | null {
	const today = Math.floor(wallNow / DAY) * DAY;
	const [first = '', second = ''] = words;
	if (words.length === 1) {
		if (first === 'today') return today;
		if (first === 'yesterday') return today - DAY;
		const weekday = first.length >= 3 ? DAYS.findIndex((d) => first.startsWith(d)) : -1;
		if (weekday < 0) return null;
		const back = (new Date(today).getUTCDay() - weekday + 7) % 7;
		return today - (back === 0 ? 7 : back) * DAY;
	}
	const typed = words.length === 3 && /^(19|20)\d\d$/.test(words[2]!) ? Number(words[2]) : null;
	if (words.length !== 2 && typed === null) return null;
	const [number, name] = /^\d/.test(first) ? [first, second] : [second, first];
	const month = name.length >= 3 ? MONTHS.findIndex((m) => name.startsWith(m)) : -1;
	if (month < 0 || !/^\d{1,2}$/.test(number)) return null;
	const now = new Date(wallNow).getUTCFullYear();
	for (const year of typed === null ? [now, now - 1] : [typed]) {
		const at = Date.UTC(year, month, Number(number));
		if (new Date(at).getUTCMonth() === month && at <= today) return at;
	}
	return null;
}

/**
 * @param now milliseconds since 1970, UTC
 * @param zone the site's IANA zone
 * @example parseWhen('yesterday 7:30', Date.UTC(2026, 6, 2, 10), 'Europe/Amsterdam').value // Date.UTC(2026, 6, 1, 5, 30)
 * @example parseWhen('-2h', Date.UTC(2026, 6, 2, 10), 'Europe/Amsterdam').value // Date.UTC(2026, 6, 2, 8)
 */
export function parseWhen(text: string, now: number, zone: string): Outcome<number, WhenProblem> {
	const said = text.trim().toLowerCase().replaceAll('−', '-');
	if (said === '' || said === 'now') return done(now);
	const back =
		/^-\s*(\d+(?:[.,]\d+)?)\s*(m|h|d)[a-z]*$/.exec(said) ?? /^(\d+(?:[.,]\d+)?)\s*(m|h|d)[a-z]*\s+ago$/.exec(said);
	if (back) return done(now - Number(back[1]!.replace(',', '.')) * BACK[back[2]!]!);
	const full = parseTime(text, zone);
	if (full.ok) {
		if (/^\d{4}-\d{2}-\d{2}$/.test(said)) return refused('which-hour');
		return full.at > now ? refused('to-come') : done(full.at);
	}
	const words = said.split(/[\s,]+/).filter((w) => w !== '' && w !== 'at');
	const minutes = clock(words.at(-1) ?? '');
	const wallNow = wallTime(now, zone);
	const day = dayMeant(minutes === null ? words : words.slice(0, -1), wallNow);
	if (minutes === null) return refused(day === null ? 'not-a-time' : 'which-hour');
	const alone = words.length === 1;
	if (day === null && !alone) return refused('not-a-time');
	const onWall = (midnight: number): number | null => {
		const at = parseTime(new Date(midnight + minutes * MINUTE).toISOString().slice(0, 16), zone);
		return at.ok ? at.at : null;
	};
	const midnight = day ?? Math.floor(wallNow / DAY) * DAY;
	const at = onWall(midnight);
	if (at === null) return refused('not-a-time');
	if (at <= now) return done(at);
	const before = alone ? onWall(midnight - DAY) : null;
	return before === null ? refused('to-come') : done(before);
}

/**
 * A past day as people say it: `today`, `yesterday`, `mon`, `2 jul`, `2 jul 2025`, `2026-07-02`; null for what is none.
 * @returns `yyyy-mm-dd` of the zone
 * @example parseDay('2 jul', Date.UTC(2026, 6, 14), 'Europe/Amsterdam') // '2026-07-02'
 */
export function parseDay(text: string, now: number, zone: string): string | null {
	const said = text.trim().toLowerCase();
	if (/^\d{4}-\d{2}-\d{2}$/.test(said)) return parseTime(said, zone).ok ? said : null;
	const midnight = dayMeant(said.split(/\s+/), wallTime(now, zone));
	return midnight === null ? null : new Date(midnight).toISOString().slice(0, 10);
}

/**
 * A moment as parseWhen reads it back, to the minute, by the clock of a zone.
 * @example typedWhen(Date.UTC(2026, 6, 1, 5, 30), 'Europe/Amsterdam') // '2026-07-01 07:30'
 */
export const typedWhen = (at: number, zone: string): string =>
	formatTime(wallTime(at, zone)).slice(0, 16).replace('T', ' ');
