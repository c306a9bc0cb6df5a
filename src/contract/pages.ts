import type { SeriesQuantity } from '@/core/quantity';
import type { Consequence } from '@/core/water/depends';
import type { Dissolved } from '@/core/water/ions';
import type { MembraneState, RejectionPoint } from '@/core/water/membrane';
import type { SourceChart } from '@/core/water/source-chart';

/** What pages hand to their views beside what the API answers with. */

/** A tank on the Mix page, with its newest values. */
export interface Tank {
	code: string;
	name: string;
	volumeL: number | null;
	/** By its newest level and its shape; null where either is not known. */
	litresNow: { litres: number; at: number } | null;
	phRange: [number, number] | null;
	ecRange: [number, number] | null;
	/** Of its season, where a plan has begun: the ranges are those of this stage. */
	stage: string | null;
	ph: number | null;
	ecUsCm: number | null;
	phAt: number | null;
	ecAt: number | null;
	/** Nothing is poured on an EC in doubt. */
	ecDoubted: boolean;
	/** Something was poured in or drained since its EC was read: it is read again before anything is poured on it. */
	ecOvertaken: boolean;
}
/** A water whose EC is known, with what else is. */
export interface KnownWater {
	code: string;
	name: string;
	ecUsCm: number;
	ph: number | null;
	alkalinityMgLCaco3: number | null;
	/** What a laboratory found in it, mg/L. */
	ions: Dissolved | null;
}

export interface SourceReport {
	at: number;
	lab: string;
	ions: Dissolved;
	ecUsCm: number | null;
	ph: number | null;
}
/** What hangs on the EC of a source. */
export interface Dependant {
	kind: 'recipe' | 'batch' | 'station' | 'doses';
	name: string;
	means: Consequence;
	/** Where it is looked after. */
	path: string;
}
/** A source with its record: newest values, a chart for everything that was read of it, reports. */
export interface WaterSource {
	code: string;
	name: string;
	newest: Partial<Record<SeriesQuantity, { value: number; at: number }>>;
	/** EC and pH always; others where there are readings. */
	charts: Partial<Record<SeriesQuantity, SourceChart>> & { ec: SourceChart; ph: SourceChart };
	report: SourceReport | null;
	/** Newest first. */
	reports: SourceReport[];
	/** From readings, else from the report. */
	alkalinityMgLCaco3: number | null;
	hardnessMgLCaco3: number | null;
	/** What hangs on its EC, where that has changed. */
	depends: Dependant[];
}
export interface WaterMembrane {
	station: string;
	feed: string;
	points: RejectionPoint[];
	state: MembraneState;
}
