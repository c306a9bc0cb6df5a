import { toCanonical, UNITS } from '../../quantity';
import { score } from '../history';
import { FITS } from '../slips';
import { toWorking } from '../working-scale';
import { type Check, type Subject, unexpected } from './check';

/** One of the two must be beyond doubt wrong, the other at least unlikely. */
const BOTH_MISS = 2;

/** Swapped: pH and EC of one sample exchanged. Asked only when both miss and both fit the other way round. */
export const swapped: Check = {
	code: 'swapped',
	title: 'pH and EC in their own fields',
	run(s) {
		if (s.quantity !== 'ph' && s.quantity !== 'ec') return null;
		const others = s.mates.filter((m) => m.quantity === (s.quantity === 'ph' ? 'ec' : 'ph'));
		// Two pens, each for one of them, are written down in two fields as well.
		const mate = others.find((m) => m.reading.instrument === s.reading.instrument) ?? others[0];
		if (!mate?.prediction || !s.prediction) return null;
		const impossible = (x: Subject) => x.reading.value < x.definition.span[0] || x.reading.value > x.definition.span[1];
		const sure = [s, mate].some((x) => unexpected(x) || impossible(x));
		if (!sure || Math.min(Math.abs(s.missed), Math.abs(mate.missed)) < BOTH_MISS) return null;
		const digits = (x: Subject) => x.reading.value / UNITS[x.reading.unit].factor;
		const ecSide = s.quantity === 'ec' ? s : mate;
		const phSide = s.quantity === 'ec' ? mate : s;
		const ec = toCanonical(digits(phSide), ecSide.reading.unit);
		const ph = digits(ecSide);
		const fitEc = score(ecSide.prediction!, toWorking('ec', ec), ecSide.uWorking);
		const fitPh = score(phSide.prediction!, ph, phSide.uWorking);
		if (Math.abs(fitEc) > FITS || Math.abs(fitPh) > FITS) return null;
		const suggested = s.quantity === 'ec' ? ec : ph;
		return {
			check: 'swapped',
			flag: 3,
			cause: 'swapped',
			suggested,
			said: { code: 'swapped', ph, ec },
			evidence: { fits_sd_ph: Math.round(fitPh * 10) / 10, fits_sd_ec: Math.round(fitEc * 10) / 10 },
			weight: 105,
		};
	},
};
