import type { DriftModel } from '../drift';
import type { FoulingSpan } from './fouling';
import type { Deviation } from './joint-state';
import type { Stretch } from './stretch';
import type { ProbeCalibration, ProbeJump } from './visit';

/** What is recorded of a probe. */
export interface ProbeOfSite {
	code: string;
	/** Ascending in time. */
	calibrations: readonly ProbeCalibration[];
	/** Ascending in time. */
	jumps: readonly ProbeJump[];
	/** A drop kit: read off colours, never calibrated; half the width of its step, pH. Its bias stays what it is. */
	kit?: { halfStep: number } | undefined;
}

/** The errors of one probe, as its visits and whom it met tell them. */
export interface ProbeErrors {
	drift: DriftModel;
	stretches: readonly Stretch[];
	fouling: readonly FoulingSpan[];
	/** Whether it ever met another: else its calibrations say all there is. */
	metAny: boolean;
	/** Deviation of the error from the line of the calibrations, for what the probe shows: pH, or share for EC. */
	deviationAt: (at: number, value: number) => Deviation;
	/** The same for times of one stretch. */
	deviationIn: (stretch: Stretch) => (at: number, value: number) => Deviation;
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
