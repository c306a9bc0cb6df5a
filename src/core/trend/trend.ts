import type { Quantity } from '../quantity';
import type { EventKind } from '../reading/model';
import { median } from '../series/robust';
import { mannKendall, type Part, theilSen } from './kendall';

/** A believed value of a series. */
export interface Point {
	at: number;
	value: number;
	/** Standard uncertainty of what the probe may be off by, where that is known. */
	u?: number | undefined;
}
/** What a series does between what is done to the water; nothing where too little is known. */
export interface Trend {
	/** `rising` and `falling` only where chance alone hardly ever does that. */
	says: 'rising' | 'falling' | 'steady' | 'unknown';
	/** Per day, with the bounds that hold it in 95 of 100 cases; null where nothing can be said. */
	perDay: { value: number; low: number; high: number } | null;
	/** How likely chance alone does as much; null where it cannot be asked. */
	p: number | null;
	readings: number;
	/** Stretches between events that have two readings or more. */
	spans: number;
	from: number | null;
	to: number | null;
}

const DAY = 86_400_000;
/** Fewer than so many readings in spans say nothing. */
const LEAST = 6;
const RARE = 0.05;
/** More readings a day than this swing with the day: each day counts once, by its middle. */
const MANY_A_DAY = 3;

const MOVES_EC: readonly EventKind[] = ['water_added', 'nutrient_added', 'solution_changed', 'drained'];
const MOVES_PH: readonly EventKind[] = [...MOVES_EC, 'acid_added', 'base_added'];

/**
 * Events that a series of a quantity is cut at: what moves it at once, so that no slope is taken across.
 * @example cutsOf('ec').includes('acid_added') // false
 */
export const cutsOf = (quantity: Quantity): readonly EventKind[] =>
	quantity === 'ph' ? MOVES_PH : quantity === 'temp' ? ['solution_changed'] : MOVES_EC;

/** The stretches of a series between cuts, each oldest first. */
export function spansOf(points: readonly Point[], cuts: readonly number[]): Point[][] {
	const sorted = [...cuts].sort((a, b) => a - b);
	const spans: Point[][] = [];
	let [next, open] = [0, false];
	for (const p of points) {
		while (next < sorted.length && sorted[next]! <= p.at) {
			next++;
			open = false;
		}
		if (!open) spans.push([]);
		open = true;
		spans.at(-1)!.push(p);
	}
	return spans;
}

/** A day of many readings counts once: what swings with lights and sun is no trend. */
export function withoutTheDay(span: readonly Point[], dayOf: (at: number) => number): Point[] {
	const days = new Map<number, Point[]>();
	for (const p of span) {
		const day = dayOf(p.at);
		days.set(day, [...(days.get(day) ?? []), p]);
	}
	if (span.length / days.size <= MANY_A_DAY) return [...span];
	return [...days.values()].map((list) => ({
		at: median(list.map((p) => p.at)),
		value: median(list.map((p) => p.value)),
	}));
}

/**
 * What a series does between events: values are compared only within their stretch, so a refill is never taken for a trend.
 * @param points believed values, oldest first
 * @param cuts times of what moves it at once
 * @param dayOf the day that a time lies in, by the site’s clock
 */
export function trendOf(
	points: readonly Point[],
	cuts: readonly number[],
	dayOf: (at: number) => number = (at) => Math.floor(at / DAY),
): Trend {
	const spans = spansOf(points, cuts)
		.map((s) => withoutTheDay(s, dayOf))
		.filter((s) => s.length > 1);
	const readings = spans.reduce((n, s) => n + s.length, 0);
	const nothing = {
		says: 'unknown',
		perDay: null,
		p: null,
		readings,
		spans: spans.length,
		from: spans[0]?.[0]?.at ?? null,
		to: spans.at(-1)?.at(-1)?.at ?? null,
	} as const;
	if (readings < LEAST) return nothing;
	const parts: Part[] = spans.map((s) => ({ x: s.map((p) => p.at / DAY), y: s.map((p) => p.value) }));
	const [test, perDay] = [mannKendall(parts), theilSen(parts)];
	if (!test || !perDay) return nothing;
	const rare = test.p < RARE && perDay.value !== 0;
	return { ...nothing, perDay, p: test.p, says: rare ? (perDay.value > 0 ? 'rising' : 'falling') : 'steady' };
}
