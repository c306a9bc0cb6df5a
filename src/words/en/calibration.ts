import type { CalibrationProblem } from '@/core/probe/calibration';

/** Why a calibration says nothing. */
export const CALIBRATION_PROBLEM: Record<CalibrationProblem, string> = {
	'no-points': 'Give at least one standard with what was found in it.',
	'not-finite': 'A value is not a number.',
	'same-standard-twice': 'The same standard is given twice; a slope needs two different ones.',
	'no-answer':
		'The probe shows nearly the same in both standards: it does not answer to pH. Check the cable and the bulb, or replace it.',
	'nothing-shown': 'The cell shows nothing in the standard: cover it to the vent hole, free the bubble, or replace it.',
};
