import { zetaScore } from './normal';

/**
 * Two instruments on one sample. Two meters that disagree are not one right and one wrong: the question is when each
 * was last checked and what it showed. Zeta score of ISO 13528: above 2 questionable, above 3 unacceptable.
 */
export interface Witness {
	name: string;
	value: number;
	/** Standard uncertainty with drift, same unit as the value. */
	u: number;
	lastCheckedAt: number | null;
}

export interface Agreement {
	zeta: number;
	grade: 'agree' | 'questionable' | 'unacceptable';
	/** The one to dip first: checked longer ago, or never; the less certain where that is equal. */
	dip: string;
	/** Weighted mean and its uncertainty, where they agree. */
	combined: { value: number; u: number } | null;
}

export function compareWitnesses(a: Witness, b: Witness): Agreement {
	const zeta = zetaScore(a.value, a.u, b.value, b.u);
	const grade = zeta > 3 ? 'unacceptable' : zeta > 2 ? 'questionable' : 'agree';
	const age = (w: Witness) => w.lastCheckedAt ?? Number.NEGATIVE_INFINITY;
	const dip = age(a) === age(b) ? (a.u >= b.u ? a : b) : age(a) < age(b) ? a : b;
	const weight = (w: Witness) => 1 / w.u ** 2;
	const combined =
		grade === 'agree' && a.u > 0 && b.u > 0
			? {
					value: (a.value * weight(a) + b.value * weight(b)) / (weight(a) + weight(b)),
					u: 1 / Math.sqrt(weight(a) + weight(b)),
				}
			: null;
	return { zeta, grade, dip: dip.name, combined };
}
