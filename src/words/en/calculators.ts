/** Why a conversion, a compensation or a restatement cannot be computed: the input it is about, and what to do. */
export const CONVERSION_WORDS = {
	'different-kinds': ['to', 'These two units measure different things.'],
	'not-finite': ['value', 'The result is too large to be a number.'],
	impossible: ['value', 'No such value exists in this unit.'],
} as const;

export const COMPENSATION_WORDS = {
	'not-finite': ['ec_us_cm', 'The result is too large to be a number.'],
	negative: ['ec_us_cm', 'A conductivity is not negative.'],
	'temperature-outside-water': ['temp_c', 'Water is between −5 and 60 °C.'],
	'temperature-outside-model': ['temp_c', 'The natural-water model holds from 0 to 35 °C.'],
	coefficient: ['alpha_pct_per_c', 'The coefficient lies between 0 and 3 % per °C.'],
} as const;

export const RESTATE_WORDS = {
	'no-points': 'Give at least one standard with what was found in it.',
	'not-finite': 'A value is not a number.',
	'vanishing-gain':
		'The probe shows nearly the same in both standards, or the same standard is given twice: no error can be told from that.',
	'wrong-way': 'The values run the wrong way: are the two standards exchanged?',
	'empty-interval': 'The later calibration must lie after the earlier one.',
} as const;
