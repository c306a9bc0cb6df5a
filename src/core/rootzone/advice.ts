import { type Ahead, drainAhead, HELD_L, type Watered } from './drain-ahead';
import type { DrainFound } from './drains';

/**
 * What to change next in a watering whose drain is too strong, one step at a time in the trade’s order (common practice, no source): more
 * runs, then runs that saturate, then a weaker feed, then a flush. Each step says what it expects, so that it can be held against it.
 */
export const STEP_KINDS = ['more-runs', 'longer-runs', 'weaker-feed', 'flush', 'fewer-runs'] as const;
export type StepKind = (typeof STEP_KINDS)[number];

export interface Schedule {
	runsADay: number | null;
	minutes: number | null;
	bags: number | null;
	/** Litres that the medium of all bags holds. */
	heldL: number | null;
}
export interface TakenStep {
	at: number;
	kind: StepKind;
	/** Runs a day until then. */
	runsBefore: number | null;
}
export interface AdviceInput {
	now: number;
	/** Oldest first. */
	samples: readonly DrainFound[];
	schedule: Schedule;
	/** Oldest first. */
	taken: readonly TakenStep[];
	limits: { watchUsCm: number; actUsCm: number };
	/** Percent of what is given that is to run off. */
	drainPct: readonly [number, number];
	/** Weaker than this the crop is not fed. */
	leastFeedUsCm: number | null;
}
/** What is missing before anything can be advised. */
export const MISSING = ['a-drain', 'a-newer-drain', 'volumes', 'runs-a-day', 'a-second-look'] as const;
export type Missing = (typeof MISSING)[number];
export type Advice =
	| { kind: 'measure'; missing: Missing }
	| { kind: 'wait'; until: number; working: boolean }
	| { kind: 'hold' }
	| { kind: 'beyond' }
	| NextStep;
export interface NextStep {
	kind: StepKind;
	runsADay: number;
	minutes: number | null;
	feedUsCm: number;
	/** Litres for each bag, of a flush. */
	flushL: number | null;
	/** When to look, and what is expected then. */
	lookAt: number;
	expect: Ahead;
}

const DAY = 86_400_000;
/** An older drain says little of today. */
const STALE_MS = 10 * DAY;
/** So long after a step the drain has begun to answer; after a flush the next day. */
const SETTLE_MS = 3 * DAY;
const SETTLE_FLUSH_MS = DAY;
/** While the drain falls by this share of its excess between two looks the last step is left to work. */
const WORKS = 0.3;
const MOST_RUNS = 2;
/** Shares that ran off: none to speak of, and hardly any (every two hours becomes every hour: common practice, no source). */
const NONE = 0.05;
const HARDLY = 0.1;
const LEAST_RUNS = 0.85;
const LONGER_MIN = 2;
/** A run saturates that drains for so long (common practice, no source). */
const SATURATED_MIN = 1.5;
/** One step of the feed, and a larger one where the drain calls for acting. */
const WEAKER = 0.9;
const MUCH_WEAKER = 0.82;
/** Without a range of the crop the feed is never weakened further than to this share. */
const UNSAID_FLOOR = 0.75;
/** What was built up is out after so long of good drain. */
const OUT_MS = 21 * DAY;
/** So much of the share at least goes when a run in seven is taken away. */
const ANSWERS = 0.04;
/** A drain as strong as its feed, within what readings are worth. */
const AT_FEED_US_CM = 100;
const FLUSH_AGAIN_MS = 14 * DAY;
/** More than is wanted by this runs away. */
const MUCH_OVER = 0.1;

/**
 * The next step, or why there is none.
 * @example adviseIrrigation({ now: 0, samples: [], schedule: { runsADay: 6, minutes: 5, bags: 12, heldL: null }, taken: [], limits: { watchUsCm: 500, actUsCm: 1000 }, drainPct: [15, 30], leastFeedUsCm: null }).kind // 'measure'
 */
export function adviseIrrigation(a: AdviceInput): Advice {
	const s = a.samples.at(-1);
	if (!s) return { kind: 'measure', missing: 'a-drain' };
	const last = a.taken.at(-1);
	const settle = last?.kind === 'flush' ? SETTLE_FLUSH_MS : SETTLE_MS;
	if (last && s.at < last.at + settle) {
		const until = last.at + settle;
		return a.now < until ? { kind: 'wait', until, working: false } : { kind: 'measure', missing: 'a-newer-drain' };
	}
	if (a.now - s.at > STALE_MS) return { kind: 'measure', missing: 'a-newer-drain' };
	if (s.verdict === 'check') return { kind: 'measure', missing: 'a-second-look' };
	if (s.ecDeltaUsCm <= a.limits.watchUsCm) return calm(a, s);
	if (!s.run || !s.balance) return { kind: 'measure', missing: 'volumes' };
	if (a.schedule.runsADay === null) return { kind: 'measure', missing: 'runs-a-day' };
	return water(a, s) ?? stronger(a, s);
}

