import type { FindingParams } from '../said';
import { fromWorking } from '../working-scale';
import { type Check, unexpected } from './check';

type Ask = FindingParams<'far-from-history'>['ask'];

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
		const [cause, ask]: [string, Ask] =
			s.station.kind === 'source'
				? ['source-shift', 'confirm-at-source']
				: s.quantity === 'ec' && fed && Math.abs(s.missed) > s.limit && !outside
					? ['unlogged-addition', 'log-or-read-again']
					: outside
						? ['out-of-range', 'look-at-probe']
						: ['unexpected-change', 'read-again'];
		return {
			check: 'prediction',
			flag: 3,
			cause,
			suggested: null,
			said: { code: 'far-from-history', quantity: s.quantity, value: s.reading.value, expected, ask },
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
