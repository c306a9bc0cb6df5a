/** Shapes of GET /probes and GET /probes/:instrument/:quantity, as the pages read them. */
import type { StoredReading } from '@/server/contract';

export interface Probe {
	instrument: string;
	name: string;
	kind: string;
	quantity: 'ph' | 'ec';
	compensates: boolean;
	alpha_pct_per_c: number;
	shows_mv: boolean;
	points: number;
	storage: string | null;
	in_service: string | null;
	storage_refilled: string | null;
	serial: string;
	last_at: string | null;
	verdict: 'good' | 'watch' | 'fail' | null;
	reasons: string[];
	last_offset: number | null;
	last_slope_pct: number | null;
	last_cell_factor: number | null;
	sigma_per_root_day: number;
	rate_per_day: number;
	learned_from: number;
	interval_days: number;
	interval_reason: string;
	due_at: string | null;
	due_reason: string;
	u_today: number;
	life: { now_pct: number; per_year_pct: number; earliest: string; latest: string | null } | null;
}
export interface CalibrationEntry {
	id: number;
	time: string;
	kind: 'check' | 'adjust';
	temp_c: number | null;
	settle_s: number | null;
	doubts: string[];
	withdrawn: boolean;
	points: {
		standard: string;
		lot: string;
		nominal: number;
		as_found: number | null;
		as_left: number | null;
		mv: number | null;
	}[];
	offset: number | null;
	slope_pct: number | null;
	cell_factor: number | null;
	verdict: 'good' | 'watch' | 'fail' | null;
	reasons: string[];
}
export interface Story extends Probe {
	calibrations: CalibrationEntry[];
	events: { id: number; kind: string; time: string; before: number | null; after: number | null; note: string }[];
	touched: StoredReading[];
	rejected: number;
	turned: {
		id: number;
		time: string;
		station: string;
		value: number;
		restated: number;
		was: string;
		truly: string;
		doses: { time: string; words: string }[];
	}[];
}
