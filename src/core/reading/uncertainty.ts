import { typedResolution } from '../quantity/parse';
import { seriesQuantity } from '../quantity/quantities';
import { UNITS } from '../quantity/units';
import type { InstrumentInfo, Reading } from './model';

/** Stated accuracy assumed where nobody said (common practice): pens ±0.1 pH, ±2 % EC, ±0.5 °C. */
export const ASSUMED_ACCURACY = { ph: 0.1, ecPct: 2, temp: 0.5, otherPct: 5 } as const;

const ROOT12 = Math.sqrt(12);
const ROOT3 = Math.sqrt(3);

/**
 * Standard uncertainty of one reading from the instrument alone: u² = (resolution/√12)² + (accuracy/√3)², both taken
 * as rectangular (JCGM 100, 4.3.7). An interval of a drop kit is its own rectangle: width/√12.
 */
export function instrumentUncertainty(reading: Reading, instrument: InstrumentInfo | undefined): number {
	if (reading.halfWidth > 0) return (2 * reading.halfWidth) / ROOT12;
	const quantity = seriesQuantity(reading.quantity);
	const stated = instrument?.quantities[reading.quantity] ?? instrument?.quantities[quantity];
	const resolution = stated?.resolution ?? typedResolution(reading.digits) * UNITS[reading.unit].factor;
	const size = Math.abs(reading.value);
	const accuracy =
		stated?.accuracy ??
		(stated?.accuracyPct !== undefined
			? (stated.accuracyPct / 100) * size
			: quantity === 'ph'
				? ASSUMED_ACCURACY.ph
				: quantity === 'temp'
					? ASSUMED_ACCURACY.temp
					: quantity === 'ec'
						? (ASSUMED_ACCURACY.ecPct / 100) * size
						: (ASSUMED_ACCURACY.otherPct / 100) * size);
	return Math.hypot(resolution / ROOT12, accuracy / ROOT3);
}
