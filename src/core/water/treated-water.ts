import {
	CARBONATE_RANGE_C,
	type CarbonateConstants,
	carbonateConstants,
	MG_L_CACO3_PER_MEQ,
	totalCarbonate,
} from './carbonate';

/** A water that is to be brought to another pH, as the carbonate system sees it; or why it cannot be. */
export type TreatedWater =
	| { ok: true; c: CarbonateConstants; alkalinityMeqL: number; totalMmolL: number }
	| { ok: false; field: string; message: string };

/** @param product which of the request's fields holds the label, for the refusal */
export function treatedWater(
	w: { ph: number; alkalinityMgLCaco3: number; tempC: number },
	product: { name: 'acid' | 'base'; percentWw: number },
): TreatedWater {
	const refuse = (field: string, message: string): TreatedWater => ({ ok: false, field, message });
	if (w.tempC < CARBONATE_RANGE_C[0] || w.tempC > CARBONATE_RANGE_C[1])
		return refuse('temp_c', 'The carbonate constants hold for water from 0 to 60 °C.');
	if (!(product.percentWw > 0 && product.percentWw <= 100))
		return refuse(`${product.name}.percent_w_w`, 'The label’s percent by weight lies above 0 and up to 100.');
	const c = carbonateConstants(w.tempC);
	const alkalinityMeqL = w.alkalinityMgLCaco3 / MG_L_CACO3_PER_MEQ;
	const totalMmolL = totalCarbonate(alkalinityMeqL, w.ph, c);
	return totalMmolL === null
		? refuse(
				'alkalinity_mg_l_caco3',
				`No water has pH ${w.ph} with so little alkalinity: one of the two is wrong. Measure both again.`,
			)
		: { ok: true, c, alkalinityMeqL, totalMmolL };
}
