import { CARBONATE_RANGE_C, totalCarbonate } from '../chem/carbonate';
import { AIR_UATM, MG_L_CACO3_PER_MEQ } from '../chem/constants';
import { freeShare, type Medium, mediumOf } from '../chem/solution';
import { done } from '../outcome';
import { type Answer, refuse } from '../problem';
import type { Remark } from '../remark';

/** A water that is to be brought to another pH, as the carbonate system sees it; or why it cannot be. */
export interface TreatedWater {
	m: Medium;
	alkalinityMeqL: number;
	totalMmolL: number;
	/** What is odd about pH and alkalinity together. */
	caution: Remark | null;
}

/** Carbon dioxide that a pH and an alkalinity imply: no tap and no tank holds more, and none for long less than a tenth of air’s (common practice). */
const MOST_ATM = 0.1;
const LEAST_ATM = (0.1 * AIR_UATM) / 1e6;
/** With so little alkalinity a drop kit says nothing of carbon dioxide. */
const TELLS_MEQ_L = 0.1;

/** @param product which of the request's fields holds the label, for the refusal */
export function treatedWater(
	w: {
		ph: number;
		alkalinityMgLCaco3: number;
		tempC: number;
		ecUsCm?: number | undefined;
		pco2Uatm?: number | undefined;
	},
	product: { name: 'acid' | 'base'; percentWw: number },
): Answer<TreatedWater> {
	if (w.tempC < CARBONATE_RANGE_C[0] || w.tempC > CARBONATE_RANGE_C[1])
		return refuse({
			code: 'outside-carbonate',
			field: 'temp_c',
			low: CARBONATE_RANGE_C[0],
			high: CARBONATE_RANGE_C[1],
		});
	if (!(product.percentWw > 0 && product.percentWw <= 100))
		return refuse({ code: 'bad-percent', field: `${product.name}.percent_w_w` });
	const m = mediumOf(w.tempC, w.ecUsCm ?? 0, w.pco2Uatm);
	const alkalinityMeqL = w.alkalinityMgLCaco3 / MG_L_CACO3_PER_MEQ;
	const totalMmolL = totalCarbonate(alkalinityMeqL, w.ph, m.c);
	if (totalMmolL === null) return refuse({ code: 'too-little-alkalinity', field: 'alkalinity_mg_l_caco3', ph: w.ph });
	const atm = (totalMmolL * freeShare(w.ph, m)) / (1000 * m.c.kh);
	if (atm > MOST_ATM)
		return refuse({
			code: 'too-much-carbon-dioxide',
			field: 'alkalinity_mg_l_caco3',
			ph: w.ph,
			alkalinityMgLCaco3: w.alkalinityMgLCaco3,
			times: atm / (AIR_UATM / 1e6),
		});
	return done({
		m,
		alkalinityMeqL,
		totalMmolL,
		caution: alkalinityMeqL > TELLS_MEQ_L && atm < LEAST_ATM ? { code: 'hardly-any-carbon-dioxide', ph: w.ph } : null,
	});
}
