import type { Pair } from './error-curve/pairs';
import type { ProbeOfSite } from './error-curve/probe-errors';
import { SiteErrors } from './error-curve/site-errors';
import { stretchAt } from './error-curve/stretch';
import { type ErrorBelief, errorBelief } from './timeline';

/** What a reading's error is known from, and how much each of it counted. */
export interface Evidence {
	/** By everything. */
	all: ErrorBelief;
	/** By the calibrations before and after it alone. */
	calibrations: ErrorBelief;
	/** Calibrations of its stretch; null where there is none on that side. */
	from: number | null;
	to: number | null;
	beside: {
		other: string;
		/** Waters that both were dipped into in the stretch, and how many of them counted. */
		times: number;
		counted: number;
		/** Part of what is known that would not be without them, 0 to 1: 1 − u²/u²(without). */
		share: number;
	}[];
}

/**
 * The evidence for the error of one reading: the curve is followed once with everything, once with calibrations alone, and once
 * without each other probe that it met.
 * @param at milliseconds since 1970
 * @param value as shown, pH or µS/cm
 */
export function evidenceOf(
	quantity: 'ph' | 'ec',
	probes: readonly ProbeOfSite[],
	pairs: readonly Pair[],
	reading: { probe: string; at: number; value: number },
): Evidence {
	const { probe, at, value } = reading;
	const believe = (some: readonly Pair[]) => {
		const errors = new SiteErrors(quantity, probes, some).of(probe)!;
		return { errors, belief: errorBelief(quantity, errors, at, value) };
	};
	const whole = believe(pairs);
	const stretch = stretchAt(whole.errors.stretches, at);
	const met = new Map<string, { times: number; counted: number }>();
	for (const p of whole.errors.pairsIn(stretch)) {
		// After the last visit only what was known then counts.
		if (!Number.isFinite(stretch.to) && p.at > at) continue;
		const one = met.get(p.other) ?? { times: 0, counted: 0 };
		one.times++;
		if (p.weight > 0) one.counted++;
		met.set(p.other, one);
	}
	const own = (p: Pair, other: string) =>
		(p.a.probe === probe && p.b.probe === other) || (p.b.probe === probe && p.a.probe === other);
	return {
		all: whole.belief,
		calibrations: believe([]).belief,
		from: stretch.first?.at ?? null,
		to: stretch.last?.at ?? null,
		beside: [...met].map(([other, m]) => {
			const without = believe(pairs.filter((p) => !own(p, other))).belief.u;
			return { other, ...m, share: without > 0 ? Math.max(1 - (whole.belief.u / without) ** 2, 0) : 0 };
		}),
	};
}
