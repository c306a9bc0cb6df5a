import { CONSTANTS as C, HCO3_PER_CACO3, MG_L_CACO3_PER_MEQ } from '../chem/constants';
import type { Remark } from '../remark';

/**
 * A laboratory report, read critically: charge balance and its acceptance (Standard Methods 1030 E), conductivity
 * calculated from the ions (Standard Methods 2510), hardness, alkalinity, SAR, and what is odd about it.
 * Equivalent masses from atomic weights; limiting conductivities in S·cm²/eq at 25 °C (CRC Handbook; from memory).
 */
interface Ion {
	name: string;
	/** mg per meq of what the report gives. */
	mgPerMeq: number;
	charge: number;
	/** S·cm² per equivalent. */
	lambda: number;
}

export const IONS = {
	ca_mg_l: { name: 'calcium', mgPerMeq: C.calcium.value / 2, charge: 2, lambda: 59.5 },
	mg_mg_l: { name: 'magnesium', mgPerMeq: C.magnesium.value / 2, charge: 2, lambda: 53.1 },
	na_mg_l: { name: 'sodium', mgPerMeq: C.sodium.value, charge: 1, lambda: 50.1 },
	k_mg_l: { name: 'potassium', mgPerMeq: C.potassium.value, charge: 1, lambda: 73.5 },
	nh4_n_mg_l: { name: 'ammonium nitrogen', mgPerMeq: C.nitrogen.value, charge: 1, lambda: 73.5 },
	no3_n_mg_l: { name: 'nitrate nitrogen', mgPerMeq: C.nitrogen.value, charge: -1, lambda: 71.4 },
	cl_mg_l: { name: 'chloride', mgPerMeq: C.chlorine.value, charge: -1, lambda: 76.4 },
	so4_mg_l: { name: 'sulfate', mgPerMeq: C.sulfate.value / 2, charge: -2, lambda: 80 },
	hco3_mg_l: { name: 'bicarbonate', mgPerMeq: C.bicarbonate.value, charge: -1, lambda: 44.5 },
	co3_mg_l: { name: 'carbonate', mgPerMeq: C.carbonate.value / 2, charge: -2, lambda: 72 },
	p_mg_l: { name: 'phosphorus, as H₂PO₄', mgPerMeq: C.phosphorus.value, charge: -1, lambda: 33 },
	f_mg_l: { name: 'fluoride', mgPerMeq: C.fluorine.value, charge: -1, lambda: 54.4 },
} as const satisfies Record<string, Ion>;
export type IonKey = keyof typeof IONS;
export const ION_KEYS = Object.keys(IONS) as IonKey[];
export type Ions = Partial<Record<IonKey, number>>;

/** Elements that are told of water and hardly carry charge in it, mg/L. */
export const TRACES = {
	b_mg_l: { name: 'boron', mass: C.boron.value },
	fe_mg_l: { name: 'iron', mass: C.iron.value },
	mn_mg_l: { name: 'manganese', mass: C.manganese.value },
	zn_mg_l: { name: 'zinc', mass: C.zinc.value },
	cu_mg_l: { name: 'copper', mass: C.copper.value },
	mo_mg_l: { name: 'molybdenum', mass: C.molybdenum.value },
	al_mg_l: { name: 'aluminium', mass: C.aluminium.value },
	si_mg_l: { name: 'silicon', mass: C.silicon.value },
} as const;
export type TraceKey = keyof typeof TRACES;
export const TRACE_KEYS = Object.keys(TRACES) as TraceKey[];
export type Dissolved = Partial<Record<IonKey | TraceKey, number>>;

/**
 * meq/L of an ion from mg/L.
 * @example meqOf('ca_mg_l', 40.078) // 2
 */
export const meqOf = (key: IonKey, mgL: number): number => mgL / IONS[key].mgPerMeq;

/** Acceptance by anion sum (Standard Methods 1030 E): to 3 meq/L ±0.2 meq/L, to 10 ±2 %, to 800 ±5 %. */
export function balanceAccepted(cationsMeqL: number, anionsMeqL: number): boolean {
	const difference = Math.abs(cationsMeqL - anionsMeqL);
	const percent = (100 * difference) / (cationsMeqL + anionsMeqL);
	const least = 1e-9;
	return anionsMeqL <= 3 ? difference <= 0.2 + least : percent <= (anionsMeqL <= 10 ? 2 : 5) + least;
}

/** µS/cm at 25 °C from the ions; I in mol/L; y the activity factor. */
export function calculatedEc(ions: Ions): { ecUsCm: number; k0UsCm: number; ionicStrength: number; y: number } {
	let k0UsCm = 0;
	let ionicStrength = 0;
	for (const key of ION_KEYS) {
		const mg = ions[key];
		if (mg === undefined) continue;
		const meq = meqOf(key, mg);
		k0UsCm += IONS[key].lambda * meq;
		ionicStrength += (0.5 * Math.abs(IONS[key].charge) * meq) / 1000;
	}
	const root = Math.sqrt(ionicStrength);
	const y = 10 ** (-0.5 * (root / (1 + root) - 0.3 * ionicStrength));
	return { ecUsCm: k0UsCm * y * y, k0UsCm, ionicStrength, y };
}

export interface WaterReport {
	cationsMeqL: number;
	anionsMeqL: number;
	balancePct: number;
	balanceOk: boolean;
	ecCalculatedUsCm: number;
	ionicStrength: number;
	hardnessMgLCaco3: number;
	alkalinityMgLCaco3: number;
	/** Sodium adsorption ratio; 0 without sodium, null without calcium and magnesium. */
	sar: number | null;
	odd: Remark[];
}

