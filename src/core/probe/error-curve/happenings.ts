import type { Happening } from './gate';
import type { Pair, Sighting } from './pairs';
import { leverOf } from './slope';
import { type Stretch, wander } from './stretch';

/**
 * What calibrations, accidents and pairs tell the joint filter of the deviation of a probe.
 */
/** A stretch begins: what its visit, or what happened to the probe, leaves known. */
export const beginning = (quantity: 'ph' | 'ec', probe: number, s: Stretch, restless = wander(quantity, s.drift)) => ({
	at: s.from,
	kind: 'set' as const,
	probe,
	variance: s.startVariance,
	told: s.startTold,
	wander: restless,
});

/** At its end the error met the line that was drawn there. */
export const lineMet = (probe: number, s: Stretch, variance: number): Happening => ({
	at: s.to,
	kind: 'standard',
	probe,
	value: 0,
	variance,
	lever: s.endTold.lever,
	slope: s.endTold.slope === null ? null : { value: 0, variance: s.endTold.slope },
});

/**
 * What its visits and jumps do to the deviation from what was known before them.
 * @param usual what it showed of a stretch when it met others; null where it met none in it, absent where it never met any: what a
 * visit finds is then news to nobody, and the line says it
 */
export const visitsOf = (
	quantity: 'ph' | 'ec',
	probe: number,
	stretches: readonly Stretch[],
	usual?: ((s: Stretch) => number | null) | undefined,
): Happening[] =>
	stretches.slice(1).flatMap((s, i): Happening[] => {
		const before = stretches[i]!;
		const set = beginning(quantity, probe, s);
		return usual && before.endVariance !== null && before.last
			? [surprise(quantity, probe, before, before.endVariance, usual(before)), set]
			: [set];
	});

/** What a visit found less what was carried on to it: seen at what the probe was used for since its last one. */
function surprise(
	quantity: 'ph' | 'ec',
	probe: number,
	before: Stretch,
	variance: number,
	usual: number | null,
): Happening {
	const { low, high } = before.span!;
	const value = usual ?? low;
	const { lever, slope } = before.endTold;
	const by = (v: number) => (before.lineAt(v, before.to) - before.knownAt(v)) / (quantity === 'ph' ? 1 : v);
	const reach = leverOf(quantity, high) - leverOf(quantity, low);
	return {
		at: before.to,
		kind: 'standard',
		probe,
		value: by(value),
		variance,
		lever: slope === null ? lever : leverOf(quantity, value),
		slope: slope === null || !(reach > 0) ? null : { value: (by(high) - by(low)) / reach, variance: slope },
	};
}

/** What a pair tells; null where it tells nothing. */
export function metBy(
	quantity: 'ph' | 'ec',
	pair: Pair,
	id: number,
	of: {
		placeOf: (code: string) => number;
		/** Of a drop kit; nothing for a probe. */
		halfStepOf: (code: string) => number;
		/** What was shown, less what is believed of its probe beside the deviation. */
		corrected: (s: Sighting) => number;
	},
): (Happening & { kind: 'pair' }) | null {
	const [va, vb] = [of.corrected(pair.a), of.corrected(pair.b)];
	const value = quantity === 'ph' ? va - vb : Math.log(va / vb);
	if (!Number.isFinite(value)) return null;
	const dipped = (s: Sighting) => ({ probe: of.placeOf(s.probe), lever: leverOf(quantity, s.value) });
	return {
		at: pair.at,
		kind: 'pair',
		a: dipped(pair.a),
		b: dipped(pair.b),
		value,
		// The same water shows the same colour again: what rounding to a colour errs by does not average out.
		noise: Math.hypot(pair.noise, of.halfStepOf(pair.a.probe), of.halfStepOf(pair.b.probe)),
		id,
	};
}
