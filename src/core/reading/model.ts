import type { FindingSaid } from '../judge/said';
import type { PpmScale, Quantity, Unit } from '../quantity';
import type { PerDrop } from './drops';

/** Words shared by everything that judges readings. Times are milliseconds since 1970 in UTC. */

export const STATION_KINDS = ['source', 'blend', 'mix', 'reservoir', 'root_zone', 'drain', 'standard'] as const;
export type StationKind = (typeof STATION_KINDS)[number];

/** Plants that share one solution are kept in one of these. */
export const SYSTEM_KINDS = [
	'raft_pond',
	'channel',
	'bucket',
	'passive_tank',
	'drip_to_drain',
	'drip_recirculating',
	'tower',
	'flood_table',
] as const;

export interface Range {
	low: number;
	high: number;
}

export interface StationInfo {
	code: string;
	kind: StationKind;
	system: string | null;
	volumeL: number | null;
	/** Target range by series quantity, in canonical units. */
	ranges: Partial<Record<Quantity, Range>>;
	/** What it was until it was changed, the oldest first; absent where it never was (core/reading/station-at). */
	before?: readonly (Omit<StationInfo, 'code' | 'before'> & { until: number })[];
}

export interface InstrumentQuantity {
	resolution?: number | undefined;
	/** Stated accuracy as a half width in canonical units… */
	accuracy?: number | undefined;
	/** …or in percent of the reading. */
	accuracyPct?: number | undefined;
}

export interface InstrumentInfo {
	code: string;
	quantities: Partial<Record<Quantity, InstrumentQuantity>>;
	ppmScale: PpmScale | null;
	compensates: boolean;
	alphaPctPerC: number;
	continuous: boolean;
	/** What one drop stands for, of a kit that counts drops. */
	perDrop?: Partial<Record<Quantity, PerDrop>>;
	/** What it was until it was changed, the oldest first; absent where it never was (core/reading/instrument-at). */
	before?: readonly (Omit<InstrumentInfo, 'code' | 'before'> & { until: number })[];
}

export interface Reading {
	at: number;
	station: string;
	/** Empty when nobody said. */
	instrument: string;
	quantity: Quantity;
	unit: Unit;
	/** The digits as typed, with a decimal point; `5.0..6.0` for an interval. */
	digits: string;
	/** Canonical; the middle of an interval. */
	value: number;
	/** Half width of an interval in canonical units, 0 for a number. */
	halfWidth: number;
	tempC: number | null;
	waitS: number | null;
	/** Steps of the protocol that were left out (see protocol.ts); undefined when nobody kept track. */
	skipped?: readonly string[] | undefined;
}

export const EVENT_KINDS = [
	'water_added',
	'nutrient_added',
	'acid_added',
	'base_added',
	'solution_changed',
	'sampled',
	'probe_cleaned',
	'probe_out',
	'calibrated',
	'irrigated',
	'drained',
	'lights_on',
	'lights_off',
	'note',
] as const;
export type EventKind = (typeof EVENT_KINDS)[number];
/** What is poured into a tank or drained from it. */
export const POURING_KINDS = [
	'water_added',
	'nutrient_added',
	'acid_added',
	'base_added',
	'solution_changed',
	'drained',
] as const satisfies readonly EventKind[];

export interface WaterEvent {
	at: number;
	station: string;
	kind: EventKind;
	amount: number | null;
	unit: Unit | null;
}

/** IOOS QARTOD: 1 pass, 2 not evaluated, 3 suspect, 4 fail, 9 missing. */
export type Flag = 1 | 2 | 3 | 4 | 9;

/** What a check found wrong. Codes are a promise of docs/formats.md: add, never rename. */
export interface Finding {
	check: string;
	flag: 2 | 3 | 4;
	cause: string;
	/** Canonical value that the suggested mistake would turn the reading into. */
	suggested: number | null;
	/** What was seen and what would settle it, without words. */
	said: FindingSaid;
	evidence: Record<string, number | string>;
	/** How surely this finding explains the reading; the strongest decides. */
	weight: number;
}

export interface Verdict {
	flag: Flag;
	/** The finding that decides, null for a pass. */
	deciding: Finding | null;
	findings: Finding[];
	expected: { value: number; low: number; high: number } | null;
	/** Standard uncertainty of the reading, canonical. */
	u: number;
	/** Whether the value lies in the station's target range; null without one. */
	inRange: boolean | null;
	/** The finding holds for this series from this time on: what came before was let pass until it was sure. */
	since?: number | undefined;
}

/** What is known of a probe at a time: its newest calibration before it. */
export interface ProbeState {
	at: number;
	/** How it was left: a failed electrode stays failed when it is adjusted, a wrong reading does not. */
	verdict: 'good' | 'watch' | 'fail';
	tempC: number | null;
	intervalDays: number;
}

/** Changes when the checks would judge the same rows differently; stored beside every derived verdict. */
export const ENGINE_VERSION = 7;
