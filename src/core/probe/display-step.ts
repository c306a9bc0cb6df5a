import type { InstrumentInfo } from '../reading/model';

/** The standard that EC cells are mostly held against, µS/cm. */
const USUAL_STANDARD = 1413;

/**
 * What the display of an instrument resolves, pH, or percent of a usual standard for EC; 0 where nobody said.
 * @example displayStep({ quantities: { ph: { resolution: 0.1 } } }, 'ph') // 0.1
 */
export function displayStep(i: Pick<InstrumentInfo, 'quantities'> | undefined, quantity: 'ph' | 'ec'): number {
	const step = i?.quantities[quantity]?.resolution ?? 0;
	return quantity === 'ph' ? step : (100 * step) / USUAL_STANDARD;
}
