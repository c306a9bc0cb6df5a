/**
 * Pairs: two probes in one water. Whatever the water was, the difference of what they showed is the difference of their errors.
 * One water is one sample, or one station within a quarter of an hour with nothing added in between.
 */
export const PAIRED_WITHIN_MS = 15 * 60_000;
/** Two probes that both stay in the water meet all the time; once a day says what they have to say. */
const CONTINUOUS_EVERY_MS = 24 * 3_600_000;
/** How far one water moves between two dips in one cup, and between two visits within a quarter of an hour (common practice, no source): pH, share of EC. */
const SAME_CUP = { ph: 0.01, ec: 0.005 } as const;
const SAME_TANK = { ph: 0.025, ec: 0.01 } as const;

export interface Sighting {
	/** Of the reading. */
	id: number;
	probe: string;
	/** Stays in the water and writes by itself. */
	continuous: boolean;
	station: string;
	/** Key of the sample; null where it is not known. */
	sample: string | null;
	at: number;
	value: number;
	/** Standard uncertainty of one reading without what is constant of its instrument, in its unit. */
	uRepeat: number;
}
export interface Pair {
	at: number;
	a: Sighting;
	b: Sighting;
	/** Standard deviation of the difference by chance alone: pH, or share for EC. */
	noise: number;
}

/**
 * Every pair among readings of one quantity, in order of time; each reading meets another probe once.
 * @param sightings ascending in time
 * @param mixed whether something was added or changed at a station between two times
 */
export function pairsOf(
	quantity: 'ph' | 'ec',
	sightings: Iterable<Sighting>,
	mixed: (station: string, from: number, to: number) => boolean,
): Pair[] {
	const recent = new Map<string, Sighting[]>();
	const metAt = new Map<string, number>();
	const met = new Set<string>();
	const pairs: Pair[] = [];
	for (const s of sightings) {
		const known = recent.get(s.station) ?? [];
		const near = known.filter((k) => s.at - k.at <= PAIRED_WITHIN_MS);
		for (const other of near) {
			if (other.probe === s.probe) continue;
			const cup = s.sample !== null && s.sample === other.sample;
			if (!cup && mixed(s.station, other.at, s.at)) continue;
			const key = s.probe < other.probe ? `${s.probe}\u0000${other.probe}` : `${other.probe}\u0000${s.probe}`;
			if (s.continuous && other.continuous) {
				if (s.at - (metAt.get(key) ?? Number.NEGATIVE_INFINITY) < CONTINUOUS_EVERY_MS) continue;
				metAt.set(key, s.at);
			} else {
				// The one dipped by hand is the one that counts: it meets the other once.
				const hand = s.continuous ? other : s;
				const by = `${hand.id} ${hand === s ? other.probe : s.probe}`;
				const back = hand === s && !other.continuous ? `${other.id} ${s.probe}` : by;
				if (met.has(by) || met.has(back)) continue;
				met.add(by);
				met.add(back);
			}
			const water = (cup ? SAME_CUP : SAME_TANK)[quantity];
			const noise =
				quantity === 'ph'
					? Math.hypot(s.uRepeat, other.uRepeat, water)
					: Math.hypot(s.uRepeat / s.value, other.uRepeat / other.value, water);
			if (Number.isFinite(noise)) pairs.push({ at: s.at, a: other, b: s, noise });
		}
		const kept = near.filter((k) => k.probe !== s.probe);
		kept.push(s);
		recent.set(s.station, kept);
	}
	return pairs;
}
