import { displayValue } from '../slips';
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
				return finding(
					s,
					'probe-in-air',
					4,
					'Hardly any conductivity: the probe is out of the water.',
					'Put the probe back under, to its vent hole.',
					110,
				);
			if (s.reading.value > STORAGE_US_CM && (expected === null || expected < STORAGE_US_CM / 3))
				return finding(
					s,
					'probe-in-storage',
					4,
					'As salty as storage solution: the probe is in its cap.',
					'Rinse the probe and put it back in the water.',
					110,
				);
		}
		if (!unexpected(s)) return null;
		// What the conductivity beside it shows explains the pH too.
		if (s.mates.some((m) => m.quantity === 'ec' && m.reading.value > STORAGE_US_CM))
			return finding(
				s,
				'probe-in-storage',
				4,
				'The probe is in its storage cap.',
				'Rinse the probe and put it back in the water.',
				110,
			);
		if (s.mates.some((m) => m.quantity === 'ec' && m.reading.value < AIR_US_CM && unexpected(m)))
			return finding(
				s,
				'probe-in-air',
				4,
				'The probe is out of the water.',
				'Put the probe back under, to its vent hole.',
				110,
			);
		if (s.mixing)
			return finding(
				s,
				'mixing',
				2,
				'Still mixing after what was added; not judged until it settles.',
				'Wait until it has mixed.',
				106,
			);
		return finding(
			s,
			'spike',
			3,
			`${displayValue(s.quantity, s.reading.value)} jumps off the ${displayValue(s.quantity, fromWorking(s.quantity, s.prediction!.level))} around it faster than water changes.`,
			'Look whether the next readings come back; if not, read by hand.',
			106,
		);
	},
};

function finding(s: Subject, cause: string, flag: 2 | 3 | 4, message: string, nextStep: string, weight: number) {
	return {
		check: 'sensor',
		flag,
		cause,
		suggested: null,
		message,
		nextStep,
		evidence: { missed_sd: Math.round(s.missed * 10) / 10, value: s.reading.value },
		weight,
	};
}
