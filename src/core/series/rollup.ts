import { FLAG_OF, TELLS } from './findings';

/**
 * What is kept of many samples: least, greatest, sum and count by stretches of time, of all of them and of those that tell of their
 * water. Two of one stretch add up to what all their samples would have given, so that late ones can be put in; sums to rounding.
 */
export const STEPS = ['5min', 'hour', 'day'] as const;
export type Step = (typeof STEPS)[number];
/** Minutes of a step; a day of a zone has 23 to 25 hours. */
export const STEP_MINUTES: Readonly<Record<Step, number>> = { '5min': 5, hour: 60, day: 1440 };

export interface Rollup {
	/** When its stretch begins, ms. */
	at: number;
	least: number;
	greatest: number;
	total: number;
	count: number;
	/** The worst flag of its samples. */
	worst: number;
	/** The same of those that tell of their water; least is above greatest where there are none. */
	goodLeast: number;
	goodGreatest: number;
	goodTotal: number;
	goodCount: number;
}

const fresh = (at: number): Rollup => ({
	at,
	least: Number.POSITIVE_INFINITY,
	greatest: Number.NEGATIVE_INFINITY,
	total: 0,
	count: 0,
	worst: 0,
	goodLeast: Number.POSITIVE_INFINITY,
	goodGreatest: Number.NEGATIVE_INFINITY,
	goodTotal: 0,
	goodCount: 0,
});

/** Samples as they are kept: with what each was found to be and what was decided about it, by number (findings). */
export interface KeptSamples {
	at: ArrayLike<number>;
	value: ArrayLike<number>;
	cause: ArrayLike<number>;
	decision?: ArrayLike<number> | undefined;
	count: number;
}

/**
 * Rolls samples up into stretches.
 * @param samples ascending in time
 * @param stretch the beginning of the stretch that a time lies in, ms
 * @returns one for each stretch that has samples, ascending
 */
export function rollUp(samples: KeptSamples, stretch: (at: number) => number): Rollup[] {
	const { at, value, cause, decision, count } = samples;
	const all: Rollup[] = [];
	let r: Rollup | null = null;
	for (let i = 0; i < count; i++) {
		const begins = stretch(at[i]!);
		if (r === null || r.at !== begins) {
			r = fresh(begins);
			all.push(r);
		}
		const v = value[i]!;
		const c = cause[i]!;
		if (v < r.least) r.least = v;
		if (v > r.greatest) r.greatest = v;
		r.total += v;
		r.count++;
		const flag = FLAG_OF[c]!;
		if (flag > r.worst) r.worst = flag;
		if (TELLS[decision ? decision[i]! : 0]![c]) {
			if (v < r.goodLeast) r.goodLeast = v;
			if (v > r.goodGreatest) r.goodGreatest = v;
			r.goodTotal += v;
			r.goodCount++;
		}
	}
	return all;
}

/**
 * Rolls rollups up into longer stretches, as their samples would have been.
 * @param shorter ascending, each within one of the longer
 */
export function rollUpFurther(shorter: readonly Rollup[], stretch: (at: number) => number): Rollup[] {
	const all: Rollup[] = [];
	let r: Rollup | null = null;
	for (const s of shorter) {
		const begins = stretch(s.at);
		if (r === null || r.at !== begins) {
			r = fresh(begins);
			all.push(r);
		}
		r.least = Math.min(r.least, s.least);
		r.greatest = Math.max(r.greatest, s.greatest);
		r.total += s.total;
		r.count += s.count;
		r.worst = Math.max(r.worst, s.worst);
		r.goodLeast = Math.min(r.goodLeast, s.goodLeast);
		r.goodGreatest = Math.max(r.goodGreatest, s.goodGreatest);
		r.goodTotal += s.goodTotal;
		r.goodCount += s.goodCount;
	}
	return all;
}

const FIVE_MS = STEP_MINUTES['5min'] * 60_000;
const HOUR_MS = STEP_MINUTES.hour * 60_000;
/**
 * The beginning of the five minutes that a time lies in, by the clock of UTC, ms.
 * @example fiveMinutesOf(301000) // 300000
 */
export const fiveMinutesOf = (at: number): number => Math.floor(at / FIVE_MS) * FIVE_MS;
/**
 * The beginning of the hour that a time lies in, by the clock of UTC, ms.
 * @example hourOf(3700000) // 3600000
 */
export const hourOf = (at: number): number => Math.floor(at / HOUR_MS) * HOUR_MS;

/** What a chart can ask for: samples as they are, or one of the rollups. */
export const RESOLUTIONS = ['raw', ...STEPS] as const;
export type Resolution = (typeof RESOLUTIONS)[number];

/** So many times as many as are wanted are read and put together further, rather than the next that is twelve or more times coarser. */
const READ_TIMES = 4;

/**
 * The finest that answers with at most four times so many points, which are then put together further; by days where even those are more.
 * @param o.usualMs how often the series is sampled; 0 where nobody knows
 * @param o.rawFrom from when on samples are still there
 * @example resolutionFor({ from: 0, to: 86400000, points: 2000, usualMs: 60000, rawFrom: 0 }) // 'raw'
 */
export function resolutionFor(o: {
	from: number;
	to: number;
	points: number;
	usualMs: number;
	rawFrom: number;
}): Resolution {
	const span = Math.max(o.to - o.from, 0);
	const most = READ_TIMES * o.points;
	if (o.usualMs > 0 && o.rawFrom <= o.from && span / o.usualMs <= o.points) return 'raw';
	return STEPS.find((step) => span / (STEP_MINUTES[step] * 60_000) <= most) ?? 'day';
}
