import { displayValue } from '../slips';
import { fromWorking } from '../working-scale';
import { type Check, unexpected } from './check';

/**
 * Prediction: the value is further from what this station's history and events lead to than chance explains, and no
 * ordinary slip accounts for it. Not a failure: water does change. A second reading settles it.
 */
export const prediction: Check = {
	code: 'prediction',
	title: 'Fits the station’s own history',
	run(s) {
		if (s.continuous || !unexpected(s) || !s.prediction) return null;
		const expected = fromWorking(s.quantity, s.prediction.level);
		const range = s.station.ranges[s.quantity];
		const outside = range !== undefined && (s.reading.value < range.low || s.reading.value > range.high);
		const fed = s.station.kind === 'reservoir' || s.station.kind === 'mix';
		const [cause, ask] =
			s.station.kind === 'source'
				? ['source-shift', 'Take a confirming sample from the same tap after running it.']
				: s.quantity === 'ec' && fed && Math.abs(s.missed) > s.limit && !outside
					? ['unlogged-addition', 'Was something added or changed? Log it; otherwise read again.']
					: outside
						? ['out-of-range', 'Read again before acting on it; then look at the probe, then at the water.']
						: ['unexpected-change', 'Read again, rinsed and settled; if it repeats, the water has changed.'];
		return {
			check: 'prediction',
			flag: 3,
			cause,
			suggested: null,
			message: `${displayValue(s.quantity, s.reading.value)} is far from the ${displayValue(s.quantity, expected)} that this station’s last readings lead to.`,
			nextStep: ask,
			evidence: {
				expected,
				missed_sd: Math.round(s.missed * 10) / 10,
				from_readings: s.prediction.from,
				...(s.prediction.event.kinds.length > 0 ? { events: s.prediction.event.kinds.join(' ') } : {}),
			},
			weight: 50,
		};
	},
};
