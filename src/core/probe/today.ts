import type { ProbeErrors } from './error-curve/probe-errors';
import type { SiteErrors } from './error-curve/site-errors';
import { USUAL } from './error-curve/slope';
import { stretchAt } from './error-curve/stretch';
import { errorBelief, isTold, THRESHOLDS } from './timeline';

/**
 * What is known of a probe's error today, before anybody dips it: carried on from its last visit, and told by whom it met since.
 */
const DAY = 86_400_000;
/** Standard deviation of a reading in a fresh standard: pH, share for EC (common practice, no source). */
const DIP = { ph: 0.02, ec: 0.007 } as const;

export interface ErrorToday {
	/** Of what it usually shows: pH, or percent. */
	error: number;
	/** Standard uncertainty of that. */
	u: number;
	/** Beyond what may be left alone, and known well enough to say so. */
	told: boolean;
	/** Who says so: probes that it met since its last visit, in order of how often, and how often they told the same way. */
	met: { other: string; times: number; alike: number }[];
	/** It was found so at the last visit and not adjusted. */
	carried: boolean;
	/** The value that it is told of. */
	value: number;
}

/**
 * The error of a probe today.
 * @param now milliseconds since 1970
 */
export function errorToday(quantity: 'ph' | 'ec', errors: ProbeErrors, now: number): ErrorToday {
	const stretch = stretchAt(errors.stretches, now);
	const all = errors.pairsIn(stretch).filter((p) => p.at <= now);
	const pairs = all.filter((p) => p.weight > 0);
	const value = pairs.at(-1)?.value ?? USUAL[quantity];
	const belief = errorBelief(quantity, errors, now, value, stretch);
	const heard = pairs.at(-1)?.at ?? stretch.from;
	const rate = Number.isFinite(heard) ? (stretch.drift.ratePerDay * Math.max(now - heard, 0)) / DAY : 0;
	const met = new Map<string, { other: string; times: number; alike: number }>();
	for (const p of all) {
		const one = met.get(p.other) ?? { other: p.other, times: 0, alike: 0 };
		one.times++;
		if (Math.sign(p.value - p.otherValue) === Math.sign(belief.error)) one.alike++;
		met.set(p.other, one);
	}
	const u = Math.hypot(belief.u, rate);
	return {
		error: belief.error,
		u,
		told: isTold({ error: belief.error, u }, THRESHOLDS[quantity].leaveAlone),
		met: [...met.values()].sort((a, b) => b.times - a.times),
		carried: stretch.first?.kind === 'check' && !stretch.upset && stretch.visited >= THRESHOLDS[quantity].leaveAlone,
		value,
	};
}

/** Two probes that met, and cannot both be right. */
export interface Apart {
	a: string;
	b: string;
	/** Error of the first less that of the second: pH, or percent; and its standard uncertainty. */
	by: number;
	u: number;
}
/** Two probes may each be off by what may be left alone before they are said to be apart. */
const APART = 1.5;

/**
 * Probes that are further apart than what may be left alone explains, where it is not known which of the two is wrong.
 * @param told those of which it is known
 */
export function apartToday(
	quantity: 'ph' | 'ec',
	site: SiteErrors,
	probes: readonly string[],
	now: number,
	told: ReadonlySet<string>,
): Apart[] {
	const found: Apart[] = [];
	for (const [i, a] of probes.entries())
		for (const b of probes.slice(i + 1)) {
			if (told.has(a) || told.has(b)) continue;
			const apart = site.apart(a, b, now, USUAL[quantity]);
			if (!apart) continue;
			const k = quantity === 'ph' ? 1 : 100;
			const belief = { error: k * apart.mean, u: k * Math.sqrt(apart.variance) };
			if (isTold(belief, APART * THRESHOLDS[quantity].leaveAlone)) found.push({ a, b, by: belief.error, u: belief.u });
		}
	return found;
}

/**
 * The one dip in a standard that would tell most of all probes together: what it takes from the sum of their variances, each in parts
 * of its tolerance. A probe that met others tells of them too.
 * @param probes that can be dipped
 * @param tolerance pH, or percent
 * @returns the probe, and the share of all that is unknown that its dip would take; null where nothing is unknown
 */
export function cheapestDip(
	quantity: 'ph' | 'ec',
	site: SiteErrors,
	probes: readonly string[],
	now: number,
	tolerance: number,
): { code: string; takes: number; whole: number } | null {
	const unit = quantity === 'ph' ? tolerance : tolerance / 100;
	let whole = 0;
	let best: { code: string; takes: number } | null = null;
	for (const { codes, cov } of site.covariances(now)) {
		const n = codes.length;
		const counted = codes.map((c) => probes.includes(c));
		for (let j = 0; j < n; j++) if (counted[j]) whole += cov[j * n + j]! / unit ** 2;
		for (let i = 0; i < n; i++) {
			if (!counted[i]) continue;
			const variance = cov[i * n + i]! + DIP[quantity] ** 2;
			let takes = 0;
			for (let j = 0; j < n; j++) if (counted[j]) takes += cov[i * n + j]! ** 2 / variance / unit ** 2;
			if (takes > (best?.takes ?? 0)) best = { code: codes[i]!, takes };
		}
	}
	return best && { ...best, whole };
}
