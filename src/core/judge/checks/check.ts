import type { QuantityDefinition, SeriesQuantity } from '../../quantity';
import type { Finding, InstrumentInfo, ProbeState, Reading, StationInfo } from '../../reading/model';
import type { Prediction } from '../history';
import type { AtRest } from '../trace';
import type { Waits } from '../waits';

/** Everything one check may look at. A reading is judged with its sample-mates, before any of them is believed. */
export interface Subject {
	reading: Reading;
	quantity: SeriesQuantity;
	definition: QuantityDefinition;
	station: StationInfo;
	instrument: InstrumentInfo | undefined;
	/** Value and uncertainty on the working scale. */
	level: number;
	uWorking: number;
	u: number;
	prediction: Prediction | null;
	/** Miss in standard deviations; 0 without a prediction. */
	missed: number;
	/** Beyond this many the value does not fit. */
	limit: number;
	/** The other readings of the same sample. */
	mates: readonly Subject[];
	/** Expectations of the same quantity at other stations with a history. */
	elsewhere: (quantity: SeriesQuantity) => readonly { station: string; prediction: Prediction }[];
	/** The newest reading of this station, quantity and instrument, and how long there usually is between two. */
	previous: { at: number; value: number; usualGapMs: number | null } | null;
	/** Earlier value at exactly this time, station, quantity and instrument. */
	twin: number | null;
	/** EC of the water here, µS/cm at 25 °C: from this sample, else from the history. */
	ecHereUsCm: number | null;
	/** A sensor that reads by itself, many times an hour. */
	continuous: boolean;
	/** Something was added less than the mixing time ago. */
	mixing: boolean;
	/** How long this value has been standing, and all that the instrument shows; null where it moves. */
	rests: AtRest | null;
	together: AtRest | null;
	/** The steps of this display are larger than its noise. */
	coarse: boolean;
	/** What a hand wrote down here last. */
	written: readonly { at: number; value: number }[];
	/** How many readings before say the same as this one against the history. */
	agreeing: { times: number; since: number } | null;
	/** A hole in a sensor's record just before this reading. */
	gap: { ms: number; usualMs: number } | null;
	/** What other instruments showed here within the last quarter of an hour. */
	neighbours: readonly { instrument: string; at: number; shown: number; value: number; u: number; missed: number }[];
	/** Hand readings show that this sensor has moved away: by how much (pH, or share of EC). */
	drifted: { offset: number; against: string; comparisons: number } | null;
	/** The newest calibration of this probe before the reading. */
	probe: ProbeState | null;
	/** Where this instrument's EC was read just before, at any station. */
	before: { at: number; station: string; ecUsCm: number } | null;
	/** Seconds that readings want here. */
	waits: Waits;
	zone: string;
	now: number;
}

/** One rule. Returns what it found wrong, or null. */
export interface Check {
	code: string;
	title: string;
	run(subject: Subject): Finding | null;
}

/** Whether a value misses its prediction by more than the limit that goes with how well the station is known. */
export const unexpected = (s: Subject): boolean => s.prediction !== null && Math.abs(s.missed) > s.limit;
