import type { BelievedReading } from '../reading/believed';
import type { Remark } from '../remark';
import { type Conductivity, type SaltBalance, saltBalance, type Washing } from './balance';
import { type DrainVerdict, judgeRise } from './drain-pair';
import type { Volume } from './volume';

/** An irrigation that was measured: what all drippers gave, and what ran off. */
export interface Run {
	at: number;
	applied: Volume;
	drained: Volume;
	/** How long it ran, and when somebody saw the first drain; null where nobody looked. */
	minutes: number | null;
	firstDrainMin: number | null;
}
/** A drain sample with the feed of its time, and with what was given and ran off where that was measured. */
export interface DrainSample {
	at: number;
	drain: BelievedReading;
	feed: BelievedReading;
	drainPh: BelievedReading | null;
	feedPh: BelievedReading | null;
	run: Run | null;
}
export interface DrainFound extends DrainSample {
	ecDeltaUsCm: number;
	/** Standard uncertainty of it: what one meter is off by falls out. */
	ecDeltaU: number;
	phDelta: number | null;
	balance: SaltBalance | null;
	verdict: DrainVerdict;
	/** So close to a limit that another reading may fall on its other side. */
	close: boolean;
	actions: Remark[];
}
/** Several samples as one: a day, or a week. */
export interface DrainPool {
	from: number;
	to: number;
	samples: number;
	/** Of those whose volumes were measured; null where there are none. */
	balance: SaltBalance | null;
	/** Mean of all samples. */
	feedUsCm: number;
	drainUsCm: number;
}

const HOUR = 3_600_000;
/** A feed is of the time of a drain where it was read within half a day of it: drain of the morning was fed the evening before. */
const SAME_FEED_MS = 12 * HOUR;
/** Cups are emptied and samples dipped within so long. */
const SAME_RUN_MS = 4 * HOUR;
/** Of what a meter shows so much is its display and the hand alone; the rest is the meter’s, and in both readings (common practice, no source). */
const ALONE = 0.004;

/** So sure it must be that more salt ran off than was given before that is said. */
const SURE = 0.9;

const nearest = <T extends { at: number }>(list: readonly T[], at: number, within: number): T | null =>
	list.reduce<T | null>(
		(best, x) => (Math.abs(x.at - at) <= within && (!best || Math.abs(x.at - at) < Math.abs(best.at - at)) ? x : best),
		null,
	);

/**
 * Each drain EC with the feed EC, the pH and the run nearest to it in time; without a feed of its time it says nothing and is left out.
 * All lists oldest first.
 */
export function pairDrains(
	drain: { ec: readonly BelievedReading[]; ph: readonly BelievedReading[] },
	feed: { ec: readonly BelievedReading[]; ph: readonly BelievedReading[] },
	runs: readonly Run[],
): DrainSample[] {
	return drain.ec.flatMap((d) => {
		const f = nearest(feed.ec, d.at, SAME_FEED_MS);
		if (!f) return [];
		return [
			{
				at: d.at,
				drain: d,
				feed: f,
				drainPh: nearest(drain.ph, d.at, HOUR),
				feedPh: nearest(feed.ph, f.at, HOUR),
				run: nearest(runs, d.at, SAME_RUN_MS),
			},
		];
	});
}

const conductivity = (r: BelievedReading): Conductivity => {
	const u = Math.min(r.u, ALONE * r.value);
	return { usCm: r.value, u, meterShare: r.value > 0 ? Math.sqrt(Math.max(r.u * r.u - u * u, 0)) / r.value : 0 };
};
const oneMeter = (s: DrainSample): boolean => s.drain.instrument !== null && s.drain.instrument === s.feed.instrument;
const washing = (s: DrainSample & { run: Run }): Washing => ({
	applied: s.run.applied,
	drained: s.run.drained,
	feed: conductivity(s.feed),
	drain: conductivity(s.drain),
	oneMeter: oneMeter(s),
});

function uOfDelta(s: DrainSample): number {
	const [d, f] = [conductivity(s.drain), conductivity(s.feed)];
	const meter = oneMeter(s)
		? Math.abs(d.meterShare * d.usCm - f.meterShare * f.usCm)
		: Math.hypot(d.meterShare * d.usCm, f.meterShare * f.usCm);
	return Math.hypot(d.u, f.u, meter);
}

/**
 * What each drain sample says beside its feed, oldest first; each is told a flush or a bad measurement by those before it.
 * @param limits watch and act, µS/cm over the feed (watering.ts)
 */
export function judgeDrains(
	samples: readonly DrainSample[],
	limits: { watchUsCm: number; actUsCm: number },
): DrainFound[] {
	let riseBeforeUsCm: number | undefined;
	return samples.map((s) => {
		const ecDeltaUsCm = s.drain.value - s.feed.value;
		const ecDeltaU = uOfDelta(s);
		const balance = s.run ? saltBalance([washing({ ...s, run: s.run })]) : null;
		const phDelta = s.drainPh && s.feedPh ? s.drainPh.value - s.feedPh.value : null;
		const said = judgeRise({
			riseUsCm: ecDeltaUsCm,
			phDelta,
			leachingFraction: balance?.leachingFraction.value ?? null,
			moreOutThanIn: s.run !== null && (balance === null || balance.flushing > SURE),
			limits,
			riseBeforeUsCm,
		});
		riseBeforeUsCm = ecDeltaUsCm;
		const near = (limit: number) => Math.abs(ecDeltaUsCm - limit) < 1.96 * ecDeltaU;
		return {
			...s,
			ecDeltaUsCm,
			ecDeltaU,
			phDelta,
			balance,
			...said,
			close: near(limits.watchUsCm) || near(limits.actUsCm),
		};
	});
}
/**
 * Samples pooled by spans: a day, or a week.
 * @param startOf the beginning of the span that a time lies in
 */
export function poolDrains(samples: readonly DrainSample[], startOf: (at: number) => number): DrainPool[] {
	const spans = new Map<number, DrainSample[]>();
	for (const s of samples) {
		const from = startOf(s.at);
		spans.set(from, [...(spans.get(from) ?? []), s]);
	}
	const mean = (list: readonly number[]) => list.reduce((sum, x) => sum + x, 0) / list.length;
	return [...spans].map(([from, list]) => ({
		from,
		to: list.at(-1)!.at,
		samples: list.length,
		balance: saltBalance(list.flatMap((s) => (s.run ? [washing({ ...s, run: s.run })] : []))),
		feedUsCm: mean(list.map((s) => s.feed.value)),
		drainUsCm: mean(list.map((s) => s.drain.value)),
	}));
}
