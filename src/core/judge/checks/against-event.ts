import { fromWorking } from '../working-scale';
import type { Check } from './check';

/** Misses against what was done are asked about sooner than others: standard deviations. */
const LIMIT = 3;
/** pH, and ln(EC). */
const FURTHEST = { ph: 1.5, ec: 0.5 } as const;
/** Before and after a mix: feed can only raise EC and water lower it, acid only lowers pH and base raises it (common practice). */
export const againstEvent: Check = {
	code: 'against-event',
	title: 'Moved the way that what was added moves it',
	run(s) {
		if (s.continuous || !s.prediction || s.prediction.from < 1) return null;
		const { event } = s.prediction;
		// Further off than any tank moves in a day, it is a slip of the hand that explains it.
		if (Math.abs(s.level - s.prediction.level) > FURTHEST[s.quantity === 'ph' ? 'ph' : 'ec']) return null;
		if (event.direction === 0 || Math.sign(s.missed) === event.direction || Math.abs(s.missed) < LIMIT) return null;
		const before = fromWorking(s.quantity, s.prediction.level);
		return {
			check: 'against-event',
			flag: 3,
			cause: 'against-event',
			suggested: null,
			said: { code: 'against-event', quantity: s.quantity, value: s.reading.value, before, events: event.kinds },
			evidence: { before, missed_sd: Math.round(s.missed * 10) / 10, events: event.kinds.join(' ') },
			weight: 99.6,
		};
	},
};
