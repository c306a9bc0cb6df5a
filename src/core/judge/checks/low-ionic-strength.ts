import type { Check } from './check';

/** Below about this conductivity nothing buffers the water and a pH electrode wanders (domain handbook, USGS A6). */
export const LOW_IONIC_STRENGTH_US_CM = 100;

/** Low ionic strength: a pH in nearly pure water hardly means anything. Marked, never acted on. */
export const lowIonicStrength: Check = {
	code: 'low-ionic-strength',
	title: 'Enough ions for a pH',
	run({ quantity, ecHereUsCm }) {
		if (quantity !== 'ph' || ecHereUsCm === null || ecHereUsCm >= LOW_IONIC_STRENGTH_US_CM) return null;
		return {
			check: 'low-ionic-strength',
			flag: 3,
			cause: 'low-ionic-strength',
			suggested: null,
			said: { code: 'low-ionic-strength', ecUsCm: ecHereUsCm },
			evidence: { ec_us_cm: Math.round(ecHereUsCm) },
			weight: 40,
		};
	},
};
