import { zetaScore } from './normal';

/**
 * Several instruments on one sample: whom to believe, what was most likely true, and which dip settles the rest. Two meters that
 * disagree are not one right and one wrong: what counts is what each has shown in standards, how long ago, and how many others say
 * the same. A drop kit is a witness that leaves an interval open, and cannot be dipped in a standard.
 */
export interface Witness {
	name: string;
	value: number;
	/** Standard uncertainty with drift, same unit as the value. */
	u: number;
	/** What a kit leaves open; null for a meter, which shows one number. */
	interval: readonly [number, number] | null;
	lastCheckedAt: number | null;
	/** How its newest dips in standards came out, as found. */
	record: { passed: number; failed: number };
}

export interface SecondOpinion {
	/** Whether all of them can be right together. */
	agree: boolean;
	/** ζ of the two (ISO 13528), where there are two meters and no more. */
	zeta: number | null;
	/** Those who are believed: they can be right together, and are the likeliest to be. */
	believed: string[];
	/** Chance that the believed are right, among all the ways in which some are and others not. */
	chance: number;
	/** Weighted mean of the believed and its standard uncertainty. */
	combined: { value: number; u: number };
	odd: string[];
	/** Which instruments one dip in a standard would settle it with; kits are never among them. */
	dip: string[];
}

/** Chi-squared at 95 % for one to four degrees of freedom (standard tables). */
const CHI2_95 = [3.841, 5.991, 7.815, 9.488] as const;
/** How far a kit’s colours and counts are read wrong beyond their own interval: half of its width again (an assumption). */
const BESIDE_INTERVAL = 0.5;
/** Before anybody has dipped it a meter is right three times in four, a kit four times in five (assumptions, no source). */
const PRIOR = { passed: 3, failed: 1 } as const;
const KIT = 0.8;
/** A check of so long ago says half as much. */
const FADES_MS = 60 * 86_400_000;

/** Chance that a witness is right within its own uncertainty: by its dips, the older the less they count. */
function trusted(w: Witness, now: number): number {
	if (w.interval) return KIT;
	const fresh = w.lastCheckedAt === null ? 0 : 2 ** (-Math.max(now - w.lastCheckedAt, 0) / FADES_MS);
	const passed = PRIOR.passed + fresh * w.record.passed;
	const failed = PRIOR.failed + fresh * w.record.failed;
	return passed / (passed + failed);
}

/** Weighted mean; a kit pulls only where the meters lie outside its interval. */
function together(of: readonly Witness[]): { value: number; u: number; chi2: number } {
	const meters = of.filter((w) => !w.interval);
	const list = meters.length > 0 ? meters : of;
	const weight = list.reduce((sum, w) => sum + 1 / w.u ** 2, 0);
	const value = list.reduce((sum, w) => sum + w.value / w.u ** 2, 0) / weight;
	const chi2 = of.reduce((sum, w) => {
		const beyond = w.interval
			? Math.max(w.interval[0] - value, value - w.interval[1], 0) /
				Math.hypot(((w.interval[1] - w.interval[0]) / 2) * BESIDE_INTERVAL, 1 / Math.sqrt(weight))
			: (w.value - value) / w.u;
		return sum + beyond ** 2;
	}, 0);
	return { value, u: 1 / Math.sqrt(weight), chi2 };
}
const consistent = (of: readonly Witness[]): boolean =>
	of.length < 2 || together(of).chi2 <= CHI2_95[Math.min(of.length - 2, CHI2_95.length - 1)]!;

/** Repeats by one instrument share its error: they count as one witness with their mean. */
function byInstrument(all: readonly Witness[]): Witness[] {
	const byName = new Map<string, Witness[]>();
	for (const w of all) if (w.u > 0 && Number.isFinite(w.value)) byName.set(w.name, [...(byName.get(w.name) ?? []), w]);
	return [...byName.values()].map((same) => ({
		...same[0]!,
		value: same.reduce((sum, w) => sum + w.value, 0) / same.length,
		u: Math.min(...same.map((w) => w.u)),
	}));
}

/** All ways in which some may be right: as bits. */
const MOST = 8;

/**
 * Weighs what several instruments say of one sample; null where fewer than two do.
 * Agreement by chi-squared at 95 % (Cox 2002, Metrologia 39, procedure A), belief by counting every way in which some may be right.
 * @param now when it is asked, milliseconds
 */
export function secondOpinion(all: readonly Witness[], now: number): SecondOpinion | null {
	const list = byInstrument(all).slice(0, MOST);
	if (list.length < 2) return null;
	const ways = Array.from({ length: 2 ** list.length - 1 }, (_, i) => {
		const right = list.filter((_, bit) => ((i + 1) >> bit) & 1);
		const weight = list.reduce((p, w) => p * (right.includes(w) ? trusted(w, now) : 1 - trusted(w, now)), 1);
		return { right, weight: consistent(right) ? weight : 0 };
	});
	// Where all can be right, all are believed: that one of them is wrong and agrees by chance is no news.
	const whole = ways.at(-1)!;
	const agree = whole.weight > 0;
	const best = agree ? whole : ways.reduce((a, b) => (b.weight > a.weight ? b : a));
	const sum = ways.reduce((s, w) => s + w.weight, 0);
	const odd = list.filter((w) => !best.right.includes(w));
	const meters = list.filter((w) => !w.interval);
	const { value, u } = together(best.right);
	return {
		agree,
		zeta:
			list.length === 2 && meters.length === 2
				? zetaScore(list[0]!.value, list[0]!.u, list[1]!.value, list[1]!.u)
				: null,
		believed: best.right.map((w) => w.name),
		chance: best.weight / sum,
		combined: { value, u },
		odd: odd.map((w) => w.name),
		dip: agree ? [] : whatToDip(odd, meters, now),
	};
}

/** The meter that stands apart; where that is a kit, or each stands alone, the meters that are least known. */
function whatToDip(odd: readonly Witness[], meters: readonly Witness[], now: number): string[] {
	const oddMeters = odd.filter((w) => !w.interval);
	// Only a kit stands apart: it cannot be dipped, so the pens are.
	if (oddMeters.length === 0) return meters.map((w) => w.name);
	if (meters.length === 2 && odd.length === 1 && oddMeters.length === 1) {
		const [a, b] = meters as [Witness, Witness];
		return [trusted(a, now) === trusted(b, now) ? (a.u >= b.u ? a : b) : trusted(a, now) < trusted(b, now) ? a : b].map(
			(w) => w.name,
		);
	}
	return oddMeters.map((w) => w.name);
}
