import { withoutDrift } from '../second-instrument';
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
			said: {
				code: 'drifting',
				quantity,
				value: reading.value,
				comparisons: drifted.comparisons,
				offset: drifted.offset,
				truth,
			},
			evidence: { offset: drifted.offset, against: drifted.against, comparisons: drifted.comparisons },
			weight: 57,
		};
	},
};
