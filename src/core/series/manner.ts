import type { SeriesQuantity } from '../quantity/quantities';

/**
 * How a sensor of a quantity moves when all is well, as far as the checks of a stream go by it.
 * Sizes are common practice, no source; those of pH, EC and temperature are the least steps that a history is given too (judge/prior).
 */
export interface Manner {
	/** Sizes below are shares of the value and not canonical units. */
	share: boolean;
	/** The least standard deviation of one step: what noise, rounding and slow movement make. */
	least: number;
	/** Below this a share is taken of this, canonical. */
	floor: number;
	/** Whether a jump that nothing explains is doubtful: what is switched or watered jumps by itself. */
	steady: boolean;
	/** Whether one value for hours is doubtful: a closed valve and a full tank rest honestly. */
	moves: boolean;
}

const plain = (least: number): Manner => ({ share: false, least, floor: 0, steady: true, moves: true });
const share = (least: number, floor: number): Manner => ({ share: true, least, floor, steady: true, moves: true });

export const MANNERS: Readonly<Record<SeriesQuantity, Manner>> = {
	ph: plain(0.05),
	ec: share(0.02, 50),
	temp: plain(0.5),
	level: { ...plain(6), moves: false },
	volume: { ...share(0.02, 5), moves: false },
	do: plain(0.4),
	orp: plain(15),
	mv: plain(4),
	no3: share(0.05, 5),
	k: share(0.05, 5),
	ca: share(0.05, 5),
	alkalinity: share(0.05, 10),
	hardness: share(0.05, 10),
	air_temp: plain(1),
	humidity: { ...plain(5), steady: false },
	moisture: { ...plain(3), steady: false },
	substrate_ec: { ...share(0.06, 50), steady: false },
	flow: { ...share(0.2, 1), steady: false, moves: false },
};
