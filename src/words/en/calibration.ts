import type { CalibrationTrouble } from '@/core/probe/examine-calibration';
import type { NextStep } from '@/core/probe/next-steps';

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

/** A bottle by the name its owner gave it; by its standard where none stands on the shelf. */
export function bottleWords(standard: string, lots: readonly { name: string; standard: string }[]): string {
	const own = lots.filter((l) => l.standard === standard).map((l) => `“${l.name}”`);
	return own.length === 0 ? `the ${standard} bottle` : `your ${own.join(' or ')} (${standard})`;
}

/** What to do with a probe now, as a sentence each. */
const STEPS: Record<NextStep, { ph: string; ec: string }> = {
	'second-bottle': {
		ph: 'Dip it in a second, fresh bottle: a tired or mistaken buffer looks just like this.',
		ec: 'Dip it in a second, fresh bottle: a standard left open gets stronger as it dries.',
	},
	clean: {
		ph: 'Clean the bulb: warm water with a drop of washing-up liquid, a soft brush for the junction, then rinse. Never wipe the glass dry.',
		ec: 'Clean the cell: washing-up liquid and a soft brush, vinegar for lime, then rinse well.',
	},
	rehydrate: {
		ph: 'Let it stand in storage solution for some hours, best over night.',
		ec: 'Let it dry.',
	},
	adjust: {
		ph: 'Adjust it: two buffers, the 7 first, as the meter’s own instructions say.',
		ec: 'Adjust it in the standard nearest to your feed.',
	},
	recheck: { ph: 'Then check it again in two buffers.', ec: 'Then check it again in the same standard.' },
	replace: {
		ph: 'Cleaned and soaked it is as it was: the electrode is at its end. Replace it, or the pen.',
		ec: 'Cleaned it is as it was: the cell is at its end. Replace it, or the pen.',
	},
};
export const nextStepWords = (step: NextStep, quantity: 'ph' | 'ec'): string => STEPS[step][quantity];
