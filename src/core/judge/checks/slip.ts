import type { Finding } from '../../reading/model';
import { bestSlip, type Slip, undoneSlips } from '../slips';
import { fromWorking } from '../working-scale';
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

/** Rain and a works that changes its wells move the EC of a source by so much within a day (common practice, no source). */
const SOURCE_MOVES = 1.6;
/** What a source does by itself is no slip. */
const mayBeWater = (s: Subject, slip: Slip): boolean =>
	s.station.kind === 'source' &&
	s.quantity === 'ec' &&
	Math.max(slip.value / s.reading.value, s.reading.value / slip.value) < SOURCE_MOVES;

/** A source that was read so before, twice, did become another water, however like a slip it looks. */
const ALIKE = 2;
function alikeAtSource(s: Subject): Finding | null {
	if (s.station.kind !== 'source' || s.agreeing === null || s.agreeing.times < ALIKE || !s.prediction) return null;
	const expected = fromWorking(s.quantity, s.prediction.level);
	return {
		check: 'slip',
		flag: 3,
		cause: 'source-shift',
		suggested: null,
		said: {
			code: 'far-from-history',
			quantity: s.quantity,
			value: s.reading.value,
			expected,
			ask: 'alike-at-source',
		},
		evidence: { expected, alike: s.agreeing.times + 1 },
		weight: 100,
	};
}

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
			undoneSlips(s.quantity, s.reading).filter((slip) => !mayBeWater(s, slip)),
			s.quantity,
			s.prediction,
			s.uWorking,
			s.missed,
			s.definition.span,
		);
		return found && (alikeAtSource(s) ?? slipFinding(s, found.slip, found.fit, 3, 'slip'));
	},
};
