import type { Prediction } from '../judge/history';
import { toWorking } from '../judge/working-scale';
import type { SeriesQuantity } from '../quantity/quantities';
import { toCanonical, type Unit } from '../quantity/units';

/**
 * Puts the decimal mark into digits typed without one, where the station's expectation says it belongs: 58 becomes
 * 5.8, 192 becomes 1.92, 214 becomes 21.4, 870 becomes 0.870. Saves the one key that is hardest to find with wet gloves.
 *
 * Only digits of two to four places are touched, and what came of them is always shown. Digits that fit as they are
 * stay as they are, so 950 ppm is 950 ppm.
 */
export function placeMark(digits: string, quantity: SeriesQuantity, unit: Unit, prediction: Prediction | null): string {
	if (!/^\d{2,4}$/.test(digits) || prediction === null) return digits;
	const miss = (text: string) => Math.abs(toWorking(quantity, toCanonical(Number(text), unit)) - prediction.level);
	let best = digits;
	for (let place = 0; place < digits.length; place++) {
		const candidate = `${digits.slice(0, place) || '0'}.${digits.slice(place)}`;
		if (miss(candidate) < miss(best)) best = candidate;
	}
	return best;
}
