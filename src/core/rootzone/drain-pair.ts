import { done } from '../outcome';
import { type Answer, refuse } from '../problem';
import type { Remark } from '../remark';
/**
 * A drain sample against the feed of the same time. Leaching fraction = drained/applied. What the plants took in steady
 * state: uptake EC = (EC_feed·V_applied − EC_drain·V_drained)/(V_applied − V_drained) (salt balance; Ayers and Westcot,
 * FAO Irrigation and Drainage Paper 29, for the leaching fraction).
 */
export type DrainPreset = 'tight' | 'usual' | 'loose';

/** Drain over feed, µS/cm, that is watched and that calls for acting. Schools differ (common practice, no source). */
export const DRAIN_LIMITS: Record<DrainPreset, { watchUsCm: number; actUsCm: number }> = {
	tight: { watchUsCm: 200, actUsCm: 500 },
	usual: { watchUsCm: 500, actUsCm: 1000 },
	loose: { watchUsCm: 1000, actUsCm: 2000 },
};

export interface DrainInput {
	appliedL: number;
	drainedL: number;
	feedEcUsCm: number;
	drainEcUsCm: number;
	feedPh?: number | undefined;
	drainPh?: number | undefined;
	preset?: DrainPreset | undefined;
	/** How far the drain stood above the feed before, µS/cm, where that is known: salt that leaves had built up first. */
	riseBeforeUsCm?: number | undefined;
}
/** `flushing`: what had built up is leaving; `check`: more ran off than was given, and nothing says why. */
export type DrainVerdict = 'good' | 'watch' | 'act' | 'flushing' | 'check';
export interface DrainPair {
	leachingFraction: number;
	ecDeltaUsCm: number;
	/** Below nothing where the figures cannot be; null where nothing was taken up. */
	uptakeEcUsCm: number | null;
	phDelta: number | null;
	verdict: DrainVerdict;
	/** In the order they are to be tried. */
	actions: Remark[];
}

/** Less drain than this says little of the root zone; more is water and feed run away (common practice, no source). */
const LITTLE_DRAIN = 0.1;
const MUCH_DRAIN = 0.4;
/** Drain below feed by more than this: hungry plants or too much water. */
const BELOW_US_CM = 100;
const PH_FALLS = -0.3;
const PH_RISES = 0.3;

/** A drain beside its feed, however much of it was measured. */
export interface DrainRise {
	/** Drain less feed, µS/cm. */
	riseUsCm: number;
	phDelta: number | null;
	/** Null where volumes were not measured: nothing is said of them then. */
	leachingFraction: number | null;
	/** More salt ran off than was given, by all that is known of the figures. */
	moreOutThanIn: boolean;
	limits: { watchUsCm: number; actUsCm: number };
	/** How far the drain stood above the feed before, where that is known. */
	riseBeforeUsCm?: number | undefined;
}

/**
 * What a drain beside its feed comes to, and what to do about it in the order it is tried.
 * @example judgeRise({ riseUsCm: 600, phDelta: null, leachingFraction: null, moreOutThanIn: false, limits: DRAIN_LIMITS.usual }).verdict // 'watch'
 */
export function judgeRise(d: DrainRise): { verdict: DrainVerdict; actions: Remark[] } {
	const { riseUsCm, phDelta, leachingFraction, limits } = d;
	const little = leachingFraction !== null && leachingFraction < LITTLE_DRAIN;
	const actions: Remark[] = [];
	const byLimits = riseUsCm > limits.actUsCm ? 'act' : riseUsCm > limits.watchUsCm ? 'watch' : 'good';
	let verdict: DrainVerdict = byLimits;
	if (d.moreOutThanIn) {
		const built = d.riseBeforeUsCm !== undefined && d.riseBeforeUsCm > limits.watchUsCm;
		verdict = built ? 'flushing' : 'check';
		actions.push({ code: built ? 'salt-leaves' : 'more-salt-out' });
	}
	// What is to be done about the salt stays to be done while it leaves.
	if (byLimits !== 'good')
		actions.push(
			...(little ? [{ code: 'hardly-any-drain' } as const] : [{ code: 'water-more-often' } as const]),
			{ code: 'run-until-drain' },
			{ code: 'feed-weaker' },
			...(byLimits === 'act' ? [{ code: 'flush' } as const] : []),
		);
	else if (verdict === 'good' && little) actions.push({ code: 'drain-says-little' });
	if (riseUsCm < -BELOW_US_CM) actions.push({ code: 'drain-weaker-than-feed' });
	if (leachingFraction !== null && leachingFraction > MUCH_DRAIN) actions.push({ code: 'runs-away' });
	if (phDelta !== null && phDelta < PH_FALLS)
		actions.push(riseUsCm > limits.watchUsCm ? { code: 'ph-falls-with-salt' } : { code: 'ph-falls-alone' });
	else if (phDelta !== null && phDelta > PH_RISES) actions.push({ code: 'ph-rises' });
	return { verdict, actions };
}

/**
 * Drain against feed: fraction, uptake, verdict by preset, and what to do in the order it is tried. Refused where more ran off than was given.
 * @example drainPair({ appliedL: 100, drainedL: 30, feedEcUsCm: 1400, drainEcUsCm: 1600 }) // { ok: true, value: { leachingFraction: 0.3, ecDeltaUsCm: 200, uptakeEcUsCm: 1314.3 } }
 */
export function drainPair(d: DrainInput): Answer<DrainPair> {
	if (!(d.appliedL > 0)) return refuse({ code: 'nothing-given', field: 'applied_l' });
	if (d.drainedL > d.appliedL)
		return refuse({
			code: 'more-drained-than-given',
			field: 'drained_l',
			drainedL: d.drainedL,
			appliedL: d.appliedL,
		});
	const leachingFraction = d.drainedL / d.appliedL;
	const ecDeltaUsCm = d.drainEcUsCm - d.feedEcUsCm;
	const taken = d.appliedL - d.drainedL;
	const salt = d.feedEcUsCm * d.appliedL - d.drainEcUsCm * d.drainedL;
	const uptake = taken > 0 ? salt / taken : null;
	const phDelta = d.feedPh !== undefined && d.drainPh !== undefined ? d.drainPh - d.feedPh : null;
	return done({
		leachingFraction,
		ecDeltaUsCm,
		uptakeEcUsCm: uptake,
		phDelta,
		...judgeRise({
			riseUsCm: ecDeltaUsCm,
			phDelta,
			leachingFraction,
			moreOutThanIn: uptake !== null && uptake < 0,
			limits: DRAIN_LIMITS[d.preset ?? 'usual'],
			riseBeforeUsCm: d.riseBeforeUsCm,
		}),
	});
}