/** Share of what was given that ran off; null where it was not measured. */
const shareOf = (x: DrainFound | undefined): number | null =>
	x?.run ? x.run.drained.litres / x.run.applied.litres : null;

/** As long as it stands above the feed at all the salt wants the water. */
const salty = (x: DrainFound): boolean => x.ecDeltaUsCm > AT_FEED_US_CM;

/** Trays alone do not take water away: somebody has seen the drain begin within the first half of the run. */
const ranEarly = (x: DrainFound): boolean =>
	x.run?.firstDrainMin != null && x.run.minutes !== null && x.run.firstDrainMin <= x.run.minutes / 2;

/** Trays that did not answer when runs were taken away say nothing of the bags: no more is taken away on their word. */
function answered(a: AdviceInput, share: number): boolean {
	const last = a.taken.findLast((t) => t.kind === 'fewer-runs');
	const before = last && shareOf(a.samples.findLast((x) => x.at <= last.at && x.run));
	return before === undefined || before === null || share < before - ANSWERS;
}

type Measured = DrainFound & { run: NonNullable<DrainFound['run']> };

/** Where the drain is within its limit only too little of it, or far too much, is worth a word. */
function calm(a: AdviceInput, s: DrainFound): Advice {
	if (s.run && a.schedule.runsADay !== null && shareOf(s)! < a.drainPct[0] / 100) return water(a, s)!;
	const before = a.samples.at(-2);
	const over = a.drainPct[1] / 100 + MUCH_OVER;
	const [now, then] = [shareOf(s), shareOf(before)];
	const quiet = a.now - (a.taken.at(-1)?.at ?? Number.NEGATIVE_INFINITY) > 7 * DAY;
	// Less water is advised only where two looks agree, never to bags of which one may be dry.
	if (
		a.schedule.runsADay === null ||
		now === null ||
		then === null ||
		Math.min(now, then) <= over ||
		!quiet ||
		!(ranEarly(s) && ranEarly(before!)) ||
		salty(s) ||
		salty(before!) ||
		!sound(a, s, 1.5) ||
		!answered(a, now)
	)
		return { kind: 'hold' };
	const factor = Math.max(LEAST_RUNS, (1 - Math.min(now, then)) / (1 - a.drainPct[1] / 100));
	const runsADay = Math.ceil(a.schedule.runsADay * factor);
	if (runsADay >= a.schedule.runsADay) return { kind: 'hold' };
	return step(a, s as Measured, 'fewer-runs', { runsADay });
}

/** More water first. */
function water(a: AdviceInput, s: DrainFound): Advice | null {
	const m = s as Measured;
	const runs = a.schedule.runsADay!;
	const share = shareOf(m)!;
	const [low, high] = [a.drainPct[0] / 100, a.drainPct[1] / 100];
	if (!sound(a, m)) return { kind: 'measure', missing: 'a-second-look' };
	const toReach = (wanted: number) => (1 - share) / (1 - wanted);
	if (share < low) {
		// Where next to nothing runs off they may drink more than they are given: nobody can tell how much.
		const least = share < NONE ? MOST_RUNS : share < HARDLY ? 1.5 : 1.15;
		const factor = Math.min(MOST_RUNS, Math.max(least, toReach(builtUp(a) ? high : (low + high) / 2)));
		return step(a, m, 'more-runs', { runsADay: Math.max(runs + 1, Math.ceil(runs * factor)) });
	}
	if (works(a, s)) return { kind: 'wait', until: s.at + SETTLE_MS, working: true };
	if (share >= 0.95 * high || since(a, 'longer-runs') < 4) return null;
	const { minutes } = a.schedule;
	const factor = Math.max(1.1, toReach(high));
	const first = m.run.firstDrainMin;
	if (minutes === null) return step(a, m, 'more-runs', { runsADay: Math.max(runs + 1, Math.ceil(runs * factor)) });
	const longer = Math.min(
		minutes + LONGER_MIN,
		Math.max(minutes + 0.5, (first ?? 0) + SATURATED_MIN, Math.ceil(2 * minutes * factor) / 2),
	);
	return step(a, m, 'longer-runs', { minutes: longer });
}

/** Enough water runs off and the drain is still too strong: the feed, and then a flush. */
function stronger(a: AdviceInput, s: DrainFound): Advice {
	const m = s as Measured;
	const act = s.ecDeltaUsCm > a.limits.actUsCm;
	const feed = s.feed.value;
	// Where nobody said what the crop wants at least: of what it was fed before any of this.
	const floor = a.leastFeedUsCm ?? UNSAID_FLOOR * Math.max(...a.samples.map((x) => x.feed.value));
	const flushed = a.taken.findLast((t) => t.kind === 'flush');
	const mayFlush = !flushed || a.now - flushed.at > FLUSH_AGAIN_MS;
	const weaker = Math.max(floor, Math.round((feed * (act ? MUCH_WEAKER : WEAKER)) / 10) * 10);
	const mayWeaken = weaker < 0.97 * feed;
	// Weakened already, and still calling for acting: what is there has to go out.
	if (act && mayFlush && (!mayWeaken || since(a, 'weaker-feed') < 3))
		return step(a, m, 'flush', { feedUsCm: Math.max(floor, 0.6 * feed) });
	if (mayWeaken) return step(a, m, 'weaker-feed', { feedUsCm: weaker });
	if (mayFlush) return step(a, m, 'flush', { feedUsCm: Math.max(floor, 0.6 * feed) });
	return { kind: 'beyond' };
}