/** Beyond this the method reads low for chloride waters and strong feeds, so the band is wider. */
const NATURAL_US_CM = 1000;

/**
 * A report from its ions in mg/L and the EC that was measured (µS/cm); null where no ion is given.
 * @example readReport({ ca_mg_l: 80, mg_mg_l: 12 }).hardnessMgLCaco3 // 249.18
 */
export function readReport(ions: Ions, ecUsCm: number | null = null): WaterReport | null {
	const given = ION_KEYS.filter((k) => ions[k] !== undefined);
	if (given.length === 0) return null;
	let cationsMeqL = 0;
	let anionsMeqL = 0;
	for (const key of given) {
		const meq = meqOf(key, ions[key]!);
		if (IONS[key].charge > 0) cationsMeqL += meq;
		else anionsMeqL += meq;
	}
	const sum = cationsMeqL + anionsMeqL;
	const balancePct = sum === 0 ? 0 : (100 * (cationsMeqL - anionsMeqL)) / sum;
	const hasBoth = given.some((k) => IONS[k].charge > 0) && given.some((k) => IONS[k].charge < 0);
	const balanceOk = hasBoth && (sum === 0 || balanceAccepted(cationsMeqL, anionsMeqL));
	const calculated = calculatedEc(ions);
	const ca = meqOf('ca_mg_l', ions.ca_mg_l ?? 0);
	const mg = meqOf('mg_mg_l', ions.mg_mg_l ?? 0);
	const na = meqOf('na_mg_l', ions.na_mg_l ?? 0);
	return {
		cationsMeqL,
		anionsMeqL,
		balancePct,
		balanceOk,
		ecCalculatedUsCm: calculated.ecUsCm,
		ionicStrength: calculated.ionicStrength,
		hardnessMgLCaco3:
			C.hardnessOfCalcium.value * (ions.ca_mg_l ?? 0) + C.hardnessOfMagnesium.value * (ions.mg_mg_l ?? 0),
		alkalinityMgLCaco3:
			MG_L_CACO3_PER_MEQ * (meqOf('hco3_mg_l', ions.hco3_mg_l ?? 0) + meqOf('co3_mg_l', ions.co3_mg_l ?? 0)),
		sar: ca + mg > 0 ? na / Math.sqrt((ca + mg) / 2) : na === 0 ? 0 : null,
		odd: oddities(ions, given, { cationsMeqL, anionsMeqL, balanceOk, hasBoth }, calculated.ecUsCm, ecUsCm),
	};
}

function oddities(
	ions: Ions,
	given: readonly IonKey[],
	balance: { cationsMeqL: number; anionsMeqL: number; balanceOk: boolean; hasBoth: boolean },
	ecCalculated: number,
	ecUsCm: number | null,
): Remark[] {
	const odd: Remark[] = [];
	const { cationsMeqL, anionsMeqL } = balance;
	if (!balance.hasBoth)
		odd.push(given.some((k) => IONS[k].charge > 0) ? { code: 'no-anions' } : { code: 'no-cations' });
	else if (!balance.balanceOk) {
		const hco3 = ions.hco3_mg_l;
		// Alkalinity printed as CaCO3 stands for 1.22 times as much bicarbonate.
		const asCaco3 = hco3 === undefined ? null : anionsMeqL + meqOf('hco3_mg_l', hco3) * (HCO3_PER_CACO3 - 1);
		const asMeq = (key: IonKey) => {
			const own = meqOf(key, ions[key]!);
			const [c, a] =
				IONS[key].charge > 0
					? [cationsMeqL - own + ions[key]!, anionsMeqL]
					: [cationsMeqL, anionsMeqL - own + ions[key]!];
			return balanceAccepted(c, a);
		};
		const meqKey = given.find((k) => ions[k]! > 0 && ions[k]! < 20 && asMeq(k));
		if (asCaco3 !== null && balanceAccepted(cationsMeqL, asCaco3))
			odd.push({
				code: 'alkalinity-as-caco3',
				givenMgL: hco3!,
				meantMgL: hco3! * HCO3_PER_CACO3,
			});
		else if (meqKey)
			odd.push({
				code: 'meq-for-mg',
				ion: meqKey,
				given: ions[meqKey]!,
				meantMgL: ions[meqKey]! * IONS[meqKey].mgPerMeq,
			});
		else if (cationsMeqL < anionsMeqL && ions.na_mg_l === undefined)
			odd.push({
				code: 'sodium-missing',
				mgL: (anionsMeqL - cationsMeqL) * IONS.na_mg_l.mgPerMeq,
			});
		else odd.push({ code: 'unbalanced', cationsMeqL, anionsMeqL });
	}
	if (ecUsCm !== null && ecUsCm > 0 && balance.hasBoth) {
		const ratio = ecCalculated / ecUsCm;
		const [low, high] = ecUsCm <= NATURAL_US_CM ? [0.9, 1.1] : [0.8, 1.1];
		if (ratio > 500) odd.push({ code: 'ec-unit' });
		else if (ratio < low || ratio > high)
			odd.push({
				code: 'ec-off',
				calculatedUsCm: ecCalculated,
				measuredUsCm: ecUsCm,
				missing: ratio < low!,
			});
	}
	if ((ions.ca_mg_l ?? 0) > 60 && ((ions.so4_mg_l ?? 0) > 100 || (ions.p_mg_l ?? 0) > 5))
		odd.push({ code: 'concentrate-precipitation' });
	return odd;
}
