import { score } from '../history';
import type { Check, Subject } from './check';

/** How closely a sample must fit another station, and how many readings that station needs behind it. */
const FITS_THERE = 2.5;
const NEEDS = 4;
/** Both quantities together miss by this many standard deviations, and neither by less than the least. */
const TOGETHER = 5;
const LEAST = 1.5;
/** The sum of squared misses there, as a share of that here. */
const FITS_BETTER = 0.15;

/**
 * Wrong station: a sample misses where it was entered and fits another station. One quantity alone is a coincidence
 * too easily, so at least two must be there, both off here and both at home there.
 */
export const wrongStation: Check = {
	code: 'wrong-station',
	title: 'Entered at the station it was taken from',
	run(s) {
		if (s.continuous || (s.quantity !== 'ph' && s.quantity !== 'ec')) return null;
		const sample = [s, ...s.mates].filter((m) => m.quantity === 'ph' || m.quantity === 'ec');
		if (new Set(sample.map((m) => m.quantity)).size < 2) return null;
		// Either is off by itself, or both together are less likely than one alone at its limit.
		const here = sample.reduce((sum, m) => sum + m.missed ** 2, 0);
		if (here < TOGETHER ** 2 || sample.some((m) => Math.abs(m.missed) < LEAST)) return null;
		let best: { station: string; cost: number } | null = null;
		for (const { station } of s.elsewhere(s.quantity)) {
			const fits = sample.map((m) => fitAt(m, station));
			if (fits.some((f) => f === null || f > FITS_THERE)) continue;
			const cost = fits.reduce<number>((sum, f) => sum + (f ?? 0) ** 2, 0);
			if (!best || cost < best.cost) best = { station, cost };
		}
		if (!best || best.cost > FITS_BETTER * here) return null;
		return {
			check: 'wrong-station',
			flag: 3,
			cause: 'wrong-station',
			suggested: null,
			said: { code: 'wrong-station', here: s.reading.station, there: best.station },
			evidence: { station: best.station, missed_sd: Math.round(s.missed * 10) / 10 },
			weight: 103,
		};
	},
};

function fitAt(m: Subject, station: string): number | null {
	const there = m.elsewhere(m.quantity).find((e) => e.station === station);
	return there && there.prediction.seen >= NEEDS ? Math.abs(score(there.prediction, m.level, m.uWorking)) : null;
}
