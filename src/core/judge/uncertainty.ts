import { typedResolution } from '../quantity/number';
import { seriesQuantity } from '../quantity/quantities';
import { UNITS } from '../quantity/units';
import type { InstrumentInfo, Reading } from '../reading/model';

/** Stated accuracy assumed where nobody said (common practice): pens ±0.1 pH, ±2 % EC, ±0.5 °C. */
export const ASSUMED_ACCURACY = { ph: 0.1, ecPct: 2, temp: 0.5, humidity: 4, otherPct: 5 } as const;

const ROOT12 = Math.sqrt(12);
const ROOT3 = Math.sqrt(3);

/** What of a reading its uncertainty is known from. */
export type Displayed = Pick<Reading, 'quantity' | 'digits' | 'unit' | 'value' | 'halfWidth'>;

interface Parts {
	resolution: number;
	accuracy: number;
}

function parts(reading: Displayed, instrument: InstrumentInfo | undefined): Parts {
	const quantity = seriesQuantity(reading.quantity);
	const stated = instrument?.quantities[reading.quantity] ?? instrument?.quantities[quantity];
	const resolution = stated?.resolution ?? typedResolution(reading.digits) * UNITS[reading.unit].factor;
	const size = Math.abs(reading.value);
	if (stated?.accuracy !== undefined) return { resolution, accuracy: stated.accuracy };
	if (stated?.accuracyPct !== undefined) return { resolution, accuracy: (stated.accuracyPct / 100) * size };
	if (quantity === 'ph') return { resolution, accuracy: ASSUMED_ACCURACY.ph };
	if (quantity === 'humidity' || quantity === 'moisture') return { resolution, accuracy: ASSUMED_ACCURACY.humidity };
	if (quantity === 'temp' || quantity === 'air_temp') return { resolution, accuracy: ASSUMED_ACCURACY.temp };
	return {
		resolution,
		accuracy: ((quantity === 'ec' ? ASSUMED_ACCURACY.ecPct : ASSUMED_ACCURACY.otherPct) / 100) * size,
	};
}

export interface ReadingUncertainty {
	/** The smallest step that the display can show, canonical; as typed where nobody said. */
	step: number;
	/**
	 * Standard uncertainty of one reading from the instrument alone: u² = (resolution/√12)² + (accuracy/√3)², both taken
	 * as rectangular (JCGM 100, 4.3.7). An interval of a drop kit is its own rectangle: width/√12.
	 */
	u: number;
	/**
	 * How far two readings of the same water by this instrument differ by chance. Most of a stated accuracy is a constant
	 * of the instrument and already in the history it wrote; half of it is taken to vary.
	 */
	repeats: number;
}

/** How well one reading is known from its instrument alone, in canonical units. */
export function readingUncertainty(reading: Displayed, instrument: InstrumentInfo | undefined): ReadingUncertainty {
	const { resolution, accuracy } = parts(reading, instrument);
	if (reading.halfWidth > 0) {
		const u = (2 * reading.halfWidth) / ROOT12;
		return { step: resolution, u, repeats: u };
	}
	return {
		step: resolution,
		u: Math.hypot(resolution / ROOT12, accuracy / ROOT3),
		repeats: Math.hypot(resolution / ROOT12, accuracy / (2 * ROOT3)),
	};
}

/**
 * An uncertainty of one reading without the half of the stated accuracy that is a constant of the instrument: that is what
 * calibrations and pairs measure. For a reading that is no interval.
 */
export function withoutConstant(
	u: number,
	quantity: 'ph' | 'ec',
	value: number,
	instrument: InstrumentInfo | undefined,
): number {
	const stated = instrument?.quantities[quantity];
	const accuracy =
		stated?.accuracy ??
		(stated?.accuracyPct !== undefined
			? (stated.accuracyPct / 100) * Math.abs(value)
			: quantity === 'ph'
				? ASSUMED_ACCURACY.ph
				: (ASSUMED_ACCURACY.ecPct / 100) * Math.abs(value));
	return Math.sqrt(Math.max(u * u - accuracy ** 2 / 4, 0));
}
