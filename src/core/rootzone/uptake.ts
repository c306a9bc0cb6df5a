import type { Bounded } from './balance';

/**
 * What plants take from a tank between additions: litres by the level, salt by the balance. Uptake concentration = (E₁V₁ − E₂V₂)/(V₁ − V₂)
 * (mass balance; Sonneveld and Voogt, Plant Nutrition of Greenhouse Crops, 2009, from memory); likewise for any ion. EC in µS/cm at 25 °C
 * or mg/L, volumes in litres.
 */
export interface TankLook {
	at: number;
	value: number;
	/** Standard uncertainty of this reading alone. */
	u: number;
	/** Share by which the meter may be off, in all readings alike. */
	meterShare: number;
	litres: number;
	litresU: number;
}
/** A stretch between two additions, by its first look and its last. */
export interface Stretch {
	first: TankLook;
	last: TankLook;
}
export interface Uptake {
	drunkL: number;
	days: number;
	perDayL: Bounded;
	/** Concentration of what they took. */
	taken: Bounded;
	/** Mean in the tank meanwhile. */
	tank: number;
	/** The bounds are wider than the tank is strong: it says nothing. */
	unknown: boolean;
	/** Against the tank: more salt than water, less, or as much, as far as it can be told. */
	says: 'takes-more' | 'takes-less' | 'even' | 'unknown';
}

const DAY = 86_400_000;
const Z95 = 1.96;
/** A day is not like the next: the weather of a few days (common practice, no source). */
const DAYS_DIFFER = 0.15;

/**
 * What was taken over several stretches together, with bounds that hold it in 95 of 100 cases (linearised).
 * @returns null where nothing was drunk by the levels
 * @example uptakeOf([{ first: { at: 0, value: 2000, u: 20, meterShare: 0.02, litres: 100, litresU: 0.5 }, last: { at: 432000000, value: 2200, u: 20, meterShare: 0.02, litres: 80, litresU: 0.5 } }]).taken.value // 1200
 */
export function uptakeOf(stretches: readonly Stretch[]): Uptake | null {
	const used = stretches.filter((s) => s.last.at > s.first.at);
	const sum = (of: (s: Stretch) => number) => used.reduce((n, s) => n + of(s), 0);
	const drunk = sum((s) => s.first.litres - s.last.litres);
	const days = sum((s) => (s.last.at - s.first.at) / DAY);
	if (!(drunk > 0) || days <= 0) return null;
	const salt = sum((s) => s.first.value * s.first.litres - s.last.value * s.last.litres);
	const taken = salt / drunk;
	const drunkVar = sum((s) => s.first.litresU ** 2 + s.last.litresU ** 2);
	// What one look is off by, alone: in its reading and in its litres.
	const alone = sum(
		(s) =>
			(s.first.u * s.first.litres) ** 2 +
			(s.last.u * s.last.litres) ** 2 +
			((s.first.value - taken) * s.first.litresU) ** 2 +
			((s.last.value - taken) * s.last.litresU) ** 2,
	);
	const meter = Math.max(...used.map((s) => s.first.meterShare));
	const u = Math.hypot(Math.sqrt(alone) / drunk, taken * meter);
	const perDayU = Math.hypot(Math.sqrt(drunkVar) / days, (DAYS_DIFFER * drunk) / days / Math.sqrt(Math.max(1, days)));
	const tank = sum((s) => ((s.first.value + s.last.value) / 2) * (s.last.at - s.first.at)) / (days * DAY);
	const bounds = (value: number, by: number): Bounded => ({ value, low: value - Z95 * by, high: value + Z95 * by });
	const unknown = 2 * Z95 * u > tank;
	const found = bounds(taken, u);
	return {
		drunkL: drunk,
		days,
		perDayL: bounds(drunk / days, perDayU),
		taken: found,
		tank,
		unknown,
		// The meter is off in the tank as in what was taken: it falls out of the difference.
		says: unknown
			? 'unknown'
			: against(taken - tank, Z95 * Math.hypot(Math.sqrt(alone) / drunk, (taken - tank) * meter)),
	};
}

const against = (off: number, bound: number): Uptake['says'] =>
	off > bound ? 'takes-more' : off < -bound ? 'takes-less' : 'even';

/** The next top-up. */
export interface NextTopUp {
	/** Days from now until it is due, nine times in ten. */
	fromDays: number;
	toDays: number;
	addL: number;
	/** What stands in the tank by then. */
	thenEcUsCm: Bounded;
	/** How strong what is added is to be, so that it comes out on target; below nothing no water is weak enough. */
	withEcUsCm: Bounded;
	/** Where it comes out with pure water, where that is still too strong; else null. */
	stillUsCm: number | null;
}

/**
 * When the tank is down to its least, how much fills it, and how strong that is to be.
 * @param now litres and EC, full and least litres, target EC in µS/cm
 * @returns null where they drink nothing for sure, or what they take is unknown
 * @example nextTopUp({ litres: 100, ecUsCm: 2000, fullL: 100, leastL: 80, targetUsCm: 2000 }, { perDayL: { value: 4, low: 3.5, high: 4.5 }, taken: { value: 1200, low: 1100, high: 1300 }, unknown: false }).withEcUsCm.value // 1200
 */
export function nextTopUp(
	now: { litres: number; ecUsCm: number; fullL: number; leastL: number; targetUsCm: number },
	u: Pick<Uptake, 'perDayL' | 'taken' | 'unknown'>,
): NextTopUp | null {
	if (u.unknown || u.perDayL.low <= 0 || now.leastL >= now.fullL) return null;
	const drinks = Math.max(0, now.litres - now.leastL);
	const left = now.litres - drinks;
	const addL = now.fullL - left;
	const then = (taken: number) => (now.ecUsCm * now.litres - taken * drinks) / left;
	const strength = (taken: number) => (now.targetUsCm * now.fullL - then(taken) * left) / addL;
	const withEc = { value: strength(u.taken.value), low: strength(u.taken.low), high: strength(u.taken.high) };
	return {
		fromDays: drinks / u.perDayL.high,
		toDays: drinks / u.perDayL.low,
		addL,
		thenEcUsCm: { value: then(u.taken.value), low: then(u.taken.high), high: then(u.taken.low) },
		withEcUsCm: withEc,
		stillUsCm: withEc.value < 0 ? (then(u.taken.value) * left) / now.fullL : null,
	};
}
