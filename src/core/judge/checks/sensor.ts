import type { FindingSaid } from '../said';
import { fromWorking } from '../working-scale';
import { type Check, type Subject, unexpected } from './check';

/** EC below this share of the expectation, and below this, is a probe out of the water. */
const AIR_SHARE = 0.08;
const AIR_US_CM = 60;
/** Potassium chloride in a storage cap conducts far more than any feed. */
const STORAGE_US_CM = 20_000;

/**
 * What a jump of a continuous sensor is: out of the water, in its storage cap, still mixing after something was added,
 * or a spike. A sensor makes no typing slips, so those are not asked of it.
 */
export const sensor: Check = {
	code: 'sensor',
	title: 'A sensor moves as water can',
	run(s) {
		if (!s.continuous) return null;
		if (s.quantity === 'ec') {
			const expected = s.prediction ? fromWorking('ec', s.prediction.level) : null;
			if (expected !== null && expected > 300 && s.reading.value < Math.max(AIR_SHARE * expected, AIR_US_CM))
				return finding(s, 4, { code: 'probe-in-air', seen: 'conductivity' }, 110);
			if (s.reading.value > STORAGE_US_CM && (expected === null || expected < STORAGE_US_CM / 3))
				return finding(s, 4, { code: 'probe-in-storage', seen: 'conductivity' }, 110);
		}
		if (!unexpected(s)) return null;
		// What the conductivity beside it shows explains the pH too.
		if (s.mates.some((m) => m.quantity === 'ec' && m.reading.value > STORAGE_US_CM))
			return finding(s, 4, { code: 'probe-in-storage', seen: 'beside' }, 110);
		if (s.mates.some((m) => m.quantity === 'ec' && m.reading.value < AIR_US_CM && unexpected(m)))
			return finding(s, 4, { code: 'probe-in-air', seen: 'beside' }, 110);
		if (s.mixing) return finding(s, 2, { code: 'mixing' }, 106);
		return finding(
			s,
			3,
			{
				code: 'spike',
				quantity: s.quantity,
				value: s.reading.value,
				expected: fromWorking(s.quantity, s.prediction!.level),
			},
			106,
		);
	},
};

function finding(s: Subject, flag: 2 | 3 | 4, said: FindingSaid, weight: number) {
	return {
		check: 'sensor',
		flag,
		cause: said.code,
		suggested: null,
		said,
		evidence: { missed_sd: Math.round(s.missed * 10) / 10, value: s.reading.value },
		weight,
	};
}
