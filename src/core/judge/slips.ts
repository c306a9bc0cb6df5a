import type { SeriesQuantity } from '../quantity/quantities';
import { PPM_SCALES, ppmScaleOf, ppmUnit, toCanonical, UNITS } from '../quantity/units';
import type { Reading } from '../reading/model';
import { type Prediction, score } from './history';
import type { SlipHow } from './said';
import { toWorking } from './working-scale';

/**
 * The ordinary slips of typing, undone: each gives the value that was probably meant.
 *
 * A slip is proposed only for a value that does not fit, and only when its undoing does. The handicap makes a rarer
 * slip lose against a commoner one that fits about as well.
 */
export interface Slip {
	cause: 'unit-slip' | 'decimal-slip' | 'scale-mismatch' | 'swapped';
	/** Canonical value after undoing. */
	value: number;
	how: SlipHow;
	handicap: number;
}

function conductivitySlips(reading: Reading): Slip[] {
	const slips: Slip[] = [];
	const { value, unit } = reading;
	const digits = value / UNITS[unit].factor;
	const scale = ppmScaleOf(unit);
	slips.push(
		{ cause: 'unit-slip', value: value / 1000, how: { code: 'us-for-ms' }, handicap: 0 },
		{ cause: 'unit-slip', value: value * 1000, how: { code: 'ms-for-us' }, handicap: 0 },
		{ cause: 'decimal-slip', value: value / 10, how: { code: 'mark-one-off' }, handicap: 0 },
		{ cause: 'decimal-slip', value: value * 10, how: { code: 'mark-one-off' }, handicap: 0 },
		{ cause: 'decimal-slip', value: value / 100, how: { code: 'mark-left-out' }, handicap: 1.5 },
		{ cause: 'decimal-slip', value: value * 100, how: { code: 'mark-two-off' }, handicap: 3 },
	);
	if (scale === undefined) {
		for (const s of PPM_SCALES)
			slips.push({
				cause: 'unit-slip',
				value: toCanonical(digits, ppmUnit(s)),
				how: { code: 'ppm-as-unit', scale: s, unit },
				handicap: 1.5,
			});
	} else {
		slips.push(
			{ cause: 'unit-slip', value: digits, how: { code: 'us-as-ppm' }, handicap: 1.5 },
			{ cause: 'unit-slip', value: digits * 1000, how: { code: 'ms-as-ppm' }, handicap: 0.5 },
		);
		for (const s of PPM_SCALES)
			if (s !== scale)
				slips.push({
					cause: 'scale-mismatch',
					value: toCanonical(digits, ppmUnit(s)),
					how: { code: 'other-scale', scale: s, named: scale },
					handicap: 1,
				});
	}
	return slips;
}

/** Every ordinary slip of one value, undone; the values may be impossible, which the caller's prediction tells. */
export function undoneSlips(quantity: SeriesQuantity, reading: Reading): Slip[] {
	if (reading.halfWidth > 0) return [];
	const { value } = reading;
	switch (quantity) {
		case 'ec':
			return conductivitySlips(reading);
		case 'ph':
			return [
				{ cause: 'decimal-slip', value: value / 10, how: { code: 'mark-one-off' }, handicap: 0 },
				{ cause: 'decimal-slip', value: value * 10, how: { code: 'mark-one-off' }, handicap: 0 },
				{ cause: 'decimal-slip', value: value / 100, how: { code: 'mark-left-out' }, handicap: 0.5 },
			];
		case 'temp':
		case 'air_temp': {
			const slips: Slip[] = [
				{ cause: 'decimal-slip', value: value / 10, how: { code: 'mark-left-out' }, handicap: 0.5 },
				{ cause: 'decimal-slip', value: value * 10, how: { code: 'mark-one-off' }, handicap: 0.5 },
			];
			if (reading.unit === 'C')
				slips.push({ cause: 'unit-slip', value: toCanonical(value, 'F'), how: { code: 'f-as-c' }, handicap: 0 });
			if (reading.unit === 'F')
				slips.push({ cause: 'unit-slip', value: (value * 9) / 5 + 32, how: { code: 'c-as-f' }, handicap: 0 });
			return slips;
		}
		default:
			return [
				{ cause: 'decimal-slip', value: value / 10, how: { code: 'mark-one-off' }, handicap: 0 },
				{ cause: 'decimal-slip', value: value * 10, how: { code: 'mark-one-off' }, handicap: 0 },
			];
	}
}

/** What landing at the end of an event's reach costs, in standard deviations. */
const DEEP = 3;

/** A slip must land this close to the expectation, in standard deviations, to be proposed. */
export const FITS = 3;
/** The further off the number as typed, the surer that it was mistyped, and the less likely a value its undoing may be. */
const FITS_AT_MOST = 8;
const fitsFor = (missed: number): number => Math.min(Math.max(Math.abs(missed) / 4, FITS), FITS_AT_MOST);

/**
 * The slip that best explains a value which missed its prediction, or null when none does.
 * @param missed how far the value as typed misses, in standard deviations
 */
export function bestSlip(
	candidates: readonly Slip[],
	quantity: SeriesQuantity,
	prediction: Prediction,
	uWorking: number,
	missed: number,
	span: readonly [number, number],
): { slip: Slip; fit: number } | null {
	const fits = fitsFor(missed);
	let best: { slip: Slip; fit: number; cost: number } | null = null;
	for (const slip of candidates) {
		if (!(slip.value >= span[0] && slip.value <= span[1])) continue;
		const level = toWorking(quantity, slip.value);
		const { event } = prediction;
		// Anything fits within the reach of an addition of unknown size; the deeper, the less it proves.
		const deep = event.reach > 0 ? Math.min(Math.abs(level - prediction.level) / event.reach, 1) * DEEP : 0;
		const fit = Math.hypot(score(prediction, level, uWorking), deep);
		if (fit > fits || fit * 2 > Math.abs(missed)) continue;
		const cost = fit * fit + slip.handicap;
		if (!best || cost < best.cost) best = { slip, fit, cost };
	}
	return best && { slip: best.slip, fit: best.fit };
}
