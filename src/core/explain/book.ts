import type { Aeration } from '../chem/degassing';

/** What was seen of one quantity: pH, or EC in µS/cm at 25 °C. */
export interface Seen {
	at: number;
	/** As the display said it. */
	value: number;
	/** What the probe is held to have been off by: the truth is `value − off`. 0 where nothing is known. */
	off: number;
}
/** A value beside it, whatever it is of. */
export interface Beside {
	at: number;
	value: number;
}
/** Something done to the water. `feed` is any that brings nutrients, also by the batch. */
export interface Act {
	at: number;
	kind: 'water' | 'feed' | 'changed' | 'acid' | 'base';
	litres: number | null;
}

/** What the book holds of one water over some weeks: all that an explanation may lean on. Lists are oldest first. */
export interface Book {
	quantity: 'ph' | 'ec';
	/** `drain`: what runs out of bags and pots; else a solution that is kept. */
	kind: 'tank' | 'drain';
	readings: readonly Seen[];
	/** EC where pH is asked about, pH where EC is. */
	other: readonly Beside[];
	temps: readonly Beside[];
	/** Dissolved oxygen, mg/L. */
	oxygen: readonly Beside[];
	acts: readonly Act[];
	/** What ran off of each run, as a share of what was given. */
	shares: readonly Beside[];
	/** The same quantity in what feeds it. */
	feed: readonly Beside[];
	/** What this pen said less what another said of the same water. */
	pairs: readonly Beside[];
	/** Days on which the pen was adjusted in buffer or standard. */
	calibrated: readonly number[];
	volumeL: number | null;
	aeration: Aeration | null;
	/** Of the water that is added. */
	water: { alkalinityMeqL: number | null; ecUsCm: number | null };
	/** Ammonium as a share of the nitrogen fed. */
	ammoniumShare: number | null;
	/** Whether the pen brings EC to 25 °C by itself. */
	compensates: boolean | null;
}
