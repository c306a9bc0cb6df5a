import { AVAILABLE_PH, METALS_RISE_PH, NUTRIENTS, type Nutrient } from './availability';

/**
 * From what is seen on plants to what may be behind it. Which leaves show it first follows what plants can move: nitrogen, phosphorus,
 * potassium and magnesium are drawn out of old leaves, calcium, iron, manganese, boron, sulfur, zinc and copper are not and fail in the
 * young ones (Marschner, Mineral Nutrition of Higher Plants, from memory). It ranks; disease and pests it does not know.
 */
export const LEAVES = ['old', 'young', 'all'] as const;
/** Which leaves showed it first. */
export type Leaves = (typeof LEAVES)[number];
export const SIGNS = [
	'pale_all_over',
	'pale_between_veins',
	'burnt_edges',
	'burnt_tips',
	'spots',
	'purple',
	'deformed',
	'wilting',
	'slow',
	'fruit_end_rot',
] as const;
export type Sign = (typeof SIGNS)[number];

export const LEAF_CAUSES = ['ph_high', 'ph_low', 'salts', 'too_weak', 'sodium', 'roots', 'cold', ...NUTRIENTS] as const;
export type LeafCause = (typeof LEAF_CAUSES)[number];

/** What the book knows of the last weeks; null where it knows nothing. */
export interface LeafBook {
	ph: { median: number; aboveShare: number; belowShare: number; readings: number } | null;
	/** pH at the middle of each reading, oldest first: what it locked out is told from it. */
	phValues: readonly number[];
	/** EC of what they are fed, against the station’s range. */
	ec: { medianUsCm: number; range: readonly [number, number] | null } | null;
	/** EC of the drain above its feed, and how much calls for acting. */
	drain: { aboveUsCm: number; actUsCm: number } | null;
	tempC: number | null;
	oxygenMgL: number | null;
	sodiumMmolL: number | null;
}
export interface LeafEvidence {
	says: LeafEvidenceCode;
	value: number;
	/** Natural logarithm of how much likelier it makes it. */
	weight: number;
}
export const LEAF_EVIDENCE = [
	'signs',
	'leaves',
	'ph-above',
	'ph-below',
	'ph-fits',
	'ec-above',
	'ec-below',
	'ec-fits',
	'drain-above',
	'drain-fits',
	'warm',
	'cold',
	'no-oxygen',
	'sodium',
] as const;
export type LeafEvidenceCode = (typeof LEAF_EVIDENCE)[number];
export interface LeafFinding {
	cause: LeafCause;
	chance: number;
	evidence: LeafEvidence[];
}

/** How well each sign fits a cause: 3 its mark, 2 usual, 1 now and then; none: hardly. */
const FITS: Record<LeafCause, { leaves: Leaves | null; signs: Partial<Record<Sign, 1 | 2 | 3>> }> = {
	ph_high: { leaves: 'young', signs: { pale_between_veins: 3, pale_all_over: 2, slow: 2, purple: 1 } },
	ph_low: { leaves: null, signs: { spots: 2, burnt_tips: 2, slow: 2, deformed: 1, pale_between_veins: 1 } },
	salts: { leaves: null, signs: { burnt_edges: 2, burnt_tips: 3, wilting: 2, slow: 2, fruit_end_rot: 1 } },
	too_weak: { leaves: 'old', signs: { pale_all_over: 3, slow: 3, purple: 1 } },
	sodium: { leaves: 'old', signs: { burnt_edges: 3, burnt_tips: 2, slow: 1, wilting: 1 } },
	roots: { leaves: null, signs: { wilting: 3, slow: 2, pale_all_over: 1, purple: 1 } },
	cold: { leaves: null, signs: { purple: 3, slow: 3, wilting: 1 } },
	nitrogen: { leaves: 'old', signs: { pale_all_over: 3, slow: 2 } },
	phosphorus: { leaves: 'old', signs: { purple: 3, slow: 2 } },
	potassium: { leaves: 'old', signs: { burnt_edges: 3, spots: 1, pale_between_veins: 1, burnt_tips: 1 } },
	magnesium: { leaves: 'old', signs: { pale_between_veins: 3, spots: 1 } },
	calcium: { leaves: 'young', signs: { burnt_edges: 2, burnt_tips: 3, deformed: 3, fruit_end_rot: 3 } },
	sulfur: { leaves: 'young', signs: { pale_all_over: 3, slow: 1 } },
	iron: { leaves: 'young', signs: { pale_between_veins: 3, pale_all_over: 1 } },
	manganese: { leaves: 'young', signs: { pale_between_veins: 3, spots: 2 } },
	zinc: { leaves: 'young', signs: { deformed: 2, pale_between_veins: 2, slow: 2 } },
	copper: { leaves: 'young', signs: { wilting: 1, deformed: 2, pale_all_over: 1, burnt_tips: 1 } },
	boron: { leaves: 'young', signs: { deformed: 3, slow: 1, fruit_end_rot: 1 } },
	molybdenum: { leaves: 'old', signs: { pale_between_veins: 1, burnt_edges: 1, deformed: 2 } },
};
/** Logarithms: a sign that fits so well, one that does not fit, leaves that fit or do not. */
const FIT_WEIGHT = [-1.8, 0.3, 1, 1.6] as const;
const LEAVES_FIT = 0.7;
const LEAVES_MISS = -1.6;
/** How often it is behind what growers see: pH and salts before a single nutrient, of those the common ones (common practice, no source). */
const USUAL: Partial<Record<LeafCause, number>> = {
	ph_high: 0.6,
	ph_low: 0.3,
	salts: 0.5,
	too_weak: 0.3,
	roots: 0.4,
	nitrogen: 0.3,
	iron: 0.3,
	calcium: 0.3,
	magnesium: 0.2,
	sulfur: -0.6,
	zinc: -1.2,
	copper: -1.6,
	boron: -0.6,
	molybdenum: -1.6,
	sodium: -0.3,
};
/** Longer than this share of the time beyond a bound locks something out. */
const LONG_SHARE = 0.25;
const WARM_C = 25;
const COLD_C = 16;
const LEAST_OXYGEN = 5;
const MUCH_SODIUM = 4;
const UNTHOUGHT = 0.15;

