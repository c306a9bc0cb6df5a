import { CONSTANTS as C } from '../../chem/constants';
import { IONS, type IonKey } from '../../water/ions';
import type { Content } from './content';

/**
 * Common salts that feeds are made of, by their formula: what a gram holds follows from atomic weights. Solubility in g of the salt
 * as bought for each litre of water at 20 °C, after the CRC Handbook (from memory, rounded down); cold water holds less.
 */
interface Salt {
	formula: string;
	atoms: Partial<Record<keyof typeof ATOMS, number>>;
	/** Ions of one formula. */
	gives: Partial<Record<IonKey, number>>;
	solubilityGL: number;
}
const ATOMS = {
	Ca: C.calcium.value,
	Mg: C.magnesium.value,
	K: C.potassium.value,
	N: C.nitrogen.value,
	P: C.phosphorus.value,
	S: C.sulfur.value,
	Cl: C.chlorine.value,
	O: C.oxygen.value,
	H: C.hydrogen.value,
};

export const SALTS = {
	'calcium nitrate': {
		formula: 'Ca(NO3)2·4H2O',
		atoms: { Ca: 1, N: 2, O: 10, H: 8 },
		gives: { ca_mg_l: 1, no3_n_mg_l: 2 },
		solubilityGL: 1200,
	},
	'calcium ammonium nitrate': {
		formula: '5Ca(NO3)2·NH4NO3·10H2O',
		atoms: { Ca: 5, N: 12, O: 43, H: 24 },
		gives: { ca_mg_l: 5, no3_n_mg_l: 11, nh4_n_mg_l: 1 },
		solubilityGL: 1000,
	},
	'potassium nitrate': {
		formula: 'KNO3',
		atoms: { K: 1, N: 1, O: 3 },
		gives: { k_mg_l: 1, no3_n_mg_l: 1 },
		solubilityGL: 310,
	},
	'magnesium nitrate': {
		formula: 'Mg(NO3)2·6H2O',
		atoms: { Mg: 1, N: 2, O: 12, H: 12 },
		gives: { mg_mg_l: 1, no3_n_mg_l: 2 },
		solubilityGL: 1200,
	},
	'ammonium nitrate': {
		formula: 'NH4NO3',
		atoms: { N: 2, O: 3, H: 4 },
		gives: { nh4_n_mg_l: 1, no3_n_mg_l: 1 },
		solubilityGL: 1800,
	},
	'magnesium sulfate': {
		formula: 'MgSO4·7H2O',
		atoms: { Mg: 1, S: 1, O: 11, H: 14 },
		gives: { mg_mg_l: 1, so4_mg_l: 1 },
		solubilityGL: 700,
	},
	'potassium sulfate': {
		formula: 'K2SO4',
		atoms: { K: 2, S: 1, O: 4 },
		gives: { k_mg_l: 2, so4_mg_l: 1 },
		solubilityGL: 110,
	},
	'ammonium sulfate': {
		formula: '(NH4)2SO4',
		atoms: { N: 2, S: 1, O: 4, H: 8 },
		gives: { nh4_n_mg_l: 2, so4_mg_l: 1 },
		solubilityGL: 740,
	},
	'monopotassium phosphate': {
		formula: 'KH2PO4',
		atoms: { K: 1, P: 1, O: 4, H: 2 },
		gives: { k_mg_l: 1, p_mg_l: 1 },
		solubilityGL: 220,
	},
	'monoammonium phosphate': {
		formula: 'NH4H2PO4',
		atoms: { N: 1, P: 1, O: 4, H: 6 },
		gives: { nh4_n_mg_l: 1, p_mg_l: 1 },
		solubilityGL: 370,
	},
	'potassium chloride': {
		formula: 'KCl',
		atoms: { K: 1, Cl: 1 },
		gives: { k_mg_l: 1, cl_mg_l: 1 },
		solubilityGL: 340,
	},
	'calcium chloride': {
		formula: 'CaCl2·2H2O',
		atoms: { Ca: 1, Cl: 2, O: 2, H: 4 },
		gives: { ca_mg_l: 1, cl_mg_l: 2 },
		solubilityGL: 900,
	},
} as const satisfies Record<string, Salt>;
export type SaltName = keyof typeof SALTS;
export const SALT_NAMES = Object.keys(SALTS) as SaltName[];
/** Whether a product’s chemical is one of these. */
export const isSalt = (name: string): name is SaltName => Object.hasOwn(SALTS, name);

/** Grams of one mole, as it is bought: with its water. */
export const gPerMol = (name: SaltName): number =>
	Object.entries(SALTS[name].atoms).reduce((sum, [atom, n]) => sum + ATOMS[atom as keyof typeof ATOMS] * n, 0);

/**
 * Milligrams of each nutrient in a gram of a pure salt.
 * @example saltContent('potassium nitrate').k_mg_l.toFixed(1) // '386.7'
 */
export function saltContent(name: SaltName): Content {
	const molPerG = 1 / gPerMol(name);
	return Object.fromEntries(
		Object.entries(SALTS[name].gives).map(([key, n]) => {
			const ion = IONS[key as IonKey];
			return [key, 1000 * molPerG * n * ion.mgPerMeq * Math.abs(ion.charge)];
		}),
	);
}
