import { withoutDrift } from '../second-instrument';
import { displayValue } from '../slips';
import type { Check } from './check';

/** Slow drift: hand readings beside this sensor add up to a difference that chance does not explain (CUSUM, see second-instrument). */
export const drifting: Check = {
	code: 'drifting',
	title: 'A sensor that agrees with hand readings',
	run({ drifted, continuous, quantity, reading }) {
		if (!continuous || drifted === null) return null;
		const truth = withoutDrift(quantity, reading.value, drifted.offset);
		return {
			check: 'drifting',
			flag: 3,
			cause: 'drift',
			suggested: truth,
			message: `Over ${drifted.comparisons} hand readings this sensor has moved ${quantity === 'ph' ? `${drifted.offset.toFixed(2)} pH` : `${(100 * drifted.offset).toFixed(0)} %`} away: ${displayValue(quantity, reading.value)} is more likely ${displayValue(quantity, truth)}.`,
			nextStep: 'Clean the sensor and calibrate it; log both.',
			evidence: { offset: drifted.offset, against: drifted.against, comparisons: drifted.comparisons },
			weight: 57,
		};
	},
};
