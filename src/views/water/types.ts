import type { Ions } from '@/core/water/ions';
import type { MembraneState, RejectionPoint } from '@/core/water/membrane';
import type { SourceChart } from '@/core/water/source-chart';

/** What the Water page shows of a source and of a membrane. */
export interface WaterSource {
	code: string;
	name: string;
	newest: Partial<Record<'ec' | 'ph' | 'temp' | 'alkalinity' | 'hardness', { value: number; at: number }>>;
	ec: SourceChart;
	ph: SourceChart;
	report: { at: number; lab: string; ions: Ions; ecUsCm: number | null; ph: number | null } | null;
	alkalinityMgLCaco3: number | null;
	hardnessMgLCaco3: number | null;
}
export interface WaterMembrane {
	station: string;
	feed: string;
	points: RejectionPoint[];
	state: MembraneState;
}
