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

/**
 * Two readings of one water held against one another: ζ up to 2 agrees, up to 3 is questionable (ISO 13528).
 * @example compareWitnesses({ name: 'a', value: 6, u: 0.05, lastCheckedAt: 2 }, { name: 'b', value: 6.4, u: 0.05, lastCheckedAt: 1 }) // { zeta: 5.657, grade: 'unacceptable', dip: 'b' }
 */
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

/** Chi-squared at 95 % for one to four degrees of freedom (standard tables). */
const CHI2_95 = [3.841, 5.991, 7.815, 9.488] as const;

export interface Weighed {
	consistent: boolean;
	chi2: number;
	/** Weighted mean and its uncertainty; null where the witnesses contradict each other. */
	combined: { value: number; u: number } | null;
	/** The one furthest from what the others say together, where they contradict each other. */
	odd: string | null;
	/** The one to dip in a standard: checked longest ago, or never. */
	dip: string;
}

/**
 * What was most likely true, by several instruments, repeats and drop kits: the weighted mean, when chi-squared says that
 * they agree at 95 % (Cox 2002, Metrologia 39, procedure A). Repeats by one instrument share its error, so they count as
 * one witness with their mean.
 */
export function weighWitnesses(all: readonly Witness[]): Weighed | null {
	const byName = new Map<string, Witness[]>();
	for (const w of all) {
		if (!(w.u > 0) || !Number.isFinite(w.value)) continue;
		byName.set(w.name, [...(byName.get(w.name) ?? []), w]);
	}
	const list = [...byName.values()].map((same) => ({
		...same[0]!,
		value: same.reduce((sum, w) => sum + w.value, 0) / same.length,
		u: Math.min(...same.map((w) => w.u)),
	}));
	if (list.length < 2) return null;
	const together = (of: readonly Witness[]) => {
		const weight = of.reduce((sum, w) => sum + 1 / w.u ** 2, 0);
		return { value: of.reduce((sum, w) => sum + w.value / w.u ** 2, 0) / weight, u: 1 / Math.sqrt(weight) };
	};
	const mean = together(list);
	const chi2 = list.reduce((sum, w) => sum + ((w.value - mean.value) / w.u) ** 2, 0);
	const consistent = chi2 <= CHI2_95[Math.min(list.length - 2, CHI2_95.length - 1)]!;
	const oddness = (w: Witness) => {
		const others = together(list.filter((o) => o !== w));
		return Math.abs(w.value - others.value) / Math.hypot(w.u, others.u);
	};
	const longest = list.reduce((a, b) =>
		(b.lastCheckedAt ?? Number.NEGATIVE_INFINITY) < (a.lastCheckedAt ?? Number.NEGATIVE_INFINITY) ? b : a,
	);
	return {
		consistent,
		chi2,
		combined: consistent ? mean : null,
		odd: consistent || list.length < 3 ? null : list.reduce((a, b) => (oddness(b) > oddness(a) ? b : a)).name,
		dip: longest.name,
	};
}
