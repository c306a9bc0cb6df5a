import { phosphatePk2 } from './activity';
import { type CarbonateConstants, carbonateConstants } from './carbonate';
import { AIR_UATM } from './constants';

/**
 * A nutrient solution by its two usual buffers, carbonate and phosphate: what base it holds at a pH, its pH, and what it
 * loses to the air. `held` is alkalinity counted from H2PO4, meq/L: acid takes from it, base adds to it, carbon dioxide that
 * leaves does not change it. Stumm and Morgan, Aquatic Chemistry. Valid for pH 2 to 12, EC up to 10 mS/cm, 0–60 °C.
 */
export interface Medium {
	tempC: number;
	c: CarbonateConstants;
	/** Second dissociation constant of phosphoric acid in it. */
	kPhosphate: number;
	/** Carbon dioxide in balance with air, mmol/L. */
	airMmolL: number;
}

/**
 * The constants of a solution at a temperature (°C, 0 to 60) and an EC (µS/cm; 0: thin water), under air of so much carbon dioxide.
 * @example 1000 * mediumOf(25, 0).airMmolL // 14.299; µmol/L of carbon dioxide that air keeps in water
 */
export function mediumOf(tempC: number, ecUsCm: number, airUatm: number = AIR_UATM): Medium {
	const c = carbonateConstants(tempC, ecUsCm);
	return { tempC, c, kPhosphate: 10 ** -phosphatePk2(tempC, ecUsCm), airMmolL: 1000 * c.kh * airUatm * 1e-6 };
}

/** What something else in it holds at a pH, meq/L: an acid that buffers by itself. */
export type OtherAcid = (ph: number) => number;

/** Base held at a pH, meq/L. */
export function heldAt(ph: number, carbonMmolL: number, phosphateMmolL: number, m: Medium): number {
	const h = Math.exp(-Math.LN10 * ph);
	const one = m.c.k1 / h;
	const two = (one * m.c.k2) / h;
	return (
		(carbonMmolL * (one + 2 * two)) / (1 + one + two) +
		(phosphateMmolL * m.kPhosphate) / (m.kPhosphate + h) +
		1000 * (m.c.kw / h - h / m.c.gammaH)
	);
}

/** How much `held` grows for each unit of pH: the buffer capacity, meq/L. */
export function bufferAt(ph: number, carbonMmolL: number, phosphateMmolL: number, m: Medium): number {
	const h = Math.exp(-Math.LN10 * ph);
	const one = m.c.k1 / h;
	const two = (one * m.c.k2) / h;
	const all = 1 + one + two;
	const charge = (one + 2 * two) / all;
	const share = m.kPhosphate / (m.kPhosphate + h);
	return (
		Math.LN10 *
		(carbonMmolL * ((one + 4 * two) / all - charge * charge) +
			phosphateMmolL * share * (1 - share) +
			1000 * (m.c.kw / h + h / m.c.gammaH))
	);
}

const LEAST_PH = 1;
const MOST_PH = 13;
const CLOSE_PH = 2e-5;

/** The pH at which so much is held: Newton’s method inside a bracket that never lets it go astray. */
export function phOfHeld(
	heldMeqL: number,
	carbonMmolL: number,
	phosphateMmolL: number,
	m: Medium,
	guess: number,
	other?: OtherAcid,
): number {
	const { k1, k2, kw, gammaH } = m.c;
	const kp = m.kPhosphate;
	let [low, high] = [LEAST_PH, MOST_PH];
	let ph = Math.min(Math.max(guess, low), high);
	for (let i = 0; i < 60; i++) {
		// heldAt and bufferAt in one: this is where all the time goes.
		const h = Math.exp(-Math.LN10 * ph);
		const one = k1 / h;
		const two = (one * k2) / h;
		const all = 1 + one + two;
		const charge = (one + 2 * two) / all;
		const share = kp / (kp + h);
		const miss =
			carbonMmolL * charge + phosphateMmolL * share + 1000 * (kw / h - h / gammaH) - heldMeqL + (other ? other(ph) : 0);
		const slope =
			Math.LN10 *
				(carbonMmolL * ((one + 4 * two) / all - charge * charge) +
					phosphateMmolL * share * (1 - share) +
					1000 * (kw / h + h / gammaH)) +
			(other ? (other(ph + 0.01) - other(ph - 0.01)) / 0.02 : 0);
		if (miss > 0) high = ph;
		else low = ph;
		const next = ph - miss / slope;
		const inside = next > low && next < high;
		const step = (inside ? next : (low + high) / 2) - ph;
		ph += step;
		if (Math.abs(step) < CLOSE_PH) break;
	}
	return ph;
}

/** Of the total carbonate, what is dissolved carbon dioxide at a pH. */
export function freeShare(ph: number, m: Medium): number {
	const h = Math.exp(-Math.LN10 * ph);
	return 1 / (1 + m.c.k1 / h + (m.c.k1 * m.c.k2) / (h * h));
}

/** Hours of a step, in units of the time in which most of the excess leaves; and no more steps than this. */
const STEP = 0.5;
const MOST_STEPS = 10;

/**
 * Total carbonate after so many hours in contact with air: what is over the air’s leaves at first order,
 * d[CO2]/dt = −k·([CO2] − [CO2]air), at the pH that it then has. Steps of the exponential Rosenbrock–Euler method (Hochbruck
 * and Ostermann 2010, Acta Numerica 19, 209–286): exact where dissolved carbon dioxide follows carbonate in proportion, and
 * at rest in the end however long the step. Right to 0.03 pH from minutes to weeks.
 * @param heldMeqL stays as it is
 */
export function carbonAfter(
	hours: number,
	lossPerHour: number,
	heldMeqL: number,
	carbonMmolL: number,
	phosphateMmolL: number,
	m: Medium,
	guess: number,
	other?: OtherAcid,
): { carbonMmolL: number; ph: number } {
	let carbon = carbonMmolL;
	let ph = phOfHeld(heldMeqL, carbon, phosphateMmolL, m, guess, other);
	if (!(hours > 0)) return { carbonMmolL: carbon, ph };
	const steps = Math.min(Math.max(Math.ceil((hours * lossPerHour) / STEP), 1), MOST_STEPS);
	const x = (hours * lossPerHour) / steps;
	for (let i = 0; i < steps; i++) {
		const free = freeShare(ph, m);
		const carried = 1 - free;
		const buffer = bufferAt(ph, carbon, phosphateMmolL, m) + (other ? (other(ph + 0.01) - other(ph - 0.01)) / 0.02 : 0);
		// How dissolved carbon dioxide follows total carbonate with the same base held: less of it also lifts the pH.
		const follows = free * (1 + (Math.LN10 * carbon * carried * carried) / buffer);
		const over = carbon * free - m.airMmolL;
		carbon = Math.max(carbon - (over / follows) * (1 - Math.exp(-x * follows)), 0);
		ph = phOfHeld(heldMeqL, carbon, phosphateMmolL, m, ph, other);
	}
	return { carbonMmolL: carbon, ph };
}
