/**
 * Oxygen that water holds in balance with air (Benson and Krause 1984, Limnology and Oceanography 29, 620–632, as in Standard Methods
 * 4500-O and USGS Office of Water Quality memorandum 2011.03; the polynomial from memory, checked against their tables). Salt by the
 * USGS relation of salinity to conductivity, altitude by the standard atmosphere (ISO 2533). Valid for 0 to 40 °C, EC up to 60 mS/cm,
 * −400 to 4,000 m.
 */
export interface OxygenAt {
	tempC: number;
	ecUsCm?: number | undefined;
	altitudeM?: number | undefined;
}

/** Altitudes that the standard atmosphere and people reach, m. */
export const LOWEST_M = -400;
export const HIGHEST_M = 4000;

const KELVIN = 273.15;

/** Pressure of the air at an altitude, atmospheres. */
const pressureAt = (altitudeM: number): number => (1 - 2.25577e-5 * altitudeM) ** 5.25588;

/**
 * mg/L that water holds at 100 % of saturation; null outside 0 to 40 °C.
 * @example oxygenHeld({ tempC: 20 }) // 9.09
 */
export function oxygenHeld({ tempC, ecUsCm = 0, altitudeM = 0 }: OxygenAt): number | null {
	if (!(tempC >= 0 && tempC <= 40)) return null;
	const t = tempC + KELVIN;
	const fresh = -139.34411 + 1.575701e5 / t - 6.642308e7 / t ** 2 + 1.2438e10 / t ** 3 - 8.621949e11 / t ** 4;
	const salinity = 5.572e-4 * ecUsCm + 2.02e-9 * ecUsCm ** 2;
	const salt = salinity * (0.017674 - 10.754 / t + 2140.7 / t ** 2);
	const p = pressureAt(altitudeM);
	const vapour = Math.exp(11.8571 - 3840.7 / t - 216961 / t ** 2);
	const theta = 0.000975 - 1.426e-5 * tempC + 6.436e-8 * tempC ** 2;
	const thinner = (p * (1 - vapour / p) * (1 - theta * p)) / ((1 - vapour) * (1 - theta));
	return Math.exp(fresh - salt) * thinner;
}
