import { activity, phosphatePk2 } from './activity';
import { CONSTANTS as C } from './constants';

/**
 * Acids that growers use: what a litre or a gram holds, how many protons each mole gives at a pH, what it feeds besides.
 * pKa at 25 °C, molar masses from atomic weights (CRC Handbook; from memory).
 */
export const ACID_KINDS = ['nitric', 'phosphoric', 'sulfuric', 'citric', 'acetic'] as const;
export type AcidKind = (typeof ACID_KINDS)[number];

interface Acid {
	gPerMol: number;
	/** Strong protons, given at any pH of a water. */
	strong: number;
	pka: readonly number[];
	/** mg of what it feeds, per mmol. */
	adds: Partial<Record<'no3_n_mg_l' | 'p_mg_l' | 'so4_mg_l', number>>;
}

export const ACIDS: Record<AcidKind, Acid> = {
	nitric: { gPerMol: 63.012, strong: 1, pka: [], adds: { no3_n_mg_l: C.nitrogen.value } },
	phosphoric: {
		gPerMol: 97.994,
		strong: 0,
		pka: [C.pk1Phosphoric.value, C.pk2Phosphoric.value, C.pk3Phosphoric.value],
		adds: { p_mg_l: C.phosphorus.value },
	},
	sulfuric: { gPerMol: 98.078, strong: 1, pka: [C.pk2Sulfuric.value], adds: { so4_mg_l: C.sulfate.value } },
	citric: { gPerMol: 192.124, strong: 0, pka: [C.pk1Citric.value, C.pk2Citric.value, C.pk3Citric.value], adds: {} },
	acetic: { gPerMol: 60.052, strong: 0, pka: [C.pkAcetic.value], adds: {} },
};

/**
 * Protons that one mole has given at a pH. In a feed (an EC in µS/cm) ions with more charges are held more weakly: pKa of the
 * step that leaves z charges is lower by (2z − 1) times −log γ of one charge, phosphate’s second also by its pairs (activity.ts).
 */
export function protonsGiven(kind: AcidKind, ph: number, tempC = 25, ecUsCm = 0): number {
	const { strong, pka: thin } = ACIDS[kind];
	const logGamma = Math.log10(activity(tempC, ecUsCm).gamma1);
	const pka = thin.map((pk, i) =>
		pk === C.pk2Phosphoric.value ? phosphatePk2(tempC, ecUsCm) : pk + (2 * (strong + i + 1) - 1) * logGamma,
	);
	const h = 10 ** -ph;
	let term = 1;
	let sum = 1;
	let given = 0;
	for (const [i, pk] of pka.entries()) {
		term *= 10 ** -pk / h;
		sum += term;
		given += (i + 1) * term;
	}
	return strong + given / sum;
}

/** mol/L of a liquid from percent by weight and density. 85 % phosphoric at 1.685 g/mL: 14.6. */
export const molPerLitre = (kind: AcidKind, percent: number, densityGMl: number): number =>
	(percent * 10 * densityGMl) / ACIDS[kind].gPerMol;

/** mol per gram of a powder of this purity. */
export const molPerGram = (kind: AcidKind, percent: number): number => percent / 100 / ACIDS[kind].gPerMol;

export const BASE_KINDS = [
	'potassium hydroxide',
	'potassium carbonate',
	'potassium bicarbonate',
	'potassium silicate',
	'sodium bicarbonate',
] as const;
export type BaseKind = (typeof BASE_KINDS)[number];

interface Base {
	gPerMol: number;
	/** Acid that one mmol takes up, meq. */
	meqPerMmol: number;
	/** Carbonate that one mole brings. */
	carbon: 0 | 1;
	/** mg of what it feeds, per mmol. */
	adds: Partial<Record<'k_mg_l' | 'na_mg_l' | 'si_mg_l', number>>;
}

/** Silicate counted as K2SiO3; a product of another ratio of silicon to potassium follows its own label. */
export const BASES: Record<BaseKind, Base> = {
	'potassium hydroxide': { gPerMol: 56.105, meqPerMmol: 1, carbon: 0, adds: { k_mg_l: C.potassium.value } },
	'potassium carbonate': { gPerMol: 138.205, meqPerMmol: 2, carbon: 1, adds: { k_mg_l: 2 * C.potassium.value } },
	'potassium bicarbonate': { gPerMol: 100.115, meqPerMmol: 1, carbon: 1, adds: { k_mg_l: C.potassium.value } },
	'potassium silicate': {
		gPerMol: 154.279,
		meqPerMmol: 2,
		carbon: 0,
		adds: { k_mg_l: 2 * C.potassium.value, si_mg_l: C.silicon.value },
	},
	'sodium bicarbonate': { gPerMol: 84.006, meqPerMmol: 1, carbon: 1, adds: { na_mg_l: C.sodium.value } },
};
