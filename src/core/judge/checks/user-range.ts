import { type Check, unexpected } from './check';

/**
 * User range (QARTOD gross range, suspect): further outside the station's target range than the range is wide, and
 * further than 1 pH or a third of the EC. A value just outside its target is a fact about the water, not a doubt
 * about the reading; that is shown by the strip. A history that agrees with the value overrules this check.
 */
export const userRange: Check = {
	code: 'user-range',
	title: 'Near the range set for this station',
	run(s) {
		const range = s.station.ranges[s.quantity];
		if (!range) return null;
		if (s.prediction && s.prediction.seen >= 3 && !unexpected(s)) return null;
		const width = range.high - range.low;
		const margin = s.quantity === 'ph' ? Math.max(width, 1) : Math.max(width, range.high / 3);
		if (s.reading.value >= range.low - margin && s.reading.value <= range.high + margin) return null;
		return {
			check: 'user-range',
			flag: 3,
			cause: 'out-of-range',
			suggested: null,
			said: {
				code: 'far-outside-range',
				quantity: s.quantity,
				value: s.reading.value,
				low: range.low,
				high: range.high,
			},
			evidence: { low: range.low, high: range.high },
			weight: 55,
		};
	},
};
