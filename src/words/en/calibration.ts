import type { CalibrationTrouble } from '@/core/probe/examine-calibration';

/** Why a calibration says nothing. */
export const CALIBRATION_PROBLEM: Record<CalibrationTrouble, string> = {
	'impossible-value': 'No standard and no meter has such a value: is a decimal mark missing, or the unit another?',
	'nothing-found': 'As found is missing: read each standard before adjusting.',
	'wrong-way': 'The values run the wrong way: are the two bottles exchanged?',
	'no-slope-left': 'The values as left give no slope: read them again after adjusting.',
	'no-points': 'Give at least one standard with what was found in it.',
	'not-finite': 'A value is not a number.',
	'same-standard-twice': 'The same standard is given twice; a slope needs two different ones.',
	'no-answer':
		'The probe shows nearly the same in both standards: it does not answer to pH. Check the cable and the bulb, or replace it.',
	'nothing-shown': 'The cell shows nothing in the standard: cover it to the vent hole, free the bubble, or replace it.',
};
