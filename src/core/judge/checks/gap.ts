import type { Check } from './check';

/** Gap (QARTOD timing): the first reading after a hole in a sensor's record has no neighbours to be judged by. */
export const gap: Check = {
	code: 'gap',
	title: 'No hole in a sensor’s record',
	run({ gap: hole }) {
		if (hole === null) return null;
		return {
			check: 'gap',
			flag: 2,
			cause: 'gap',
			suggested: null,
			said: { code: 'gap', ...hole },
			evidence: { gap_min: Math.round(hole.ms / 60_000), usual_min: Math.round(hole.usualMs / 60_000) },
			weight: 10,
		};
	},
};
