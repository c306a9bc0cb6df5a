/** When a system is watered: at times of the clock, every so many minutes of the day, or each time so much light has come in. */
export type RunTimes =
	| { by: 'clock'; at: readonly string[] }
	| { by: 'interval'; everyMin: number; from: string; until: string }
	/** Light sums in J/cm² of global radiation, for one run and for a day as it was typed in. */
	| { by: 'light'; runJCm2: number; dayJCm2: number };

/** Minutes since midnight of `7:30`; undefined where it is no time of day. */
function minuteOf(clock: string): number | undefined {
	const m = /^(\d{1,2})[:.h](\d{2})$/.exec(clock.trim());
	const [h, min] = [Number(m?.[1]), Number(m?.[2])];
	return m && h < 24 && min < 60 ? 60 * h + min : undefined;
}
const clockOf = (minute: number): string =>
	`${String(Math.floor(minute / 60)).padStart(2, '0')}:${String(Math.round(minute) % 60).padStart(2, '0')}`;

/**
 * How many runs a day that comes to; null where the times make no day.
 * @example runsOf({ by: 'interval', everyMin: 60, from: '07:00', until: '19:00' }) // 13
 */
export function runsOf(t: RunTimes): number | null {
	if (t.by === 'clock') return t.at.length > 0 && t.at.every((x) => minuteOf(x) !== undefined) ? t.at.length : null;
	if (t.by === 'light') return t.runJCm2 > 0 ? Math.floor(t.dayJCm2 / t.runJCm2) || null : null;
	const [from, until] = [minuteOf(t.from), minuteOf(t.until)];
	if (from === undefined || until === undefined || until < from || !(t.everyMin > 0)) return null;
	return Math.floor((until - from) / t.everyMin) + 1;
}

/**
 * The same day with another number of runs: spread evenly between the first and the last, or each for less light. Never fewer than asked.
 * @param runs 1 or more
 * @example withRuns({ by: 'interval', everyMin: 120, from: '07:00', until: '19:00' }, 13).everyMin // 60
 */
export function withRuns(t: RunTimes, runs: number): RunTimes {
	if (t.by === 'light') return { ...t, runJCm2: Math.max(1, Math.floor(t.dayJCm2 / runs)) };
	if (t.by === 'interval') {
		const span = (minuteOf(t.until) ?? 0) - (minuteOf(t.from) ?? 0);
		const every = runs > 1 ? span / (runs - 1) : span;
		// Clocks are set in steps of five minutes, down, so that no run is lost.
		return { ...t, everyMin: Math.max(1, every >= 15 ? Math.floor(every / 5) * 5 : Math.floor(every)) };
	}
	const minutes = t.at.flatMap((x) => minuteOf(x) ?? []).sort((a, b) => a - b);
	const [first, last] = [minutes[0] ?? 420, minutes.at(-1) ?? 1140];
	if (runs <= 1) return { by: 'clock', at: [clockOf(first)] };
	const end = last > first ? last : Math.min(first + 720, 1430);
	return {
		by: 'clock',
		at: Array.from({ length: runs }, (_, i) => clockOf(Math.round(first + ((end - first) * i) / (runs - 1)))),
	};
}

/**
 * Times as they are typed: `7:00 9:00 13:00`, `every 60 min 7:00 to 19:00`, `each 120 J/cm2, 1800 a day`.
 * @returns null for what is none of these
 * @example readRunTimes('every 2 h 7:00 to 19:00') // { by: 'interval', everyMin: 120, from: '07:00', until: '19:00' }
 */
