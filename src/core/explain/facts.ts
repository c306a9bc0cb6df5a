import { median } from '../series/robust';
import { theilSen } from '../trend/kendall';
import { type Point, spansOf } from '../trend/trend';
import type { Act, Beside, Book } from './book';

/** A rate with its standard uncertainty. */
export interface Rate {
	value: number;
	u: number;
}
/** What the book knows beside the quantity itself; null where it knows nothing. */
export interface Facts {
	/** What the pen strays by in a day: pH, or share of EC; by its calibrations, and by what another pen said beside it. */
	strays: Rate & { calibrations: number; pairs: number };
	/** EC as a share of itself a day where pH is asked about, pH a day where EC is; between what was poured in. */
	other: Rate | null;
	/** Litres a day of the second half against the first. */
	drinks: number | null;
	tempC: number | null;
	oxygen: number | null;
	/** Share that ran off in the last third of the time. */
	share: number | null;
	/** EC of the drain against the feed’s, last third. */
	overFeed: number | null;
	/** What the drain would follow of a change of its feed, as a share of EC; 0 where the feed is as it was. */
	fedBy: number;
	/** Slope of the first third, as a share of the slope since: near 1 it was always so, near 0 it began later. */
	began: number | null;
	/** Acid given, and how often no reading afterwards stood below the one before. */
	acids: number;
	rebounds: number;
}

const DAY = 86_400_000;
const Z95 = 1.96;
/** Beliefs on a pen: how it strays a day, and by chance each √day (pH; share of EC). The chance is half of what is supposed before anything is known of a pen. */
const STRAYS = { ph: 0.02, ec: 0.006 } as const;
/** Of one that nobody has checked meanwhile. */
const UNCHECKED = { ph: 0.03, ec: 0.012 } as const;
const WALK = { ph: 0.015, ec: 0.004 } as const;
/** A dip in a buffer tells the error to so much. */
export const DIP = { ph: 0.015, ec: 0.006 } as const;

/** What the book says beside the quantity itself. Thresholds stand where the facts are weighed (explain.ts). */
export function factsOf(book: Book): Facts {
	const { readings } = book;
	const [from, to] = [readings[0]?.at ?? 0, readings.at(-1)?.at ?? 0];
	const late = to - (to - from) / 3;
	const poured = book.acts.filter((a) => a.kind !== 'acid' && a.kind !== 'base').map((a) => a.at);
	const other = book.other.map((p) => ({
		at: p.at,
		value: book.quantity === 'ph' ? Math.log(Math.max(p.value, 1)) : p.value,
	}));
	return {
		strays: straysOf(book),
		other: slopeOf(other, poured),
		drinks: drinksOf(book.acts, from, to),
		tempC: mid(book.temps),
		oxygen: mid(book.oxygen),
		share: mid(book.shares.filter((s) => s.at >= late)),
		overFeed: overFeedOf(book, late),
		fedBy: fedByOf(book),
		began: beganOf(book),
		...reboundsOf(book),
	};
}

const mid = (list: readonly Beside[]): number | null => (list.length < 2 ? null : median(list.map((x) => x.value)));

function slopeOf(points: readonly Point[], cuts: readonly number[]): Rate | null {
	const parts = spansOf(points, cuts)
		.filter((s) => s.length > 1)
		.map((s) => ({ x: s.map((p) => p.at / DAY), y: s.map((p) => p.value) }));
	if (parts.reduce((n, p) => n + p.x.length, 0) < 6) return null;
	const slope = theilSen(parts);
	return slope && { value: slope.value, u: Math.max(1e-6, (slope.high - slope.low) / (2 * Z95)) };
}

