import type { QuantityDefinition, SeriesQuantity } from '../../quantity';
import type { Finding, InstrumentInfo, ProbeState, Reading, StationInfo } from '../../reading/model';
import type { Prediction } from '../history';
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
	/** Time of the newest reading of this station, quantity and instrument, and the value there. */
	previous: { at: number; value: number } | null;
	/** Earlier value at exactly this time, station, quantity and instrument. */
	twin: number | null;
	/** EC of the water here, µS/cm at 25 °C: from this sample, else from the history. */
	ecHereUsCm: number | null;
	/** A sensor that reads by itself, many times an hour. */
	continuous: boolean;
	/** Something was added less than the mixing time ago. */
	mixing: boolean;
	/** How often this value now stands in a row, and from how many on chance does not explain it; null for the first. */
	repeats: { length: number; improbableFrom: number } | null;
	/** Since when this value is repeated; null when it is not. */
	repeatedSince: number | null;
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
