import type { Product } from '@/contract/products';
import type { BatchPhase } from '@/core/mix/batch-course';

export const poured = (ml: number): string => (ml >= 100 ? ml.toFixed(0) : ml >= 10 ? ml.toFixed(1) : ml.toFixed(2));
/** What is poured is what is shown: the number that a cylinder or a scale tells, never nothing. */
export const pouredAmount = (amount: number): number => Number(poured(amount)) || Number(amount.toPrecision(2));
/** The gain a feed is planned with: what its batches have shown, else what was typed, else what its label leads to. */
export const gainOf = (p: Product): number | undefined =>
	p.learned_gain_us_cm_per_ml_l ?? p.gain_us_cm_per_ml_l ?? p.gain_by_label_us_cm_per_ml_l ?? undefined;
export const CAUTION_ACID =
	'Gloves and eye protection. Acid into water, never the reverse; never acid with bleach or base concentrate. The label comes first.';
export const CAUTION_BASE =
	'Gloves and eye protection: bases burn skin and eyes. Base into water, never the reverse; never base on acid concentrate. The label comes first.';
export const cautionOf = (kind: Product['kind']): string => (kind === 'base' ? CAUTION_BASE : CAUTION_ACID);

/** Household stand-ins: allowed, with what is wrong with them. */
export const STAND_IN_WORDS: Record<string, string> = {
	citric:
		'Lemon and lime juice are citric acid of uncertain strength; microbes eat it within days and the pH climbs back.',
	acetic: 'Vinegar is weak, smells, and is eaten by microbes; a batch holds for days, not weeks.',
	'sodium bicarbonate': 'Baking soda brings sodium, which builds up: for an emergency, not as a habit.',
};

/** Why pH comes when it comes. */
export const WHY_PH_FIRST =
	'Setting pH first spares the concentrates from hard, alkaline water in which phosphate and calcium may fall out. Feeds then pull it down again, so it is looked at once more at the end: aim a little high at first.';
export const WHY_PH_LAST =
	'The order has its reasons: concentrates never meet (calcium falls out with sulfate and phosphate), EC before pH, and pH last, because feeds pull it down.';

/** What each step of a batch is called. */
export const PHASE_WORDS: Record<BatchPhase, string> = {
	'water-ph': 'pH of the water',
	parts: 'feed',
	ec: 'EC',
	ph: 'pH',
	done: 'done',
};
