import { zetaScore } from '../../probe/normal';
import type { Check, Subject } from './check';
import { otherScale } from './ec-against-ppm';

/** What a week without a buffer adds where the probe's own history is not at hand: 0.1 pH, 1.5 %. */
const WEEK = { ph: 0.1, ecShare: 0.015 } as const;
const UNACCEPTABLE = 3;

type Other = Pick<Subject['neighbours'][number], 'instrument' | 'value' | 'u' | 'missed'>;

/** Disagreement: two instruments in one sample differ by more than their uncertainties allow (ζ > 3, ISO 13528). The one further from the expectation is asked about. */
export const disagreement: Check = {
	code: 'disagreement',
	title: 'Two instruments agree on one sample',
	run(s) {
		if (s.quantity !== 'ph' && s.quantity !== 'ec') return null;
		const others: Other[] = [];
		for (const m of s.mates)
			if (
				m.quantity === s.quantity &&
				m.reading.instrument !== s.reading.instrument &&
				// A ppm on another scale than it was named on disagrees by that alone.
				otherScale(m.reading, s.reading.value) === null
			)
				others.push({ instrument: m.reading.instrument, value: m.reading.value, u: m.u, missed: m.missed });
		if (s.neighbours.length > 0) others.push(...s.neighbours);
		if (others.length === 0) return null;
		const drift = (v: number) => (s.quantity === 'ph' ? WEEK.ph : WEEK.ecShare * v);
		for (const m of others) {
			const zeta = zetaScore(
				s.reading.value,
				Math.hypot(s.u, drift(s.reading.value)),
				m.value,
				Math.hypot(m.u, drift(m.value)),
			);
			if (zeta <= UNACCEPTABLE || Math.abs(s.missed) < Math.abs(m.missed)) continue;
			return {
				check: 'disagreement',
				flag: 3,
				cause: 'disagreement',
				suggested: null,
				said: {
					code: 'disagreement',
					quantity: s.quantity,
					value: s.reading.value,
					other: m.value,
					instrument: m.instrument,
				},
				evidence: { zeta: Math.round(zeta * 10) / 10, other: m.value },
				weight: 60,
			};
		}
		return null;
	},
};
