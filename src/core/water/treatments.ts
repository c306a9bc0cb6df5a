import { MG_L_CACO3_PER_MEQ } from '../chem/constants';
import { IONS } from './ions';

/**
 * What a treatment makes of a water, in the numbers that a grower knows of it. Ion exchange swaps equivalents: a softener puts one of
 * sodium for one of hardness. Rejection of a membrane is the usual of its kind (common practice, no source) unless its own is known.
 */
export const TREATMENTS = [
	'softener',
	'reverse osmosis',
	'deioniser',
	'carbon filter',
	'sediment filter',
	'UV lamp',
] as const;
export type Treatment = (typeof TREATMENTS)[number];

/** Null where it is not known. */
export interface WaterNumbers {
	ecUsCm: number | null;
	alkalinityMgLCaco3: number | null;
	hardnessMgLCaco3: number | null;
	naMgL: number | null;
	clMgL: number | null;
}

/** A membrane in good order holds back so much. */
const REJECTION = 0.95;
/** What a softener lets through, mg/L CaCO3: under a third of a grain for each gallon. */
const SOFT = 5;
/** Mean of calcium's and magnesium's mobility, S·cm²/eq. */
const HARDNESS_LAMBDA = (IONS.ca_mg_l.lambda + IONS.mg_mg_l.lambda) / 2;
/** Of the ions' full mobility at the strength of tap water. */
const AT_TAP_STRENGTH = 0.9;

const times = (w: WaterNumbers, share: number): WaterNumbers => ({
	ecUsCm: w.ecUsCm === null ? null : w.ecUsCm * share,
	alkalinityMgLCaco3: w.alkalinityMgLCaco3 === null ? null : w.alkalinityMgLCaco3 * share,
	hardnessMgLCaco3: w.hardnessMgLCaco3 === null ? null : w.hardnessMgLCaco3 * share,
	naMgL: w.naMgL === null ? null : w.naMgL * share,
	clMgL: w.clMgL === null ? null : w.clMgL * share,
});

/**
 * @param rejection of a membrane, 0 to 1, where it is known
 * @example treated({ ecUsCm: 500, alkalinityMgLCaco3: 100, hardnessMgLCaco3: 105, naMgL: 10, clMgL: 20 }, 'softener').naMgL.toFixed(0) // '56'
 */
export function treated(w: WaterNumbers, by: Treatment, rejection: number = REJECTION): WaterNumbers {
	switch (by) {
		case 'softener': {
			if (w.hardnessMgLCaco3 === null) return { ...w, naMgL: null };
			const left = Math.min(w.hardnessMgLCaco3, SOFT);
			const swappedMeqL = (w.hardnessMgLCaco3 - left) / MG_L_CACO3_PER_MEQ;
			const change = AT_TAP_STRENGTH * swappedMeqL * (IONS.na_mg_l.lambda - HARDNESS_LAMBDA);
			return {
				...w,
				ecUsCm: w.ecUsCm === null ? null : w.ecUsCm + change,
				hardnessMgLCaco3: left,
				naMgL: w.naMgL === null ? null : w.naMgL + swappedMeqL * IONS.na_mg_l.mgPerMeq,
			};
		}
		case 'reverse osmosis':
			return times(w, 1 - rejection);
		case 'deioniser':
			return times(w, 0);
		default:
			return w;
	}
}
