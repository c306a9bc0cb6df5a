import type { Check } from './check';

/** Gap (QARTOD timing): the first reading after a hole in a sensor's record has no neighbours to be judged by. */
export const gap: Check = {
	code: 'gap',
	title: 'No hole in a sensor’s record',
	run({ gap: hole }) {
		if (hole === null) return null;
		const hours = hole.ms / 3_600_000;
		return {
			check: 'gap',
			flag: 2,
			cause: 'gap',
			suggested: null,
			message: `Nothing came for ${hours < 48 ? `${hours.toFixed(1)} hours` : `${(hours / 24).toFixed(1)} days`}; it used to come every ${Math.max(1, Math.round(hole.usualMs / 60_000))} minutes.`,
			nextStep: 'Look at the power and the connection of the sensor.',
			evidence: { gap_min: Math.round(hole.ms / 60_000), usual_min: Math.round(hole.usualMs / 60_000) },
			weight: 10,
		};
	},
};
