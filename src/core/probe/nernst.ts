import { CONSTANTS } from '../chem/constants';

/**
 * The pH electrode. E = E0 − s·k(T)·(pH − 7), with the Nernst slope k(T) = ln(10)·R·T/F.
 * Constants: CODATA 2018 (exact since the 2019 SI). 54.20 mV/pH at 0 °C, 58.17 at 20, 59.16 at 25, 61.54 at 37.
 */
const { gas, faraday, zeroCelsius } = CONSTANTS;

/**
 * Millivolt for one pH at a temperature in °C.
 * @example nernstSlopeMv(25) // 59.159
 */
export const nernstSlopeMv = (tempC: number): number =>
	(1000 * Math.LN10 * gas.value * (tempC + zeroCelsius.value)) / faraday.value;
