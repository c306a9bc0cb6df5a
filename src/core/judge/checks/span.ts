import { bestSlip, undoneSlips } from '../slips';
import type { Check } from './check';
import { slipFinding } from './slip';

/**
 * Sensor span (QARTOD gross range, fail): beyond what any instrument for this quantity can show. When an ordinary
 * slip brings the number back to what this station shows, the slip is named instead of the span.
 */
export const span: Check = {
	code: 'span',
	title: 'Within what an instrument can show',
	run(s) {
		const [low, high] = s.definition.span;
		if (s.reading.value >= low && s.reading.value <= high) return null;
		const found =
			s.prediction &&
			bestSlip(
				undoneSlips(s.quantity, s.reading),
				s.quantity,
				s.prediction,
				s.uWorking,
				Number.POSITIVE_INFINITY,
				s.definition.span,
			);
		if (found) return slipFinding(s, found.slip, found.fit, 4, 'span');
		return {
			check: 'span',
			flag: 4,
			cause: 'out-of-range',
			suggested: null,
			said: { code: 'beyond-any-meter', quantity: s.quantity, value: s.reading.value, low, high },
			evidence: { value: s.reading.value, low, high },
			weight: 100,
		};
	},
};
