import { compensate } from '../../probe/conductivity';
import { displayValue } from '../slips';
import type { Check } from './check';

/** Closer to 25 °C than this, compensation changes less than a pen's own accuracy. */
const MATTERS_C = 1.5;

/** No compensation: a meter that does not compensate reads about 2 % low per °C below 25; with the temperature known it can be put right. */
export const noCompensation: Check = {
	code: 'no-compensation',
	title: 'EC brought to 25 °C',
	run({ reading, quantity, instrument }) {
		if (
			quantity !== 'ec' ||
			!instrument ||
			instrument.compensates ||
			reading.tempC === null ||
			Math.abs(reading.tempC - 25) < MATTERS_C
		)
			return null;
		const at25 = compensate({ ecUsCm: reading.value, tempC: reading.tempC, alphaPctPerC: instrument.alphaPctPerC });
		if (!at25.ok) return null;
		return {
			check: 'no-compensation',
			flag: 3,
			cause: 'no-compensation',
			suggested: at25.ec25UsCm,
			message: `This meter does not compensate; ${displayValue('ec', reading.value)} at ${reading.tempC} °C is ${displayValue('ec', at25.ec25UsCm)} at 25 °C.`,
			nextStep: 'Use the value at 25 °C, or switch the meter’s compensation on.',
			evidence: { temp_c: reading.tempC, alpha_pct_per_c: instrument.alphaPctPerC },
			weight: 95,
		};
	},
};