export function readRunTimes(text: string): RunTimes | null {
	const t = text.trim().toLowerCase().replaceAll('²', '2');
	const every =
		/^every\s+(\d+(?:[.,]\d+)?)\s*(min\w*|h\w*)\s*,?\s*(?:from\s*)?(\d{1,2}[:.h]\d{2})\s*(?:to|until|-|–)\s*(\d{1,2}[:.h]\d{2})$/.exec(
			t,
		);
	if (every) {
		const n = Number(every[1]!.replace(',', '.'));
		const [from, until] = [minuteOf(every[3]!), minuteOf(every[4]!)];
		if (from === undefined || until === undefined) return null;
		const read: RunTimes = {
			by: 'interval',
			everyMin: every[2]!.startsWith('h') ? 60 * n : n,
			from: clockOf(from),
			until: clockOf(until),
		};
		return runsOf(read) === null ? null : read;
	}
	const light = /^each\s+(\d+)\s*j(?:\/cm2)?\s*,?\s*(\d+)\s*(?:j(?:\/cm2)?)?\s*(?:a day)?$/.exec(t);
	if (light) {
		const read: RunTimes = { by: 'light', runJCm2: Number(light[1]), dayJCm2: Number(light[2]) };
		return runsOf(read) === null ? null : read;
	}
	const at = t.split(/[\s,;]+/).map(minuteOf);
	if (at.length === 0 || at.some((x) => x === undefined)) return null;
	return { by: 'clock', at: [...new Set(at as number[])].sort((a, b) => a - b).map(clockOf) };
}

/** The times as readRunTimes understands them. */
export const showRunTimes = (t: RunTimes): string =>
	t.by === 'clock'
		? t.at.join(' ')
		: t.by === 'interval'
			? `every ${t.everyMin} min ${t.from} to ${t.until}`
			: `each ${t.runJCm2} J/cm2, ${t.dayJCm2} a day`;

/** A share of drain from a day of the year on, month and day as `04-01`. */
export interface SeasonShare {
	from: string;
	pct: [number, number];
}

/**
 * The share that is aimed at on a day, by the season that began last; undefined where no season is set.
 * @param day as `2026-08-14`
 * @example seasonShare([{ from: '04-01', pct: [20, 35] }, { from: '10-01', pct: [15, 30] }], '2026-08-14') // [20, 35]
 */
export function seasonShare(seasons: readonly SeasonShare[], day: string): [number, number] | undefined {
	const sorted = [...seasons].sort((a, b) => (a.from < b.from ? -1 : 1));
	// Before the first season of the year the last one of the year before goes on.
	return (sorted.findLast((s) => s.from <= day.slice(5)) ?? sorted.at(-1))?.pct;
}

const MONTHS = ['jan', 'feb', 'mar', 'apr', 'may', 'jun', 'jul', 'aug', 'sep', 'oct', 'nov', 'dec'];

/**
 * Shares by season as they are typed.
 * @returns null for what is none
 * @example readSeasons('1 Apr 20 to 35; 1 Oct 15 to 30') // [{ from: '04-01', pct: [20, 35] }, { from: '10-01', pct: [15, 30] }]
 */
export function readSeasons(text: string): SeasonShare[] | null {
	const seasons: SeasonShare[] = [];
	for (const part of text.split(';')) {
		const m = /^\s*(?:from\s+)?(\d{1,2})\s*([a-z]{3})[a-z]*\s*:?\s+(\d{1,2})\D+(\d{1,2})\s*%?\s*$/i.exec(part);
		const month = MONTHS.indexOf(m?.[2]?.toLowerCase() ?? '') + 1;
		const [day, low, high] = [Number(m?.[1]), Number(m?.[3]), Number(m?.[4])];
		if (!m || month === 0 || day < 1 || day > 31 || low >= high) return null;
		seasons.push({ from: `${String(month).padStart(2, '0')}-${String(day).padStart(2, '0')}`, pct: [low, high] });
	}
	return seasons;
}

/** The shares as readSeasons understands them. */
export const showSeasons = (seasons: readonly SeasonShare[]): string =>
	seasons
		.map(({ from, pct }) => {
			const month = MONTHS[Number(from.slice(0, 2)) - 1]!;
			return `${Number(from.slice(3))} ${month[0]!.toUpperCase()}${month.slice(1)} ${pct[0]} to ${pct[1]}`;
		})
		.join('; ');
