import { normalAt } from '../stats/quasi-normal';
import type { Volume } from './volume';

/**
 * The salt balance of a root zone over a time: what was given, less what ran off, is what the plants took and what stayed. In a steady
 * state nothing stays: uptake EC = (EC_feed·V_applied − EC_drain·V_drained)/(V_applied − V_drained) (salt balance; Ayers and Westcot,
 * FAO Irrigation and Drainage Paper 29). EC in µS/cm at 25 °C, volumes in litres, uncertainties as standard deviations.
 */
export interface Conductivity {
	usCm: number;
	/** What this reading alone is uncertain by. */
	u: number;
	/** Share of the value by which the meter may be off: the same for what one meter read. */
	meterShare: number;
}
/** One measured washing: what was given and what ran off, and how strong both were. */
export interface Washing {
	applied: Volume;
	drained: Volume;
	feed: Conductivity;
	drain: Conductivity;
	/** Both were read with one meter: what it is off by it is off by in both. */
	oneMeter: boolean;
}
/** A value with the bounds that hold it in 95 of 100 cases. */
export interface Bounded {
	value: number;
	low: number;
	high: number;
}
export interface SaltBalance {
	appliedL: number;
	drainedL: number;
	leachingFraction: Bounded;
	/** Drain less feed, each weighed by its volume. */
	ecDeltaUsCm: Bounded;
	/** What the plants drank, or the medium kept. */
	drunkL: Bounded;
	/** EC of that, in a steady state; null where all ran off. */
	uptakeEcUsCm: Bounded | null;
	/** How sure it is, 0 to 1, that more salt ran off than was given. */
	flushing: number;
	/** The bounds of uptake are farther apart than the feed is strong: it says nothing. */
	uptakeUnknown: boolean;
}

const DRAWS = 512;
const PRIMES = [2, 3, 5, 7, 11, 13];

/**
 * The balance of one washing or of several pooled, by their volumes. What ran off cannot be more than what was given: draws in which
 * it is are left out. Uncertainties are carried by 512 quasi-random draws (Halton 1960), the same each time.
 * @returns null without washings, or where more is known to have run off than was given
 * @example saltBalance([{ applied: { litres: 100, u: 3 }, drained: { litres: 30, u: 1 }, feed: { usCm: 1400, u: 14, meterShare: 0.02 }, drain: { usCm: 1600, u: 16, meterShare: 0.02 }, oneMeter: true }]).leachingFraction.value // 0.3
 */
export function saltBalance(washings: readonly Washing[]): SaltBalance | null {
	const asked = JSON.stringify(washings);
	let found = drawn.get(asked);
	if (found === undefined) {
		found = draw(washings);
		drawn.set(asked, found);
		if (drawn.size > REMEMBERED) drawn.delete(drawn.keys().next().value!);
	}
	return found;
}

/** The same washings have the same balance, and are asked for whenever a page of theirs is opened. */
const REMEMBERED = 2000;
const drawn = new Map<string, SaltBalance | null>();

function draw(washings: readonly Washing[]): SaltBalance | null {
	if (washings.length === 0) return null;
	const truth = sums(washings, () => 0);
	if (!(truth.applied > 0) || truth.drained > truth.applied) return null;
	const found: Record<'fraction' | 'delta' | 'drunk' | 'uptake', number[]> = {
		fraction: [],
		delta: [],
		drunk: [],
		uptake: [],
	};
	let [kept, flushed] = [0, 0];
	for (let n = 1; n <= DRAWS; n++) {
		// Six numbers a draw; what is alone of a washing gets another order of the same numbers.
		const z = PRIMES.map((p) => normalAt(n, p));
		const s = sums(washings, (which, i) =>
			i === 0 ? z[which]! : normalAt(((n * (2 * i + 1)) % 2039) + 1, PRIMES[which]!),
		);
		if (!(s.applied > 0) || s.drained < 0 || s.drained > s.applied) continue;
		kept++;
		found.fraction.push(s.drained / s.applied);
		if (s.drained > 0) found.delta.push(s.saltOut / s.drained - s.saltIn / s.applied);
		found.drunk.push(s.applied - s.drained);
		found.uptake.push((s.saltIn - s.saltOut) / (s.applied - s.drained));
		if (s.saltOut > s.saltIn) flushed++;
	}
	const drunk = truth.applied - truth.drained;
	const uptake = drunk > 0 ? bounded((truth.saltIn - truth.saltOut) / drunk, found.uptake) : null;
	const feed = truth.saltIn / truth.applied;
	return {
		appliedL: truth.applied,
		drainedL: truth.drained,
		leachingFraction: bounded(truth.drained / truth.applied, found.fraction),
		ecDeltaUsCm: bounded(truth.drained > 0 ? truth.saltOut / truth.drained - feed : 0, found.delta),
		drunkL: bounded(drunk, found.drunk),
		uptakeEcUsCm: uptake,
		flushing: kept === 0 ? 0 : flushed / kept,
		uptakeUnknown: uptake === null || uptake.high - uptake.low > feed,
	};
}

