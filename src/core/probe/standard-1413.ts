/**
 * The 0.01 mol/L KCl standard, 1413 µS/cm at 25 °C, as a meter without compensation sees it, every degree from 15 to
 * 30 °C (ISO 7888 and bottle tables, from memory). Linear between; undefined outside.
 */
export const FIRST_C = 15;
export const RAW_1413_US_CM = [
	1147, 1173, 1199, 1225, 1251, 1278, 1305, 1332, 1359, 1386, 1413, 1441, 1468, 1496, 1524, 1552,
];

/**
 * µS/cm that the standard shows without compensation at 15 to 30 °C.
 * @example rawStandard1413(20) // 1278
 */
export function rawStandard1413(tempC: number): number | undefined {
	const place = tempC - FIRST_C;
	if (!(place >= 0 && place <= RAW_1413_US_CM.length - 1)) return undefined;
	const i = Math.min(Math.floor(place), RAW_1413_US_CM.length - 2);
	return RAW_1413_US_CM[i]! + (place - i) * (RAW_1413_US_CM[i + 1]! - RAW_1413_US_CM[i]!);
}