/** Salt stood too high in the last weeks: as much as is wanted at most runs off until it is out. */
const builtUp = (a: AdviceInput): boolean =>
	a.samples.some((x) => a.now - x.at < OUT_MS && x.ecDeltaUsCm > a.limits.watchUsCm);

/** How many steps ago a kind was taken. */
const since = (a: AdviceInput, kind: StepKind): number => {
	const i = a.taken.findLastIndex((t) => t.kind === kind);
	return i < 0 ? Number.POSITIVE_INFINITY : a.taken.length - i;
};

/** Since the last step the excess has fallen by enough to leave it alone. */
function works(a: AdviceInput, s: DrainFound): boolean {
	const last = a.taken.at(-1);
	const before = last && a.samples.findLast((x) => x.at <= last.at);
	if (!last || !before || a.now - last.at > 3 * SETTLE_MS) return false;
	const excess = (x: DrainFound) => x.ecDeltaUsCm - a.limits.watchUsCm;
	return excess(before) > 0 && excess(s) < (1 - WORKS) * excess(before);
}

/**
 * What they drink does not double from one look to the next: cups or trays that say so are read again. A look is sound that agrees with
 * one of the two before it, or is the first.
 */
function sound(a: AdviceInput, s: DrainFound, most = 2): boolean {
	const runsAt = (at: number) => a.taken.find((t) => t.at > at)?.runsBefore ?? a.schedule.runsADay;
	const kept = (x: DrainFound) => (x.run ? (x.run.applied.litres - x.run.drained.litres) * (runsAt(x.at) ?? 1) : null);
	const own = kept(s);
	const before = a.samples.filter((x) => x.at < s.at && s.at - x.at < STALE_MS && x.run).slice(-2);
	if (own === null || before.length === 0) return true;
	return before.some((x) => {
		const ratio = own / Math.max(kept(x)!, 1e-9);
		return ratio < most && ratio > 1 / most;
	});
}

function step(
	a: AdviceInput,
	s: Measured,
	kind: StepKind,
	by: { runsADay?: number; minutes?: number; feedUsCm?: number },
): NextStep {
	const { schedule } = a;
	const runs = schedule.runsADay!;
	const [runsADay, minutes] = [by.runsADay ?? runs, by.minutes ?? schedule.minutes];
	const feedUsCm = by.feedUsCm ?? s.feed.value;
	const [given, drained] = [s.run.applied.litres, s.run.drained.litres];
	const bags = schedule.bags ?? 1;
	const lengthened = schedule.minutes && minutes ? minutes / schedule.minutes : 1;
	const now: Watered = {
		feedUsCm: s.feed.value,
		drainUsCm: s.drain.value,
		drainU: s.ecDeltaU,
		givenL: given * runs,
		shareU: Math.hypot(s.run.drained.u, (s.run.applied.u * drained) / given) / given,
		drunkL: (given - drained) * runs,
		heldL: schedule.heldL,
		bags,
	};
	if (kind === 'flush') {
		const flushL = schedule.heldL === null ? HELD_L : schedule.heldL / bags;
		const all = flushL * bags;
		return {
			kind,
			runsADay,
			minutes,
			feedUsCm,
			flushL,
			lookAt: a.now + SETTLE_FLUSH_MS,
			// All of it runs off, within the day.
			expect: drainAhead({ ...now, drunkL: 0.05 * all }, { givenL: all, feedUsCm }, 1),
		};
	}
	const lookAt = a.now + SETTLE_MS;
	return {
		kind,
		runsADay,
		minutes,
		feedUsCm,
		flushL: null,
		lookAt,
		expect: drainAhead(now, { givenL: given * lengthened * runsADay, feedUsCm }, (lookAt - a.now) / DAY),
	};
}

/** What a step did: the first drain that was read once it had time to work, held against what was expected. */
export function whatItDid(
	samples: readonly DrainFound[],
	taken: { at: number; lookAt: number; expect: Ahead },
	next: number | null,
): { before: DrainFound | null; after: DrainFound | null; asExpected: boolean | null } {
	const before = samples.findLast((s) => s.at <= taken.at) ?? null;
	const after = samples.find((s) => s.at >= taken.lookAt && (next === null || s.at <= next)) ?? null;
	const e = taken.expect.drainUsCm;
	const drain = after?.drain.value;
	return { before, after, asExpected: e && drain !== undefined ? drain >= e.low && drain <= e.high : null };
}
