import type { DoseAnswer } from '@/server/contract-dose';

/** What the Mix page knows of products, tanks, recipes and batches. */
export interface Product {
	name: string;
	kind: 'nutrient' | 'acid' | 'base';
	chemical: string;
	percent_w_w: number | null;
	density_g_ml: number | null;
	parts: number;
	unit: 'mL' | 'g';
	rate_ml_per_l: number | null;
	rate_text: string;
	gain_us_cm_per_ml_l: number | null;
	learned_gain_us_cm_per_ml_l: number | null;
	learned_from_batches: number;
	stock_ml: number | null;
	left_ml: number | null;
	opened: string | null;
	keeps_days: number | null;
	expires: string | null;
	note: string;
	bottle: string[];
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
export interface WaterChoiceOf {
	code: string;
	name: string;
	ecUsCm: number;
	ph: number | null;
	alkalinityMgLCaco3: number | null;
}
export interface Recipe {
	name: string;
	product: string;
	water: string | null;
	target_ec_us_cm: number | null;
	strength: number | null;
	target_ph: number | null;
	ph_first: boolean;
	note: string;
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
		unit?: 'mL' | 'g';
		parts: number;
		targetEcUsCm: number | null;
		expectedEcUsCm?: number | null;
		targetPh: number | null;
		recipe?: string | null;
		strength?: number | null;
		phFirst?: boolean;
	};
	log: LogStep[];
}
export interface LogStep {
	at: number;
	step: string;
	expected: number | null;
	measured: number | null;
	words: string;
	amount?: number | null;
	flag?: number | null;
	doubt?: string | null;
}
export type Advice = DoseAnswer;

export const poured = (ml: number): string => (ml >= 100 ? ml.toFixed(0) : ml >= 10 ? ml.toFixed(1) : ml.toFixed(2));
/** The gain a feed is planned with: what its batches have shown, else what was typed. */
export const gainOf = (p: Product): number | undefined =>
	p.learned_gain_us_cm_per_ml_l ?? p.gain_us_cm_per_ml_l ?? undefined;
export const CAUTION_ACID =
	'Gloves and eye protection. Acid into water, never the reverse; never acid with bleach or base concentrate. The label comes first.';
export const CAUTION_BASE =
	'Gloves and eye protection: bases burn skin and eyes. Base into water, never the reverse; never base on acid concentrate. The label comes first.';
export const cautionOf = (kind: Product['kind']): string => (kind === 'base' ? CAUTION_BASE : CAUTION_ACID);

/** Household stand-ins: allowed, with what is wrong with them. */
export const STAND_INS: Record<string, string> = {
	citric:
		'Lemon and lime juice are citric acid of uncertain strength; microbes eat it within days and the pH climbs back.',
	acetic: 'Vinegar is weak, smells, and is eaten by microbes; a batch holds for days, not weeks.',
	'sodium bicarbonate': 'Baking soda brings sodium, which builds up: for an emergency, not as a habit.',
};
