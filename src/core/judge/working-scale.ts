import type { SeriesQuantity } from '../quantity/quantities';

/**
 * The scale on which a quantity varies evenly, for prediction: pH and temperature as they are; EC and concentrations
 * as a logarithm, since they change by percentages, softened by a constant so that a few µS/cm of rain water are few.
 */
const SOFTENING: Partial<Record<SeriesQuantity, number>> = {
	ec: 50,
	substrate_ec: 50,
	flow: 0.5,
	no3: 5,
	k: 5,
	ca: 5,
	alkalinity: 10,
	hardness: 10,
	volume: 1,
	level: 10,
};

/**
 * A canonical value on the scale that it scatters evenly on: concentrations by their softened logarithm, pH and temperature as they are.
 * @example toWorking('ph', 6.1) // 6.1
 */
export function toWorking(quantity: SeriesQuantity, value: number): number {
	const soft = SOFTENING[quantity];
	return soft === undefined ? value : Math.log(Math.max(value, 0) + soft);
}

/**
 * The canonical value of one on the working scale; never below nothing.
 * @example fromWorking('ec', toWorking('ec', 1712)) // 1712
 */
export function fromWorking(quantity: SeriesQuantity, working: number): number {
	const soft = SOFTENING[quantity];
	return soft === undefined ? working : Math.max(Math.exp(working) - soft, 0);
}

/** A standard uncertainty carried from canonical to working units at a value. */
export function uncertaintyToWorking(quantity: SeriesQuantity, value: number, u: number): number {
	const soft = SOFTENING[quantity];
	return soft === undefined ? u : u / (Math.max(value, 0) + soft);
}
