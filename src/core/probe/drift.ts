import { MAD_TO_SIGMA, median } from '../series/robust';
import { normalCdf } from './normal';

/**
 * How a probe drifts, from its own as-found history: a steady rate and a random walk of σ_d per root day.
 *
 * Units: pH for a pH probe, percent of the reading for EC. Robust by medians; while fewer than four intervals are
 * known, shrunk towards a prior: what weekly calibration implies at a tolerance of 0.2 pH and 3 %.
 */
export interface DriftInterval {
	days: number;
	/** Error grown over the interval: as found at its end minus as left at its beginning. */
	grown: number;
}

export interface DriftModel {
	ratePerDay: number;
	sigmaPerRootDay: number;
	/**
	 * Root mean square of what it grew per root day, rate, jumps and all: how far its error may have got between two visits, when other
	 * evidence is weighed against it. Never learned from so little that chance makes a restless probe look quiet.
	 */
	wanderPerRootDay: number;
	/** The same about its steady rate, which two visits show: how far it may have been from the straight line between them. */
	bridgePerRootDay: number;
	/** How often it jumps without a word, as far as its own intervals and those of probes in general tell. */
	jumpsPerDay: number;
	/** Intervals behind it; the prior alone for none. */
	from: number;
}

export const PRIOR_SIGMA = { ph: 0.04, ec: 0.58 } as const;
export const TOLERANCE = { ph: 0.2, ec: 3 } as const;
const ENOUGH = 4;
/** Older intervals tell of another probe than it is now. */
export const MOST_INTERVALS = 20;
/** Shorter than this, an interval tells of the standards' noise and not of drift. */
const SHORTEST_DAYS = 0.5;

/**
 * How a probe drifts between calibrations: a rate, a random walk and rare jumps, learned from its own intervals and held by what
 * probes usually do while they are few.
 * @param step of the display, pH or percent: half of it may have grown in any interval unseen
 */
export function learnDrift(quantity: 'ph' | 'ec', intervals: readonly DriftInterval[], step = 0): DriftModel {
	const prior = PRIOR_SIGMA[quantity];
	const used = intervals.filter((i) => i.days >= SHORTEST_DAYS && Number.isFinite(i.grown)).slice(-MOST_INTERVALS);
	const n = used.length;
	const wanderPerRootDay = spreadAbout(prior, used, 0);
	if (n === 0)
		return {
			ratePerDay: 0,
			sigmaPerRootDay: prior,
			wanderPerRootDay,
			bridgePerRootDay: wanderPerRootDay,
			jumpsPerDay: PRIOR_JUMPS / PRIOR_JUMP_DAYS,
			from: 0,
		};
	const steady = used.reduce((sum, i) => sum + i.grown, 0) / used.reduce((sum, i) => sum + i.days, 0);
	const bridgePerRootDay = spreadAbout(prior, used, steady);
	const rate = median(used.map((i) => i.grown / i.days)) * Math.min(n / ENOUGH, 1);
	const spread = MAD_TO_SIGMA * median(used.map((i) => Math.abs(i.grown - rate * i.days) / Math.sqrt(i.days)));
	// A median of few is itself uncertain: the t-like factor that keeps 95 % within tolerance.
	const seen = spread * Math.sqrt((n + 9) / n);
	const weight = Math.min(n / ENOUGH, 1);
	const sigma = Math.sqrt(weight * seen ** 2 + (1 - weight) * prior ** 2);
	const hidden = step / 2 / Math.sqrt(median(used.map((i) => i.days)));
	const sigmaPerRootDay = Math.max(sigma, prior * 0.1, hidden);
	const whole = used.reduce((sum, i) => sum + i.days, 0);
	const jumps = used.filter(
		(i) =>
			Math.abs(i.grown - rate * i.days) > Math.max(JUMPED * sigmaPerRootDay * Math.sqrt(i.days), JUMP[quantity] / 2),
	).length;
	const jumpsPerDay = (PRIOR_JUMPS + jumps) / (PRIOR_JUMP_DAYS + whole);
	return { ratePerDay: rate, sigmaPerRootDay, wanderPerRootDay, bridgePerRootDay, jumpsPerDay, from: n };
}

/** What grew beyond so many standard deviations was no walk. */
const JUMPED = 3.5;
/** A probe that jumps without a word does so by about as much: standard deviation, pH or percent (common practice, no source). */
export const JUMP = { ph: 0.3, ec: 5 } as const;
/** One in a year, known as if half a one had been seen in half of it: dropped, knocked or dried out unseen (common practice, no source). */
const PRIOR_JUMPS = 0.5;
const PRIOR_JUMP_DAYS = 180;

/** The prior counts as so many intervals. */
const PRIOR_COUNTS = 4;
/** One interval counts as no more than so many times the prior: a wrong bottle does not make a probe wild for ever. */
const WILDEST = 5;
/**
 * Root of the mean square of what grew per root day beside a rate, of the probe's own intervals and the prior's: posterior mean of a
 * variance under a conjugate prior; a rate that was estimated takes one degree of freedom.
 */
function spreadAbout(prior: number, intervals: readonly DriftInterval[], rate: number): number {
	const sum = intervals.reduce(
		(total, i) => total + Math.min((i.grown - rate * i.days) ** 2 / i.days, (WILDEST * prior) ** 2),
		0,
	);
	const freedom = intervals.length - (rate === 0 ? 0 : 1);
	return Math.sqrt((PRIOR_COUNTS * prior ** 2 + sum) / (PRIOR_COUNTS + Math.max(freedom, 0)));
}

export interface IntervalAdvice {
	days: number;
	reason: 'learned' | 'few-calibrations';
	/** Chance that the error is still within tolerance at the end. */
	chance: number;
}
export const SHORTEST_INTERVAL = 1;
export const LONGEST_INTERVAL = 60;
const WANTED = 0.95;

/**
 * Chance that |error| is within tolerance so many days after an adjustment: by rate and random walk, and by a jump that nobody noticed
 * in between (a Poisson process; one jump counts as several do).
 */
export function chanceWithin(model: DriftModel, quantity: 'ph' | 'ec', days: number, tolerance: number): number {
	const mean = model.ratePerDay * days;
	const within = (sd: number) => normalCdf((tolerance - mean) / sd) - normalCdf((-tolerance - mean) / sd);
	const walk = model.sigmaPerRootDay * Math.sqrt(days);
	const quiet = Math.exp(-model.jumpsPerDay * days);
	return quiet * within(walk) + (1 - quiet) * within(Math.hypot(walk, JUMP[quantity]));
}

/**
 * The longest interval at whose end the error is within tolerance with 95 % chance (in the spirit of OIML D 10 and
 * ILAC-G24), from 1 to 60 days. Weekly until three intervals of the probe's own are known.
 */
export function adviseInterval(
	model: DriftModel,
	quantity: 'ph' | 'ec',
	tolerance = TOLERANCE[quantity],
): IntervalAdvice {
	const chance = (days: number) => chanceWithin(model, quantity, days, tolerance);
	if (model.from < 3) return { days: 7, reason: 'few-calibrations', chance: chance(7) };
	let low = SHORTEST_INTERVAL;
	let high = LONGEST_INTERVAL;
	if (chance(high) >= WANTED) return { days: high, reason: 'learned', chance: chance(high) };
	while (high - low > 0.01) {
		const middle = (low + high) / 2;
		if (chance(middle) >= WANTED) low = middle;
		else high = middle;
	}
	return { days: low, reason: 'learned', chance: chance(low) };
}