/** @param deviate of: how much was given, how much ran off (alike in all), the meter, a second meter, feed and drain (each its own) */
function sums(washings: readonly Washing[], deviate: (which: 0 | 1 | 2 | 3 | 4 | 5, i: number) => number) {
	let [applied, drained, saltIn, saltOut] = [0, 0, 0, 0];
	for (const [i, w] of washings.entries()) {
		// A jug or a set of cups that is off is off each time.
		const a = w.applied.litres + w.applied.u * deviate(0, 0);
		const d = w.drained.litres + w.drained.u * deviate(1, 0);
		const meter = deviate(2, 0);
		const feed = w.feed.usCm * (1 + w.feed.meterShare * meter) + w.feed.u * deviate(4, i);
		const other = w.oneMeter ? meter : deviate(3, 0);
		const drain = w.drain.usCm * (1 + w.drain.meterShare * other) + w.drain.u * deviate(5, i);
		applied += a;
		drained += d;
		saltIn += a * feed;
		saltOut += d * drain;
	}
	return { applied, drained, saltIn, saltOut };
}

/** From the draws: 2.5 of 100 lie below, 2.5 above. */
function bounded(value: number, draws: number[]): Bounded {
	if (draws.length === 0) return { value, low: value, high: value };
	const sorted = Float64Array.from(draws).sort();
	const at = (p: number) => sorted[Math.min(sorted.length - 1, Math.max(0, Math.round(p * (sorted.length - 1))))]!;
	return { value, low: Math.min(value, at(0.025)), high: Math.max(value, at(0.975)) };
}

/**
 * The drain EC that another leaching fraction would bring in a steady state, while the plants take what they take now, µS/cm.
 * @param uptakeUsCm EC of what they take
 * @example drainEcAt(0.3, 1400, 1250) // 1750
 */
export const drainEcAt = (leachingFraction: number, feedUsCm: number, uptakeUsCm: number): number =>
	leachingFraction > 0 ? (feedUsCm - uptakeUsCm * (1 - leachingFraction)) / leachingFraction : Number.POSITIVE_INFINITY;

/**
 * The leaching fraction that keeps the drain at most so much above the feed, in a steady state; null where the plants take salt as fast
 * as it comes, and any would do.
 * @example leachingFor(350, 1400, 1250) // 0.3
 */
export function leachingFor(riseUsCm: number, feedUsCm: number, uptakeUsCm: number): number | null {
	const left = feedUsCm - uptakeUsCm;
	if (left <= 0 || !(riseUsCm > 0)) return null;
	return left / (riseUsCm + left);
}

/** What another share of drain would do in the long run, and what share a limit wants. */
export interface DrainOutlook {
	/** The share that is looked at, of what is given. */
	fraction: number;
	/** Where the drain would settle, µS/cm. */
	drainUsCm: Bounded;
	/** The share that keeps the drain at the limit; null where the plants take salt as fast as it comes. */
	neededFraction: number | null;
}

/**
 * Where the drain settles with a share of drain, while the plants drink as they do; by the bounds of what they take.
 * @returns null where their uptake is not known
 * @example drainOutlook({ uptakeEcUsCm: { value: 1250, low: 1200, high: 1300 }, uptakeUnknown: false }, 1400, 0.3, 200).neededFraction // 0.43
 */
export function drainOutlook(
	b: Pick<SaltBalance, 'uptakeEcUsCm' | 'uptakeUnknown'>,
	feedUsCm: number,
	fraction: number,
	limitUsCm: number,
): DrainOutlook | null {
	const u = b.uptakeEcUsCm;
	if (u === null || b.uptakeUnknown || !(fraction > 0)) return null;
	const at = (uptake: number) => Math.max(0, drainEcAt(fraction, feedUsCm, uptake));
	return {
		fraction,
		// The more the plants take, the less is left to run off.
		drainUsCm: { value: at(u.value), low: at(u.high), high: at(u.low) },
		neededFraction: leachingFor(limitUsCm, feedUsCm, u.value),
	};
}
