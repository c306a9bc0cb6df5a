import { AERATION, type Aeration, UNKNOWN_AERATION } from '../../chem/degassing';
import type { Component } from './belief';

/** What is believed of a filling before anything was read of it, where nobody knows; medians and spreads of logarithms. */
export interface Known {
	/** Of its water, measured since that water last changed. */
	alkalinityMeqL: number | null;
	waterEcUsCm: number | null;
	ecUsCm: number | null;
	aeration: Aeration | null;
	/** Whether it is known when it was filled. */
	fresh: boolean;
}

/** A tap water half used up (common practice, no source). */
const ALKALINITY_MEQ_L = 1;
const SPREAD_ALKALINITY = 0.9;
/** Most of the anions of a natural water are bicarbonate; of an EC of 200 µS/cm this is the half (common practice, no source). */
const US_CM_PER_MEQ = 200;
const SPREAD_BY_EC = 0.6;
/** Of a measured one, with a label that may be a quarter wrong. */
const SPREAD_MEASURED = 0.3;
/** EC that a feed with 1 mmol/L of phosphate brings: 31 mg/L of phosphorus in 1.5 mS/cm (common practice, no source). */
export const FEED_EC_US_CM = 1500;
const SPREAD_PHOSPHATE = 0.6;
const LEAST_PHOSPHATE = 0.03;
/** A water stands at about this pH, closed, when it goes in: total carbonate is a little more than alkalinity. */
export const CARBON_PER_ALKALINITY = 1.08;

/**
 * Phosphate of a feed, mmol/L, from what it added to the EC of its water (µS/cm).
 * @example phosphateOfFeed(1900, 400) // 1
 */
export const phosphateOfFeed = (ecUsCm: number | null, waterEcUsCm: number | null): number =>
	Math.max(
		ecUsCm === null ? 1 : (ecUsCm - (waterEcUsCm ?? Math.min(400, ecUsCm / 4))) / FEED_EC_US_CM,
		LEAST_PHOSPHATE,
	);

const diagonal = (...spreads: number[]): Component['cov'] =>
	spreads.map((a, i) => spreads.map((_, j) => (i === j ? a * a : 0)));

/** Nitrate raises the pH of a feed more often than ammonium lowers it: hundredths of a meq/L a day (common practice, no source). */
const UPTAKE_MEQ_L_HOUR = 0.001;
const SPREAD_UPTAKE = 0.004;

/** The filling as its water, its EC and its system lead to expect. */
export function priorOf(k: Known): Component {
	const loss = k.aeration === null ? UNKNOWN_AERATION : AERATION[k.aeration];
	const [alkalinity, spread] =
		k.alkalinityMeqL !== null
			? [k.alkalinityMeqL, SPREAD_MEASURED]
			: k.waterEcUsCm !== null
				? [Math.min(k.waterEcUsCm / US_CM_PER_MEQ, 6), SPREAD_BY_EC]
				: [ALKALINITY_MEQ_L, SPREAD_ALKALINITY];
	return {
		mean: [
			Math.log(Math.max(CARBON_PER_ALKALINITY * alkalinity, 0.02)),
			Math.log(phosphateOfFeed(k.ecUsCm, k.waterEcUsCm)),
			Math.log(loss.perHour),
			UPTAKE_MEQ_L_HOUR,
		],
		cov: diagonal(
			k.fresh ? spread : Math.max(spread, SPREAD_ALKALINITY),
			SPREAD_PHOSPHATE,
			loss.spreadLn,
			SPREAD_UPTAKE,
		),
		share: 1,
	};
}

/**
 * Told or not, a water may be another one, a bottle fresher, a tank half full: this much is always left for that. Less where a
 * filling begins as those before it did: in soft water the same feed stands at a lower pH, and at another EC.
 */
export const SURPRISE = { usual: 0.12, beginsAlike: 0.04 };
const SURPRISE_MEDIAN_MEQ_L = 0.7;
const SPREAD_SURPRISE = 1.2;

/** The filling if something has changed that nobody told. */
export function surpriseOf(k: Known, share: number): Component {
	const plain = priorOf(k);
	return {
		mean: [Math.log(SURPRISE_MEDIAN_MEQ_L), ...plain.mean.slice(1)],
		cov: plain.cov.map((row, i) => row.map((v, j) => (i + j === 0 ? SPREAD_SURPRISE ** 2 : v))),
		share,
	};
}

/** Two fillings of one water differ by so much all the same: logarithms of carbonate, phosphate and loss, and uptake. */
const BETWEEN = [0.12, 0.12, 0.15, 0.002];

/** What one filling has taught, as the expectation of the next. */
export function carriedOver(m: Pick<Component, 'mean' | 'cov'>, feedShare: number): Component {
	return {
		mean: m.mean.map((v, i) => (i === 1 ? v + Math.log(feedShare) : v)),
		cov: m.cov.map((row, i) => row.map((v, j) => (i === j ? v + BETWEEN[i]! ** 2 : v))),
		share: 1,
	};
}
