/**
 * Pairs: two probes in one water. Whatever the water was, the difference of what they showed is the difference of their errors.
 * One water is one sample, or one station within a quarter of an hour with nothing added in between.
 */
export const PAIRED_WITHIN_MS = 15 * 60_000;
/** Two probes that both stay in the water meet all the time; the first of each day (UTC) says what they have to say. */
const DAY = 24 * 3_600_000;
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

interface Recent {
	sighting: Sighting;
	/** The first of its probe here on its day. */
	first: boolean;
	/** Probes that it has met. */
	met: ReadonlySet<string>;
}
const NOBODY: ReadonlySet<string> = new Set();
const sameDay = (a: Sighting, b: Sighting): boolean => Math.floor(a.at / DAY) === Math.floor(b.at / DAY);

/** Finds the pairs among readings of one quantity that come in order of time. */
export class PairFinder {
	private readonly recent = new Map<string, Recent[]>();
	/** The day on which a probe that stays in the water wrote last, by station and probe. */
	private readonly wrote = new Map<string, number>();

	/** @param mixed whether something was added or changed at a station between two times */
	constructor(
		private readonly quantity: 'ph' | 'ec',
		private readonly mixed: (station: string, from: number, to: number) => boolean,
	) {}

	/** The pairs that a reading makes with those before it; a reading by hand meets each other probe once. */
	take(s: Sighting): Pair[] {
		const pairs: Pair[] = [];
		const known = this.recent.get(s.station);
		// A probe that goes on writing by itself, with nobody near, is most of what there is.
		const before = known?.length === 1 ? known[0]! : null;
		if (before && s.continuous && !before.first && before.sighting.probe === s.probe && sameDay(before.sighting, s)) {
			before.sighting = s;
			before.met = NOBODY;
			return pairs;
		}
		const own: Recent = { sighting: s, first: s.continuous && this.isFirst(s), met: NOBODY };
		const near = (known ?? []).filter((r) => s.at - r.sighting.at <= PAIRED_WITHIN_MS);
		for (let i = near.length - 1; i >= 0; i--) {
			const other = near[i]!;
			const o = other.sighting;
			if (o.probe === s.probe || own.met.has(o.probe)) continue;
			const cup = s.sample !== null && s.sample === o.sample;
			if (s.continuous && o.continuous) {
				if (!own.first || !other.first || this.mixed(s.station, o.at, s.at)) continue;
			} else {
				if (!o.continuous && other.met.has(s.probe)) continue;
				if (!cup && this.mixed(s.station, o.at, s.at)) continue;
				own.met = own.met.has(o.probe) ? own.met : new Set(own.met).add(o.probe);
				other.met = other.met.has(s.probe) ? other.met : new Set(other.met).add(s.probe);
			}
			const noise = this.noiseOf(o, s, cup);
			if (Number.isFinite(noise)) pairs.push({ at: s.at, a: o, b: s, noise });
		}
		// Of a probe that goes on writing only the newest is of use, and the first of its day.
		const kept = near.filter((r) => r.sighting.probe !== s.probe || !s.continuous || r.first);
		kept.push(own);
		this.recent.set(s.station, kept);
		return pairs;
	}

	private isFirst(s: Sighting): boolean {
		const key = `${s.station}\u0000${s.probe}`;
		const day = Math.floor(s.at / DAY);
		if (this.wrote.get(key) === day) return false;
		this.wrote.set(key, day);
		return true;
	}

	private noiseOf(a: Sighting, b: Sighting, cup: boolean): number {
		const water = (cup ? SAME_CUP : SAME_TANK)[this.quantity];
		if (this.quantity === 'ph') return Math.hypot(a.uRepeat, b.uRepeat, water);
		return a.value > 0 && b.value > 0 ? Math.hypot(a.uRepeat / a.value, b.uRepeat / b.value, water) : Number.NaN;
	}

	/**
	 * The same up to here, to go on from without changing this one.
	 * @param mixed what it is told of what was poured from here on
	 */
	fork(mixed = this.mixed): PairFinder {
		const other = new PairFinder(this.quantity, mixed);
		for (const [station, list] of this.recent)
			other.recent.set(
				station,
				list.map((r) => ({ ...r })),
			);
		for (const [key, day] of this.wrote) other.wrote.set(key, day);
		return other;
	}
}

/**
 * Every pair among readings of one quantity, in order of time.
 * @param sightings ascending in time
 */
export function pairsOf(
	quantity: 'ph' | 'ec',
	sightings: Iterable<Sighting>,
	mixed: (station: string, from: number, to: number) => boolean,
): Pair[] {
	const finder = new PairFinder(quantity, mixed);
	const pairs: Pair[] = [];
	for (const s of sightings) pairs.push(...finder.take(s));
	return pairs;
}
