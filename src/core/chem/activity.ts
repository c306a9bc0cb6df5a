import { CONSTANTS } from './constants';

/**
 * Ions in a feed act as fewer than they are. Activity coefficients after Davies (1962), Ion Association:
 * log γ = −A·z²·(√I/(1+√I) − 0.3·I), good to I ≈ 0.5 mol/L; A 0.4913 + 0.0008·t (0.511 at 25 °C; from memory). Ionic
 * strength from conductivity: I = 0.013 mol/L for each mS/cm (Griffin and Jurinak 1973, Soil Science 116, 26–30; from memory),
 * meant for soil solutions and irrigation waters up to about 10 mS/cm.
 */
const MOL_L_PER_US_CM = 1.3e-5;
const MOST_US_CM = 10_000;

/**
 * Ionic strength of a solution, mol/L, from its EC in µS/cm at 25 °C, 0 to 10,000; more counts as 10,000.
 * @example ionicStrength(2000) // 0.026
 */
export const ionicStrength = (ecUsCm: number): number => MOL_L_PER_US_CM * Math.min(Math.max(ecUsCm, 0), MOST_US_CM);

/** Activity coefficients of ions with one and two charges. */
export function activity(tempC: number, ecUsCm: number): { gamma1: number; gamma2: number } {
	const i = ionicStrength(ecUsCm);
	const root = Math.sqrt(i);
	const log1 = -(0.4913 + 0.0008 * tempC) * (root / (1 + root) - 0.3 * i);
	return { gamma1: 10 ** log1, gamma2: 10 ** (4 * log1) };
}

/**
 * Calcium and magnesium of a feed hold HPO4 in pairs and lower the effective pKa further: 0.2 at EC 2 mS/cm, in proportion to
 * ionic strength below, never more than 0.3. A stated allowance, not a calculation: feeds differ in calcium.
 */
const PAIRS_AT_2_MS = 0.2;
const MOST_PAIRS = 0.3;

/** @example phosphatePk2(25, 2000) // 6.8 */
export function phosphatePk2(tempC: number, ecUsCm = 0): number {
	const g = activity(tempC, ecUsCm);
	const pairs = Math.min((PAIRS_AT_2_MS * ionicStrength(ecUsCm)) / ionicStrength(2000), MOST_PAIRS);
	return CONSTANTS.pk2Phosphoric.value + Math.log10(g.gamma2 / g.gamma1) - pairs;
}
