import { done } from '../outcome';
import { type Answer, refuse } from '../problem';
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
}
export type DrainVerdict = 'good' | 'watch' | 'act' | 'check';
export interface DrainPair {
	leachingFraction: number;
	ecDeltaUsCm: number;
	/** Below nothing where the figures cannot be; null where nothing was taken up. */
	uptakeEcUsCm: number | null;
	phDelta: number | null;
	verdict: DrainVerdict;
	/** In the order they are to be tried. */
	actions: string[];
}

/** Less drain than this says little of the root zone; more is water and feed run away (common practice, no source). */
const LITTLE_DRAIN = 0.1;
const MUCH_DRAIN = 0.4;
/** Drain below feed by more than this: hungry plants or too much water. */
const BELOW_US_CM = 100;
const PH_FALLS = -0.3;
const PH_RISES = 0.3;

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
	const limits = DRAIN_LIMITS[d.preset ?? 'usual'];
	const actions: string[] = [];
	let verdict: DrainVerdict = ecDeltaUsCm > limits.actUsCm ? 'act' : ecDeltaUsCm > limits.watchUsCm ? 'watch' : 'good';
	if (uptake !== null && uptake < 0) {
		verdict = 'check';
		actions.push(
			'More salt left than came in: that cannot last. Measure both volumes and both EC again, pooled over a whole day.',
		);
	}
	if (verdict === 'act' || verdict === 'watch')
		actions.push(
			...(leachingFraction < LITTLE_DRAIN
				? ['Hardly any drain: water more often (every hour instead of every two), before anything else.']
				: ['Water more often, before anything else.']),
			'Then let each run last until one to two minutes of drain.',
			'Only then feed weaker.',
			...(verdict === 'act'
				? ['If it stays, flush with weak feed. Where the drain may run is a matter of local rules.']
				: []),
		);
	else if (verdict === 'good' && leachingFraction < LITTLE_DRAIN)
		actions.push('Hardly any drain: its EC says little of the root zone. Water until it drains once, then read again.');
	if (ecDeltaUsCm < -BELOW_US_CM)
		actions.push(
			'The drain is weaker than the feed: hungry plants, or too much water. Look at the plants, then feed stronger or water less.',
		);
	if (leachingFraction > MUCH_DRAIN) actions.push('Much of it runs away: shorter runs, if the drain’s EC allows.');
	if (phDelta !== null && phDelta < PH_FALLS)
		actions.push(
			ecDeltaUsCm > limits.watchUsCm
				? 'pH falls while salt builds up: the two go together. Bring the salt down first.'
				: 'pH falls while EC is steady: look at the roots; it may be disease, or much ammonium in the feed.',
		);
	else if (phDelta !== null && phDelta > PH_RISES)
		actions.push('pH rises gently as nitrate is taken up: usual in good growth. Watch that it stays in range.');
	return done({
		leachingFraction,
		ecDeltaUsCm,
		uptakeEcUsCm: uptake,
		phDelta,
		verdict,
		actions,
	});
}
