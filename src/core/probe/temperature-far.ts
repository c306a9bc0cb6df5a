import { median } from '../series/robust';

/** Away from the temperature of the calibration by more than this, slope and standards are no longer the same, °C (common practice). */
const FAR_C = { ph: 10, ec: 15 } as const;
/** Of fewer readings nothing is usual. */
const LEAST = 5;

/**
 * Whether a probe is usually read far from the temperature of its last calibration: a note on the probe, not a doubt on each reading.
 * @param temps of its newest readings where one was noted, °C
 * @returns the usual temperature of its waters, °C; null where it is near, or not known
 * @example temperatureFar('ph', [10, 11, 10.5, 10, 10], 25) // 10
 * @example temperatureFar('ph', [20, 21, 20.5, 20, 20], 25) // null
 */
export function temperatureFar(
	quantity: 'ph' | 'ec',
	temps: readonly number[],
	calibratedAtC: number | null,
): number | null {
	if (calibratedAtC === null || temps.length < LEAST) return null;
	const usual = median([...temps]);
	return Math.abs(usual - calibratedAtC) > FAR_C[quantity] ? usual : null;
}
