/** What the Mix page knows of products, tanks and batches. */
export interface Product {
	name: string;
	kind: 'nutrient' | 'acid' | 'base';
	chemical: string;
	percent_w_w: number | null;
	density_g_ml: number | null;
	parts: number;
	rate_ml_per_l: number | null;
	gain_us_cm_per_ml_l: number | null;
	stock_ml: number | null;
	opened: string | null;
	note: string;
	strength_meq_per_ml: number | null;
}
export interface Tank {
	code: string;
	name: string;
	volumeL: number | null;
	phRange: [number, number] | null;
	ecRange: [number, number] | null;
	ph: number | null;
	ecUsCm: number | null;
	phAt: number | null;
}
export interface BatchSummary {
	id: number;
	station: string;
	startedAt: number;
	finishedAt: number | null;
	name: string;
	plan: {
		litres: number;
		water: string | null;
		waterEcUsCm: number;
		product: string;
		mlPerL: number;
		parts: number;
		targetEcUsCm: number | null;
		targetPh: number | null;
	};
	log: { at: number; step: string; expected: number | null; measured: number | null; words: string }[];
}
export interface Advice {
	do: 'nothing' | 'refuse' | 'titrate' | 'dose';
	message: string;
	ph: number;
	volume_l: number;
	strength_meq_per_ml: number | null;
	changed_factor: number | null;
	past: { time: string; ml: number; ph_before: number; ph_after: number }[];
	ml?: number;
	ml_to_target?: number;
	predicted_ph?: number;
	low_ph?: number;
	high_ph?: number;
	part?: number;
}

export const poured = (ml: number): string => (ml >= 100 ? ml.toFixed(0) : ml >= 10 ? ml.toFixed(1) : ml.toFixed(2));
export const CAUTION =
	'Gloves and eye protection. Acid into water, never the reverse; never acid with bleach or base concentrate. The label comes first.';