const isNutrient = (c: LeafCause): c is Nutrient & LeafCause => Object.hasOwn(AVAILABLE_PH, c);

/**
 * What may be behind what is seen, likeliest first.
 * @param signs what is seen, one or more
 */
export function fromLeaf(leaves: Leaves, signs: readonly Sign[], book: LeafBook): LeafFinding[] {
	const scored = LEAF_CAUSES.map((cause) => {
		const evidence = [...seenFor(cause, leaves, signs), ...bookFor(cause, book)].filter((e) => e.weight !== 0);
		const sum = evidence.reduce((n, e) => n + e.weight, USUAL[cause] ?? 0);
		return { cause, evidence, score: Math.exp(sum) };
	});
	const all = scored.reduce((n, s) => n + s.score, 0);
	return scored
		.map(({ cause, evidence, score }) => ({ cause, evidence, chance: ((1 - UNTHOUGHT) * score) / all }))
		.sort((a, b) => b.chance - a.chance);
}

function seenFor(cause: LeafCause, leaves: Leaves, signs: readonly Sign[]): LeafEvidence[] {
	const fits = FITS[cause];
	const weights = signs.map((s) => FIT_WEIGHT[fits.signs[s] ?? 0]);
	// Each further sign says less than the first: they come together.
	const weight = weights.reduce<number>((n, w, i) => n + w / (i + 1), 0);
	const fit = signs.filter((s) => (fits.signs[s] ?? 0) > 0).length;
	const where = fits.leaves === null || leaves === 'all' ? 0 : fits.leaves === leaves ? LEAVES_FIT : LEAVES_MISS;
	return [
		{ says: 'signs', value: fit, weight },
		{ says: 'leaves', value: where > 0 ? 1 : 0, weight: where },
	];
}

function bookFor(cause: LeafCause, b: LeafBook): LeafEvidence[] {
	const e: LeafEvidence[] = [];
	const say = (says: LeafEvidenceCode, value: number, weight: number) => void e.push({ says, value, weight });
	if (isNutrient(cause) && b.phValues.length > 2) {
		const [low, high] = AVAILABLE_PH[cause];
		const share = (beyond: (ph: number) => boolean) => b.phValues.filter(beyond).length / b.phValues.length;
		const [above, below] = [share((v) => v > high), share((v) => v < low)];
		if (above >= LONG_SHARE) say('ph-above', above, 0.8 + above);
		else if (below >= LONG_SHARE) say('ph-below', below, 0.8 + below);
		else say('ph-fits', b.ph?.median ?? 0, -0.4);
	}
	if (cause === 'ph_high' && b.ph)
		b.ph.aboveShare >= LONG_SHARE
			? say('ph-above', b.ph.aboveShare, 1 + b.ph.aboveShare)
			: say('ph-fits', b.ph.median, -1.5);
	if (cause === 'ph_low' && b.ph)
		b.ph.belowShare >= LONG_SHARE
			? say('ph-below', b.ph.belowShare, 1 + b.ph.belowShare + (b.ph.median < METALS_RISE_PH ? 0.7 : 0))
			: say('ph-fits', b.ph.median, -1.5);
	if (b.ec?.range) {
		const [low, high] = b.ec.range;
		const v = b.ec.medianUsCm;
		const hungry = cause === 'too_weak' || cause === 'nitrogen' || cause === 'potassium' || cause === 'magnesium';
		if (cause === 'salts')
			v > high ? say('ec-above', v, 1.3) : b.drain ? undefined : say('ec-fits', v, v < low ? -1.6 : -0.8);
		if (cause === 'too_weak') v < low ? say('ec-below', v, 1.5) : say('ec-fits', v, v > high ? -2 : -1);
		else if (hungry && v < low) say('ec-below', v, 0.6);
		if (cause === 'calcium' && v > high) say('ec-above', v, 0.4);
	}
	if (b.drain && (cause === 'salts' || cause === 'sodium' || cause === 'calcium')) {
		const much = b.drain.aboveUsCm > b.drain.actUsCm;
		if (much) say('drain-above', b.drain.aboveUsCm, cause === 'salts' ? 1.5 : 0.4);
		else if (cause === 'salts') say('drain-fits', b.drain.aboveUsCm, -0.8);
	}
	if (b.tempC !== null) {
		if (cause === 'roots' && b.tempC > WARM_C) say('warm', b.tempC, 0.9);
		if (b.tempC < COLD_C && (cause === 'cold' || cause === 'phosphorus'))
			say('cold', b.tempC, cause === 'cold' ? 1.4 : 0.6);
		if (b.tempC >= COLD_C && cause === 'cold') say('warm', b.tempC, -1.6);
	}
	if (b.oxygenMgL !== null && cause === 'roots')
		say('no-oxygen', b.oxygenMgL, b.oxygenMgL < LEAST_OXYGEN ? 1.4 : b.oxygenMgL > 6.5 ? -1 : 0);
	if (b.sodiumMmolL !== null && cause === 'sodium')
		say('sodium', b.sodiumMmolL, b.sodiumMmolL > MUCH_SODIUM ? 1.5 : b.sodiumMmolL < 1.5 ? -1.5 : 0);
	return e;
}
