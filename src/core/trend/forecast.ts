import { madSigma, median } from '../series/robust';
import { normalAt } from '../stats/quasi-normal';
import { theilSen } from './kendall';
import { type Point, spansOf, type Trend, trendOf, withoutTheDay } from './trend';

/** When a limit is reached if nothing is done: a window, never a moment. */
export interface Window {
	/** Nine times in ten not before, and not after. */
	from: number;
	to: number;
	middle: number;
	limit: number;
}

const DAY = 86_400_000;
const DRAWS = 600;
/** Farther than this nobody knows the weather. */
const HORIZON_DAYS = 30;
/** An older reading says nothing of when. */
const STALE_MS = 3 * DAY;
/** Fewer readings since the water was last changed say nothing of what comes. */
const LEAST = 4;
/** The pace of a day beside that of the next, where nothing else is known: plants and weather (common practice, no source). */
const SWAYS = 0.5;
/** A tank that is drunk empty goes faster, a pH that climbs tires: growth of the pace a day, as a standard deviation of its logarithm. */
const BENDS = 0.12;
/** It bends for so long; a feed, a change or the season ends that. */
const BENDS_DAYS = 7;
/** The pace is that of the last days, or of the last readings where they are few. */
const RECENT = 6;
const RECENT_DAYS = 5;
/** A pace keeps for so many days before another takes its place. */
const KEEPS_DAYS = 3;

/**
 * The window in which a series comes to a limit, from its pace since the water was last changed and from how its pace has differed from one
 * stretch to the next. Quasi-random paths (Halton 1960): where it stands, how fast it goes, how its pace wanders.
 * @param points believed values, oldest first
 * @param cuts times of what moves it at once
 * @param limit in the unit of the values
 * @param trend of the same points, where it is known already
 * @returns null where it does not go there for sure, stands beyond it already, or may well take longer than a month
 */
export function windowTo(
	points: readonly Point[],
	cuts: readonly number[],
	limit: number,
	now: number,
	dayOf: (at: number) => number = (at) => Math.floor(at / DAY),
	trend: Trend = trendOf(points, cuts, dayOf),
): Window | null {
	const spans = spansOf(points, cuts).map((s) => withoutTheDay(s, dayOf));
	const last = spans.at(-1);
	// What was done after the last reading nobody has measured, and what became of it since is not known for long.
	if (
		!last ||
		last.length < LEAST ||
		now - last.at(-1)!.at > STALE_MS ||
		cuts.some((c) => c > last.at(-1)!.at && c <= now)
	)
		return null;
	const recent = last.filter((p, i) => i >= last.length - RECENT || p.at > last.at(-1)!.at - RECENT_DAYS * DAY);
	const own = theilSen([{ x: recent.map((p) => p.at / DAY), y: recent.map((p) => p.value) }], 0.68);
	if (!own) return null;
	const others = spans.slice(0, -1).flatMap((s) => {
		const slope = s.length < LEAST ? null : theilSen([{ x: s.map((p) => p.at / DAY), y: s.map((p) => p.value) }]);
		return slope ? [slope.value] : [];
	});
	const noise = noiseOf(spans);
	const pace = paceOf(own, others, recent, noise);
	const level = median(last.slice(-3).map((p) => p.value + pace.value * ((now - p.at) / DAY)));
	const away = limit - level;
	if (away * pace.value <= 0 || Math.abs(pace.value) < 1.3 * pace.u) return null;
	if (trend.says !== (away > 0 ? 'rising' : 'falling') && others.length > 0) return null;
	// What a probe is off by stands in all of its readings alike.
	const days = daysTo(away, pace, Math.hypot(1.25 * noise, last.at(-1)!.u ?? 0));
	const [from, middle, to] = [0.05, 0.5, 0.95].map((p) => days[Math.round(p * (days.length - 1))]!);
	if (!Number.isFinite(to!)) return null;
	return { from: now + from! * DAY, middle: now + middle! * DAY, to: now + to! * DAY, limit };
}

/** How far single readings lie from the line of their stretch, as a standard deviation; of all stretches, since a few readings agree by chance. */
function noiseOf(spans: readonly (readonly Point[])[]): number {
	const off = spans.flatMap((span) => {
		const slope = span.length < 3 ? null : theilSen([{ x: span.map((p) => p.at / DAY), y: span.map((p) => p.value) }]);
		if (!slope) return [];
		const left = span.map((p) => p.value - slope.value * (p.at / DAY));
		const middle = median(left);
		// Two of them went into the line.
		const free = Math.sqrt(span.length / (span.length - 2));
		return left.map((v) => (v - middle) * free);
	});
	return madSigma(off);
}

/** The pace now: that of this stretch, drawn towards the others by how far they have differed. */
function paceOf(
	own: { value: number; low: number; high: number },
	others: readonly number[],
	span: readonly Point[],
	noise: number,
): { value: number; u: number } {
	const days = (span.at(-1)!.at - span[0]!.at) / DAY;
	// Few readings agree by chance: never surer than a line through so many of their noise.
	const least = (noise * Math.sqrt(12 / span.length)) / Math.max(days, 0.5);
	const u = Math.max((own.high - own.low) / 2, least);
	if (others.length < 2) return { value: own.value, u };
	const middle = median(others);
	const between = Math.max(madSigma(others), 0.1 * Math.abs(middle));
	const weight = between ** 2 / (between ** 2 + u ** 2);
	return { value: weight * own.value + (1 - weight) * middle, u: Math.sqrt(weight) * u };
}

/** Days until paths come there, shortest first; without end where one does not within the horizon. */
function daysTo(away: number, pace: { value: number; u: number }, levelU: number): number[] {
	const days: number[] = [];
	for (let n = 1; n <= DRAWS; n++) {
		const z = [2, 3, 5, 7, 11, 13, 17].map((p) => normalAt(n, p));
		const first = pace.value + pace.u * z[0]!;
		let left = away - levelU * z[1]!;
		let found = left * away <= 0 ? 0 : Number.POSITIVE_INFINITY;
		for (let t = 0, k = 2; found === Number.POSITIVE_INFINITY && t < HORIZON_DAYS; k++) {
			const rate =
				first * Math.exp(SWAYS * z[2 + ((k - 2) % 4)]! + BENDS * z[6]! * Math.min(t + KEEPS_DAYS / 2, BENDS_DAYS));
			const need = left / rate;
			if (need >= 0 && need <= KEEPS_DAYS) found = t + need;
			left -= rate * KEEPS_DAYS;
			t += KEEPS_DAYS;
		}
		days.push(found > HORIZON_DAYS ? Number.POSITIVE_INFINITY : found);
	}
	return days.sort((a, b) => a - b);
}
