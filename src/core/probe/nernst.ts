/**
 * The pH electrode. E = E0 − s·k(T)·(pH − 7), with the Nernst slope k(T) = ln(10)·R·T/F.
 * Constants: CODATA 2018 (exact since the 2019 SI). 54.20 mV/pH at 0 °C, 58.17 at 20, 59.16 at 25, 61.54 at 37.
 */
const R_J_PER_MOL_K = 8.314462618;
const F_C_PER_MOL = 96485.33212;
const ZERO_C_IN_K = 273.15;

export const nernstSlopeMv = (tempC: number): number =>
	(1000 * Math.LN10 * R_J_PER_MOL_K * (tempC + ZERO_C_IN_K)) / F_C_PER_MOL;
