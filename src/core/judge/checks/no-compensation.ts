import { ALPHA_PEN_PCT, compensate } from '../../probe/conductivity';
import type { Finding } from '../../reading/model';
import { score } from '../history';
import { toWorking } from '../working-scale';
import type { Check, Subject } from './check';

/** Closer to 25 °C than this, compensation changes less than a pen's own accuracy. */
const MATTERS_C = 1.5;

/** No compensation: a meter that does not compensate reads about 2 % low per °C below 25; with the temperature known it can be put right. */
export const noCompensation: Check = {
	code: 'no-compensation',
	title: 'EC brought to 25 °C',
	run(s) {
		const { reading, quantity, instrument } = s;
		const tempC = reading.tempC ?? s.mates.find((m) => m.quantity === 'temp')?.reading.value ?? null;
		if (quantity !== 'ec' || tempC === null || Math.abs(tempC - 25) < MATTERS_C) return null;
		const alphaPctPerC = instrument?.alphaPctPerC ?? ALPHA_PEN_PCT;
		const at25 = compensate({ ecUsCm: reading.value, tempC, alphaPctPerC });
		if (!at25.ok) return null;
		if (!instrument || instrument.compensates) return switchedOff(s, tempC, at25.value);
		return {
			check: 'no-compensation',
			flag: 3,
			cause: 'no-compensation',
			suggested: at25.value,
			said: { code: 'not-compensated', value: reading.value, tempC, at25: at25.value },
			evidence: { temp_c: tempC, alpha_pct_per_c: alphaPctPerC },
			weight: 95,
		};
	},
};

/** A meter that usually compensates reads as if it did not: the value misses, and brought to 25 °C it fits closely. */
const FAR_ENOUGH_C = 5;
const MISSES = 3.5;
const FITS = 1.5;

function switchedOff(s: Subject, tempC: number, ec25UsCm: number): Finding | null {
	// A source becomes thinner by itself, with rain and season.
	if (
		s.continuous ||
		s.station.kind === 'source' ||
		!s.prediction ||
		s.prediction.from < 3 ||
		Math.abs(tempC - 25) < FAR_ENOUGH_C
	)
		return null;
	if (Math.abs(s.missed) < MISSES || s.missed > 0 !== tempC > 25) return null;
	const left = Math.abs(score(s.prediction, toWorking('ec', ec25UsCm), s.uWorking));
	if (left > FITS) return null;
	return {
		check: 'no-compensation',
		flag: 3,
		cause: 'no-compensation',
		suggested: ec25UsCm,
		said: { code: 'compensation-off', value: s.reading.value, tempC, at25: ec25UsCm },
		evidence: { temp_c: tempC, missed_sd: Math.round(s.missed * 10) / 10, fits_sd: Math.round(left * 10) / 10 },
		weight: 99 - left,
	};
}
