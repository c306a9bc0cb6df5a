import type { Quantity } from '@/core/quantity';
import type { EventKind } from '@/core/reading/model';
import type { DemoBatch } from './batches';

/** What is written down at Saltmarsh Yard, with the truth behind it. */
export interface DemoReading {
	at: number;
	station: string;
	instrument: string;
	quantity: Quantity;
	digits: string;
	unit: string;
	tempC: number | null;
	waitS: number | null;
	note: string;
	/** What the water truly was, canonical. Not stored: for tests against the truth. */
	truth: number;
	/** What the display showed, canonical: where undoing a slip must lead. */
	shown: number;
	/** The fault behind it, empty for an honest reading. */
	fault: Fault | '';
}
export type Fault =
	| 'unit-slip'
	| 'decimal-slip'
	| 'swapped'
	| 'scale-mismatch'
	| 'wrong-station'
	| 'fahrenheit'
	| 'duplicate';

export interface DemoEvent {
	at: number;
	station: string;
	kind: EventKind;
	amount: number | null;
	unit: string;
	product: string;
	note: string;
}

/** A probe adjusted or checked, with what was found. */
export interface DemoCalibration {
	at: number;
	instrument: string;
	quantity: 'ph' | 'ec';
	kind: 'check' | 'adjust';
	points: { standard: string; nominal: number; asFound: number; asLeft: number | null }[];
	tempC: number;
}

/** An irrigation of the gutters, with cups under three drippers and trays under three bags. */
export interface DemoRun {
	at: number;
	minutes: number;
	firstDrainMin: number;
	appliedCups: number[];
	drainedCups: number[];
}

export interface Season {
	readings: DemoReading[];
	events: DemoEvent[];
	calibrations: DemoCalibration[];
	batches: DemoBatch[];
	runs: DemoRun[];
	course: TankPoint[];
}

/** What the water of a tank truly was at a time; between two of these it went straight. */
export interface TankPoint {
	at: number;
	station: 'pond' | 'slabs' | 'bench';
	ph: number;
	ecUsCm: number;
	tempC: number;
	volumeL: number;
}

/** One dip, as the water truly was. */
export interface Sample {
	at: number;
	station: string;
	ph: number | null;
	ecUsCm: number | null;
	tempC: number;
	phPen: 'plum' | 'brass';
	ecPen: 'plum' | 'minnow' | null;
}
