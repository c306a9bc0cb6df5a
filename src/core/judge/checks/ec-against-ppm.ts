import { PPM_SCALES, ppmScaleOf, ppmUnit, toCanonical, UNITS } from '../../quantity';
import type { Check } from './check';

/** Rounding of both displays plus a little: the scales themselves lie 9 % and 28 % apart. */
const RATIO_TOLERANCE = 0.03;

/**
 * EC against ppm of one meter: one meter's ppm is its EC times one of three factors. When the ratio is another of the
 * three, the scale was named wrongly and the right one follows; when it is none, one of the two was misread.
 */
export const ecAgainstPpm: Check = {
	code: 'ec-against-ppm',
	title: 'EC and ppm of one meter agree',
	run(s) {
		const scale = ppmScaleOf(s.reading.unit);
		if (s.quantity !== 'ec' || scale === undefined) return null;
		const mate = s.mates.find(
			(m) =>
				m.quantity === 'ec' &&
				m.reading.instrument === s.reading.instrument &&
				ppmScaleOf(m.reading.unit) === undefined,
		);
		if (!mate || !(mate.reading.value > 0)) return null;
		const digits = s.reading.value / UNITS[s.reading.unit].factor;
		// A coarse display is allowed half of its last step on both sides.
		const slack = RATIO_TOLERANCE + (2 * Math.hypot(s.u * 0.5, mate.u * 0.5)) / Math.max(mate.reading.value, 1);
		const off = (candidate: number) =>
			Math.abs(toCanonical(digits, ppmUnit(candidate as 500 | 640 | 700)) / mate.reading.value - 1);
		if (off(scale) <= slack) return null;
		const right = PPM_SCALES.find((c) => c !== scale && off(c) <= RATIO_TOLERANCE);
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
