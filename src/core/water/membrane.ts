import { madSigma, median, theilSenSlope } from '../series/robust';

/**
 * A reverse-osmosis membrane: rejection = 1 − permeate/feed, paired in time, because the permeate alone hides a change in
 * the feed. New 95–99 %, below 90 % watch, below 80 % replace (common practice; editable).
 */
export interface RejectionLimits {
	watch: number;
	replace: number;
}
export const REJECTION_LIMITS: RejectionLimits = { watch: 0.9, replace: 0.8 };

export interface RejectionPoint {
	at: number;
	feedUsCm: number;
	permeateUsCm: number;
	rejection: number;
}

const DAY = 86_400_000;
/** Feed and permeate belong together within so long. */
const PAIR_MS = 2 * DAY;

/** Each permeate reading with the feed reading nearest in time. */
export function pairRejection(
	feed: readonly { at: number; value: number }[],
	permeate: readonly { at: number; value: number }[],
): RejectionPoint[] {
	return permeate.flatMap((p) => {
		let best: { at: number; value: number } | null = null;
		for (const f of feed) if (!best || Math.abs(f.at - p.at) < Math.abs(best.at - p.at)) best = f;
		if (!best || Math.abs(best.at - p.at) > PAIR_MS || !(best.value > 0)) return [];
		return [{ at: p.at, feedUsCm: best.value, permeateUsCm: p.value, rejection: 1 - p.value / best.value }];
	});
}

export type MembraneState =
	| { known: false; reason: 'too-few' }
	| {
			known: true;
			rejection: number;
			grade: 'good' | 'watch' | 'replace';
			/** Per day, with its 95 % interval. */
			slopePerDay: number;
			slopeLow: number;
			slopeHigh: number;
			/** When it reaches each limit; a window and not a point. Null: not by this trend within three years. */
			reaches: Record<keyof RejectionLimits, { likely: number; early: number; late: number | null } | null>;
			/** What raised the permeate since the first third of the record. */
			why: 'membrane' | 'feed' | 'both' | 'steady';
	  };

const LEAST = 6;
/** Newest points that the present state and trend are taken from: a tiring membrane tires faster with time. */
const RECENT = 10;
const LEAST_SIGMA = 0.004;
const FURTHEST_DAYS = 3 * 365;

/**
 * How well a membrane rejects now, and when it passes each limit by its trend of the newest points (Theil–Sen); unknown before six.
 * @example membraneState([], 0).known // false
 */
export function membraneState(
	points: readonly RejectionPoint[],
	now: number,
	limits: RejectionLimits = REJECTION_LIMITS,
): MembraneState {
	if (points.length < LEAST) return { known: false, reason: 'too-few' };
	const recent = points.slice(-RECENT);
	const days = recent.map((p) => (p.at - now) / DAY);
	const values = recent.map((p) => p.rejection);
	const slope = theilSenSlope(days, values) ?? 0;
	const centre = median(days);
	const level = median(values.map((v, i) => v - slope * (days[i]! - centre)));
	const rejection = Math.min(level - slope * centre, 1);
	// A coarse display repeats itself; its scatter is never taken for less than its step.
	const sigma = Math.max(madSigma(values.map((v, i) => v - (level + slope * (days[i]! - centre)))), LEAST_SIGMA);
	const spread = Math.sqrt(days.reduce((s, d) => s + (d - centre) ** 2, 0));
	const reach = spread > 0 ? (1.96 * 1.25 * sigma) / spread : 0;
	const [slopeLow, slopeHigh] = [slope - reach, slope + reach];
	const levelReach = 1.96 * Math.hypot((1.25 * sigma) / Math.sqrt(recent.length), displayStep(recent));
	const when = (limit: number, s: number, off = 0): number | null => {
		if (rejection + off <= limit) return now;
		if (s >= 0) return null;
		const inDays = (rejection + off - limit) / -s;
		return inDays > FURTHEST_DAYS ? null : now + inDays * DAY;
	};
	const window = (limit: number) => {
		const likely = when(limit, slope);
		const early = when(limit, slopeLow, -levelReach);
		return likely === null || early === null ? null : { likely, early, late: when(limit, slopeHigh, levelReach) };
	};
	return {
		known: true,
		rejection,
		grade: rejection < limits.replace ? 'replace' : rejection < limits.watch ? 'watch' : 'good',
		slopePerDay: slope,
		slopeLow,
		slopeHigh,
		reaches: { watch: window(limits.watch), replace: window(limits.replace) },
		why: whyHigher(points),
	};
}

/**
 * What a coarse display hides of the level, as a standard uncertainty of rejection: half a step either way (uniform, GUM
 * 4.3.7), less where the readings run through several steps.
 */
function displayStep(points: readonly RejectionPoint[]): number {
	const shown = [...new Set(points.map((p) => p.permeateUsCm))].sort((a, b) => a - b);
	if (shown.length < 2 || shown.length > points.length / 2) return 0;
	const step = Math.min(...shown.slice(1).map((v, i) => v - shown[i]!));
	return step / Math.sqrt(12 * (shown.length - 1)) / median(points.map((p) => p.feedUsCm));
}

/** ln permeate = ln feed + ln passage: how much of the rise each of the two explains. */
function whyHigher(points: readonly RejectionPoint[]): 'membrane' | 'feed' | 'both' | 'steady' {
	const third = Math.max(2, Math.floor(points.length / 3));
	const change = (of: (p: RejectionPoint) => number) =>
		median(points.slice(-third).map(of)) - median(points.slice(0, third).map(of));
	const feed = change((p) => Math.log(p.feedUsCm));
	const passage = change((p) => Math.log(Math.max(1 - p.rejection, 1e-4)));
	const rise = feed + passage;
	if (rise < 0.1) return 'steady';
	const share = passage / rise;
	return share > 0.7 ? 'membrane' : share < 0.3 ? 'feed' : 'both';
}
