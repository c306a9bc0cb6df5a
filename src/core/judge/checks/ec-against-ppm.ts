import { PPM_SCALES, type PpmScale, ppmScaleOf, ppmUnit, toCanonical, UNITS } from '../../quantity';
import type { Reading } from '../../reading/model';
import type { Check } from './check';

/** Rounding of both displays plus a little: the scales themselves lie 9 % and 28 % apart. */
const RATIO_TOLERANCE = 0.03;
/** Two meters differ by their own errors too. */
const OTHER_METER = 0.045;

/** The scale on which a ppm would say what an EC says, where that is not the one it was named on and no other is as near; null where there is none. */
export function otherScale(reading: Reading, ecUsCm: number, tolerance = OTHER_METER): PpmScale | null {
	const named = ppmScaleOf(reading.unit);
	if (named === undefined || !(ecUsCm > 0)) return null;
	const digits = reading.value / UNITS[reading.unit].factor;
	const off = (scale: PpmScale) => Math.abs(toCanonical(digits, ppmUnit(scale)) / ecUsCm - 1);
	const best = PPM_SCALES.reduce((a, b) => (off(b) < off(a) ? b : a));
	return best !== named && off(best) <= tolerance ? best : null;
}

/**
 * EC against ppm of one sample: a ppm is the EC times one of three factors. When the ratio is another of the three, the scale was named
 * wrongly and the right one follows; when one meter's own ratio is none, one of the two was misread.
 */
export const ecAgainstPpm: Check = {
	code: 'ec-against-ppm',
	title: 'EC and ppm of one sample agree',
	run(s) {
		const scale = ppmScaleOf(s.reading.unit);
		if (s.quantity !== 'ec' || scale === undefined) return null;
		const beside = s.mates.filter((m) => m.quantity === 'ec' && ppmScaleOf(m.reading.unit) === undefined);
		const own = beside.find((m) => m.reading.instrument === s.reading.instrument);
		const mate = own ?? beside[0];
		if (!mate || !(mate.reading.value > 0)) return null;
		const digits = s.reading.value / UNITS[s.reading.unit].factor;
		// A coarse display is allowed half of its last step on both sides.
		const slack =
			(own ? RATIO_TOLERANCE : OTHER_METER) +
			(2 * Math.hypot(s.u * 0.5, mate.u * 0.5)) / Math.max(mate.reading.value, 1);
		if (Math.abs(s.reading.value / mate.reading.value - 1) <= slack) return null;
		const right = otherScale(s.reading, mate.reading.value, own ? RATIO_TOLERANCE : OTHER_METER);
		const evidence = { ratio: Math.round((digits / mate.reading.value) * 1000) / 1000 };
		if (right)
			return {
				check: 'ec-against-ppm',
				flag: 3,
				cause: 'scale-mismatch',
				suggested: toCanonical(digits, ppmUnit(right)),
				said: { code: 'ppm-on-other-scale', ratio: evidence.ratio, scale: right, named: scale },
				evidence,
				weight: 102,
			};
		// Two meters that differ otherwise are held against each other by their uncertainties.
		if (!own) return null;
		return {
			check: 'ec-against-ppm',
			flag: 3,
			cause: 'disagreement',
			suggested: null,
			said: { code: 'ppm-on-no-scale', ratio: evidence.ratio, ec: mate.reading.value },
			evidence,
			weight: 60,
		};
	},
};
