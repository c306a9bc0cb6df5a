import type { SeriesQuantity } from '@/core/quantity';
import type { Ions } from '@/core/water/ions';
import type { MembraneState, RejectionPoint } from '@/core/water/membrane';
import type { SourceChart } from '@/core/water/source-chart';

export interface SourceReport {
	at: number;
	lab: string;
	ions: Ions;
	ecUsCm: number | null;
	ph: number | null;
}
/** What the Water page shows of a source and of a membrane. */
export interface WaterSource {
	code: string;
	name: string;
	newest: Partial<Record<SeriesQuantity, { value: number; at: number }>>;
	charts: Partial<Record<SeriesQuantity, SourceChart>> & { ec: SourceChart; ph: SourceChart };
	report: SourceReport | null;
	/** Newest first. */
	reports: SourceReport[];
	alkalinityMgLCaco3: number | null;
	hardnessMgLCaco3: number | null;
	depends: { kind: 'recipe' | 'batch' | 'station' | 'doses'; name: string; words: string; path: string }[];
}
export interface WaterMembrane {
	station: string;
	feed: string;
	points: RejectionPoint[];
	state: MembraneState;
}
