import { alkalinityClosed, carbonateConstants, totalCarbonate } from '../water/carbonate';

/**
 * What a solution holds of acid or base between two pH values, from its two usual buffers: carbonate (Plummer and Busenberg
 * 1982, closed to the air) and phosphate (second pKa of phosphoric acid, 7.198). Stumm and Morgan, Aquatic Chemistry.
 */
export type Held = readonly [carbonate: number, phosphate: number];

const PK2_PHOSPHORIC = 7.198;
/** Tap water meets the feed at about this pH. */
const MET_PH = 7.5;

/** meq/L held at a pH by one meq/L of carbonate alkalinity, and by one mmol/L of phosphate. */
export function held(ph: number, tempC: number): Held {
	const c = carbonateConstants(tempC);
	return [alkalinityClosed(ph, totalCarbonate(1, MET_PH, c) ?? 1, c), 1 / (1 + 10 ** (PK2_PHOSPHORIC - ph))];
}

/** meq/L that the way from one pH to another takes, in either direction, for one unit of each buffer. */
export function moved(from: number, to: number, tempC: number): Held {
	const a = held(from, tempC);
	const b = held(to, tempC);
	return [Math.abs(a[0] - b[0]), Math.abs(a[1] - b[1])];
}

/** Change of what is held for each unit of pH. */
export function slopeAt(ph: number, tempC: number): Held {
	const reach = 0.02;
	const [c, p] = moved(ph - reach, ph + reach, tempC);
	return [c / (2 * reach), p / (2 * reach)];
}
