import { AIR_UATM, CARBONATE_RANGE_C, MG_L_CACO3_PER_MEQ, totalCarbonate } from '../chem/carbonate';
import { freeShare, type Medium, mediumOf } from '../chem/solution';

/** A water that is to be brought to another pH, as the carbonate system sees it; or why it cannot be. */
export type TreatedWater =
	| {
			ok: true;
			m: Medium;
			alkalinityMeqL: number;
			totalMmolL: number;
			/** What is odd about pH and alkalinity together. */
			caution: string | null;
	  }
	| { ok: false; field: string; message: string };

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
): TreatedWater {
	const refuse = (field: string, message: string): TreatedWater => ({ ok: false, field, message });
	if (w.tempC < CARBONATE_RANGE_C[0] || w.tempC > CARBONATE_RANGE_C[1])
		return refuse('temp_c', 'The carbonate constants hold for water from 0 to 60 °C.');
	if (!(product.percentWw > 0 && product.percentWw <= 100))
		return refuse(`${product.name}.percent_w_w`, 'The label’s percent by weight lies above 0 and up to 100.');
	const m = mediumOf(w.tempC, w.ecUsCm ?? 0, w.pco2Uatm);
	const alkalinityMeqL = w.alkalinityMgLCaco3 / MG_L_CACO3_PER_MEQ;
	const totalMmolL = totalCarbonate(alkalinityMeqL, w.ph, m.c);
	if (totalMmolL === null)
		return refuse(
			'alkalinity_mg_l_caco3',
			`No water has pH ${w.ph} with so little alkalinity: one of the two is wrong. Measure both again.`,
		);
	const atm = (totalMmolL * freeShare(w.ph, m)) / (1000 * m.c.kh);
	if (atm > MOST_ATM)
		return refuse(
			'alkalinity_mg_l_caco3',
			`pH ${w.ph} with ${Number(w.alkalinityMgLCaco3.toPrecision(3))} mg/L of alkalinity would hold ${times(atm / (AIR_UATM / 1e6))} the carbon dioxide of air: one of the two is wrong, or they are of different waters. Measure both again, in the same sample.`,
		);
	return {
		ok: true,
		m,
		alkalinityMeqL,
		totalMmolL,
		caution:
			alkalinityMeqL > TELLS_MEQ_L && atm < LEAST_ATM
				? `pH ${w.ph} with this alkalinity would hold less than a tenth of the carbon dioxide that air gives it: measure both again before you dose by this.`
				: null,
	};
}

const times = (factor: number): string => `${Number(factor.toPrecision(2)).toLocaleString('en')} times`;
