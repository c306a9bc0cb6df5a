import { halton, normalAt } from '../stats/quasi-normal';
import { type Bounded, drainEcAt } from './balance';

/**
 * Where the drain will stand after some days of another watering: what the medium holds is exchanged by what runs off, and the plants
 * take their share meanwhile. Held·dE/dt = A·F − D·E − (A − D)·U, so E = E∞ + (E₀ − E∞)·exp(−D·t/Held) with E∞ of the salt balance
 * (balance.ts), a stirred vessel. Part of the water finds a way past and thins the drain. EC in µS/cm, litres a day of the whole system.
 */
export interface Watered {
	feedUsCm: number;
	drainUsCm: number;
	/** Standard uncertainty of a drain beside its feed. */
	drainU: number;
	givenL: number;
	/** Standard uncertainty of the share that runs off, 0 to 1. */
	shareU: number;
	drunkL: number;
	/** What the medium holds in all; null where nobody said: 5 to 14 L a bag. */
	heldL: number | null;
	bags: number;
}
export interface Ahead {
	/** Bounds that hold 90 of 100; null where so little runs off now that what is held may be far stronger. */
	drainUsCm: Bounded | null;
	share: Bounded;
}

const DRAWS = 400;
const PRIMES = [2, 3, 5, 7, 11, 13] as const;
/** What one bag of a slab or pot holds where nobody said, and how widely that goes (common practice, no source). */
export const HELD_L = 8.5;
const HELD_SPREAD = 0.3;
/** Where somebody said. */
const SAID_SPREAD = 0.15;
/** Plants take solution somewhat weaker than their feed (common practice, no source; Sonneveld’s uptake concentrations, from memory). */
const TAKEN = { share: 0.82, spread: 0.12 };
/** Up to so much of what is given finds a way past what the medium holds (common practice, no source): the drain is weaker than that. */
const PAST = 0.3;
/** With less than this running off what went past may be most of it: the drain says nothing of what is held. */
const SAYS_LITTLE = 0.2;
/** Bags differ, and trays stand under few of them: standard deviation of what they let out, as a share (common practice, no source). */
const BAGS_DIFFER = 0.12;
/** One day’s drinking beside another’s, by the weather: standard deviation of its logarithm (common practice, no source). */
const WEATHER = 0.25;

/**
 * The drain after so many days, and the share that runs off then.
 * @param next litres a day and feed of the watering to come
 * @param days 0.1 to 30
 * @example drainAhead({ feedUsCm: 1500, drainUsCm: 3000, drainU: 60, givenL: 40, shareU: 0.03, drunkL: 30, heldL: 100, bags: 12 }, { givenL: 48, feedUsCm: 1500 }, 4).drainUsCm?.value // 2796.2
 */
export function drainAhead(now: Watered, next: { givenL: number; feedUsCm: number }, days: number): Ahead {
	const drains: number[] = [];
	const shares: number[] = [];
	for (let n = 1; n <= DRAWS; n++) {
		const z = PRIMES.map((p) => normalAt(n, p));
		const held =
			now.heldL === null
				? now.bags * HELD_L * Math.exp(HELD_SPREAD * z[0]!)
				: now.heldL * Math.exp(SAID_SPREAD * z[0]!);
		const uptake = now.feedUsCm * Math.min(1.1, TAKEN.share + TAKEN.spread * z[1]!);
		const drunk =
			now.drunkL * Math.exp(WEATHER * z[3]!) * (1 + (now.shareU * z[4]!) / Math.max(0.2, now.drunkL / now.givenL));
		const past = Math.min(PAST * halton(n, PRIMES[2]), 0.8 * Math.max(0, 1 - now.drunkL / now.givenL));
		const drainedNow = Math.max(0.02 * now.givenL, now.givenL - now.drunkL);
		// What is held is stronger than the drain by what went past it.
		const holds =
			(now.drainUsCm * (1 + BAGS_DIFFER * z[4]!) * drainedNow - past * now.givenL * now.feedUsCm) /
			(drainedNow - past * now.givenL);
		// Something always runs off where bags differ.
		const drained = Math.max((0.02 + past) * next.givenL, next.givenL - drunk);
		const [through, around] = [drained - past * next.givenL, past * next.givenL];
		const share = drained / next.givenL;
		// A weaker feed is taken weaker.
		const taken = uptake * (1 - 0.5 * (1 - next.feedUsCm / now.feedUsCm));
		const wets = next.givenL - around;
		const settles = Math.max(0.3 * next.feedUsCm, drainEcAt(through / wets, next.feedUsCm, taken));
		const left = settles + (holds - settles) * Math.exp((-through * days) / held);
		drains.push(
			(left * through + next.feedUsCm * around) / drained + Math.hypot(now.drainU, BAGS_DIFFER * now.drainUsCm) * z[5]!,
		);
		shares.push(share);
	}
	const says = now.drunkL < (1 - SAYS_LITTLE) * now.givenL;
	return { drainUsCm: says ? of(drains) : null, share: of(shares) };
}

function of(draws: number[]): Bounded {
	const sorted = Float64Array.from(draws).sort();
	const at = (p: number) => sorted[Math.round(p * (sorted.length - 1))]!;
	return { value: at(0.5), low: at(0.05), high: at(0.95) };
}
