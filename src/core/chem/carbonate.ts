import { activity } from './activity';
import { CONSTANTS } from './constants';

/**
 * Carbonic acid in water: pK1, pK2, pKw and Henry's constant by temperature after Plummer and Busenberg (1982),
 * Geochimica et Cosmochimica Acta 46, 1011–1040. Without an EC concentrations stand for activities: right to about 0.05 pH
 * for tap and irrigation waters. With one the constants are effective ones (activity.ts): pH is an activity, as electrodes
 * read it, and everything else a concentration. Alkalinity is carbonate alkalinity, meq/L.
 */
export interface CarbonateConstants {
	k1: number;
	k2: number;
	kw: number;
	/** mol/L per atm. */
	kh: number;
	/** Activity coefficient of hydrogen ions. */
	gammaH: number;
}

export const CARBONATE_RANGE_C: readonly [number, number] = [0, 60];

/**
 * @param ecUsCm of the solution, µS/cm at 25 °C, up to 10,000; 0 or left out: a thin water
 * @example -Math.log10(carbonateConstants(25).k1) // 6.352
 */
export function carbonateConstants(tempC: number, ecUsCm = 0): CarbonateConstants {
	const t = tempC + CONSTANTS.zeroCelsius.value;
	const log = Math.log10(t);
	const of = (a: number, b: number, c: number, d: number, e: number) =>
		10 ** (a + b * t + c / t + d * log + e / t ** 2);
	const g = activity(tempC, ecUsCm);
	return {
		k1: of(-356.3094, -0.06091964, 21834.37, 126.8339, -1684915) / g.gamma1,
		k2: (of(-107.8871, -0.03252849, 5151.79, 38.92561, -563713.9) * g.gamma1) / g.gamma2,
		kh: of(108.3865, 0.01985076, -6919.53, -40.45154, 669365),
		kw: of(-283.971, -0.05069842, 13323, 102.24447, -1119669) / g.gamma1,
		gammaH: g.gamma1,
	};
}

/** Charge carried by one mole of carbonate at a pH: α1 + 2·α2. */
function charge(c: CarbonateConstants, h: number): number {
	const bi = c.k1 / h;
	const two = (c.k1 * c.k2) / (h * h);
	return (bi + 2 * two) / (1 + bi + two);
}

/** Hydroxide less hydrogen ions, meq/L. */
const waterIons = (c: CarbonateConstants, h: number): number => 1000 * (c.kw / h - h / c.gammaH);

/** Alkalinity (meq/L) of a water with so much total carbonate (mmol/L) at a pH, closed to the air. */
export function alkalinityClosed(ph: number, totalMmolL: number, c: CarbonateConstants): number {
	const h = 10 ** -ph;
	return totalMmolL * charge(c, h) + waterIons(c, h);
}

/** Alkalinity (meq/L) of a water in equilibrium with air at a pH. */
export function alkalinityOpen(ph: number, pco2Uatm: number, c: CarbonateConstants): number {
	const h = 10 ** -ph;
	const dissolved = c.kh * pco2Uatm * 1e-6;
	return 1000 * dissolved * (c.k1 / h + (2 * c.k1 * c.k2) / (h * h)) + waterIons(c, h);
}

/** A little less than nothing is rounding; more is a water that cannot be. */
const ROUNDING_MEQ = 0.02;

/** Total carbonate (mmol/L) from alkalinity and pH; null where no water has both. */
export function totalCarbonate(alkalinityMeqL: number, ph: number, c: CarbonateConstants): number | null {
	const h = 10 ** -ph;
	const carried = alkalinityMeqL - waterIons(c, h);
	if (carried < -ROUNDING_MEQ) return null;
	return Math.max(carried, 0) / charge(c, h);
}

/** The pH at which an increasing function of pH reaches a value, by bisection; the ends where it does not. */
export function solvePh(f: (ph: number) => number, wanted: number): number {
	let low = 0;
	let high = 14;
	for (let i = 0; i < 60; i++) {
		const middle = (low + high) / 2;
		if (f(middle) < wanted) low = middle;
		else high = middle;
	}
	return (low + high) / 2;
}

/**
 * pH of a water of this alkalinity (meq/L) in equilibrium with air of so much carbon dioxide (µatm): where it ends when it stands open.
 * @example phOpen(4, 420, carbonateConstants(25)) // 8.7744; what hard tap water climbs to
 */
export const phOpen = (alkalinityMeqL: number, pco2Uatm: number, c: CarbonateConstants): number =>
	solvePh((ph) => alkalinityOpen(ph, pco2Uatm, c), alkalinityMeqL);
