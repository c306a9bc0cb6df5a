import type { Finding } from '../../reading/model';
import { bestSlip, type Slip, undoneSlips } from '../slips';
import { type Check, type Subject, unexpected } from './check';

/** The finding of a slip, with the value that was probably meant; the better its undoing fits, the more it weighs. */
export function slipFinding(s: Subject, slip: Slip, fit: number, flag: 3 | 4, check: string): Finding {
	return {
		check,
		flag,
		cause: slip.cause,
		suggested: slip.value,
		said: { code: 'slip', quantity: s.quantity, value: s.reading.value, meant: slip.value, how: slip.how },
		evidence: {
			expected: s.prediction?.level ?? '',
			missed_sd: round(s.missed),
			fits_sd: round(fit),
			from_readings: s.prediction?.from ?? 0,
		},
		weight: 100 - fit,
	};
}

const round = (v: number) => (Number.isFinite(v) ? Math.round(v * 10) / 10 : String(v));

/**
 * Ordinary slip: a value that misses the station's own prediction, while the same digits in another unit, with the
 * decimal mark moved, on another ppm scale or in °F fit it. Not asked of a value that fits.
 */
export const slip: Check = {
	code: 'slip',
	title: 'No ordinary typing slip',
	run(s) {
		const [low, high] = s.definition.span;
		if (s.continuous || !unexpected(s) || !s.prediction || s.reading.value < low || s.reading.value > high) return null;
		const found = bestSlip(
			undoneSlips(s.quantity, s.reading),
			s.quantity,
			s.prediction,
			s.uWorking,
			s.missed,
			s.definition.span,
		);
		return found && slipFinding(s, found.slip, found.fit, 3, 'slip');
	},
};