/** Weighs what each cycle between adjustments found, what a second pen shows, and what pens usually do. */
function straysOf({ quantity, readings, calibrated, pairs }: Book): Facts['strays'] {
	const scale = (value: number, at: number) => {
		if (quantity === 'ph') return value;
		const near = readings.reduce((m, r) => (Math.abs(r.at - at) < Math.abs(m.at - at) ? r : m), readings[0]!);
		return value / near.value;
	};
	let [weight, sum] = [1 / STRAYS[quantity] ** 2, 0];
	const take = (rate: number, u: number) => {
		weight += 1 / u ** 2;
		sum += rate / u ** 2;
	};
	let calibrations = 0;
	for (const [i, t] of calibrated.entries()) {
		const cycle = readings.filter((r) => r.at <= t && r.at > (calibrated[i - 1] ?? Number.NEGATIVE_INFINITY));
		const [a, b] = [cycle[0], cycle.at(-1)];
		if (!a || !b || b.at - a.at < 2 * DAY) continue;
		const days = (b.at - a.at) / DAY;
		calibrations++;
		take(
			(scale(b.off, b.at) - scale(a.off, a.at)) / days,
			Math.hypot(WALK[quantity] * Math.sqrt(days), DIP[quantity]) / days,
		);
	}
	const beside = slopeOf(
		pairs.map((p) => ({ at: p.at, value: readings.length > 0 ? scale(p.value, p.at) : 0 })),
		calibrated,
	);
	// The other pen strays as well.
	if (beside) take(beside.value, Math.hypot(beside.u, STRAYS[quantity] / 2));
	const checked = calibrations > 0 || beside !== null;
	return {
		value: sum / weight,
		u: checked ? Math.sqrt(1 / weight) : UNCHECKED[quantity],
		calibrations,
		pairs: pairs.length,
	};
}

function drinksOf(acts: readonly Act[], from: number, to: number): number | null {
	const filled = acts.filter((a) => a.litres !== null && (a.kind === 'water' || a.kind === 'feed'));
	if (filled.length < 4) return null;
	const half = from + (to - from) / 2;
	const sum = (list: readonly Act[]) => list.reduce((n, a) => n + a.litres!, 0);
	const [first, second] = [sum(filled.filter((a) => a.at <= half)), sum(filled.filter((a) => a.at > half))];
	return first > 0 ? second / first : null;
}

function overFeedOf(book: Book, late: number): number | null {
	const drain = median(book.readings.filter((r) => r.at >= late).map((r) => r.value));
	const feed = median(book.feed.filter((r) => r.at >= late - 2 * DAY).map((r) => r.value));
	return drain > 0 && feed > 0 ? drain / feed : null;
}

/** A change of feed shows in the drain somewhat stronger: what plants take stays as it was. */
const FOLLOWS = 1.4;
function fedByOf({ feed }: Book): number {
	let most = 0;
	for (let i = 2; i <= feed.length - 2; i++) {
		const of = (list: readonly Beside[]) => median(list.map((r) => Math.log(Math.max(r.value, 1))));
		const change = of(feed.slice(i)) - of(feed.slice(0, i));
		if (Math.abs(change) > Math.abs(most)) most = change;
	}
	return FOLLOWS * most;
}

function beganOf(book: Book): number | null {
	const [from, to] = [book.readings[0]?.at ?? 0, book.readings.at(-1)?.at ?? 0];
	const cuts = book.acts.filter((a) => a.kind === 'acid' || a.kind === 'base' || a.kind === 'changed').map((a) => a.at);
	const third = from + (to - from) / 3;
	const of = (list: Book['readings']) => slopeOf(list, cuts);
	const [first, since] = [
		of(book.readings.filter((r) => r.at <= third)),
		of(book.readings.filter((r) => r.at > third)),
	];
	if (!first || !since || Math.abs(since.value) < 2 * since.u) return null;
	// Too uncertain to tell one from the other.
	if (first.u > 0.6 * Math.abs(since.value)) return null;
	return first.value / since.value;
}

function reboundsOf({ quantity, readings, acts }: Book): { acids: number; rebounds: number } {
	if (quantity !== 'ph') return { acids: 0, rebounds: 0 };
	let [acids, rebounds] = [0, 0];
	for (const a of acts.filter((x) => x.kind === 'acid')) {
		const before = readings.findLast((r) => r.at <= a.at && a.at - r.at < 1.5 * DAY);
		const after = readings.find((r) => r.at > a.at && r.at - a.at < 1.5 * DAY);
		// Water poured in meanwhile brings it back by itself.
		if (!before || !after || acts.some((w) => w.kind === 'water' && w.at > before.at && w.at <= after.at)) continue;
		acids++;
		if (after.value > before.value - 0.1) rebounds++;
	}
	return { acids, rebounds };
}
