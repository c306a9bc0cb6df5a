import type { DriftModel } from '../drift';
import type { FoulingSpan } from './fouling';
import type { Deviation } from './joint';
import type { Stretch } from './stretch';

/** The errors of one probe, as its visits and whom it met tell them. */
export interface ProbeErrors {
	drift: DriftModel;
	stretches: readonly Stretch[];
	fouling: readonly FoulingSpan[];
	/** Deviation of the error from the line of the calibrations: pH, or share for EC. */
	deviationAt: (at: number) => Deviation;
	/** Pairs that tell of a stretch: when, with whom, what was shown. */
	pairsIn: (stretch: Stretch) => MetPair[];
}
export interface MetPair {
	id: number;
	at: number;
	other: string;
	/** Reading of this probe. */
	reading: number;
	value: number;
	otherValue: number;
	/** How much it counts: 1 all, 0 nothing. */
	weight: number;
	/** And how much it did when it was the newest. */
	whenNew: number;
}
