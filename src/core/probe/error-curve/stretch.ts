import { countWhile } from '../../series/search';
import { type DriftModel, learnDrift, MOST_INTERVALS, PRIOR_SIGMA } from '../drift';
import { driftIntervals } from './drift-intervals';
import { type FoulingSpan, foulingAt, foulingSpans, toldOfFouling } from './fouling';
import { type Curve, type ErrorCurve, errorCurve, type FoundPoint } from './in-standards';
import { type Told, toldAtEnd, toldAtStart, unknownSlope } from './slope';
import { after, asFound, largest, type ProbeCalibration, type ProbeJump, standardsU } from './visit';

/**
 * The time of a probe cut at its calibrations and at what happened to it. In each stretch calibrations alone draw a line through the
 * error (USGS TM 1–D3): straight in time between two of them; as it was left, carried on, after the last and before a jump; as it was
 * found, carried back, from a jump to the next. What the error truly did beside that line is what the joint filter follows.
 */
const DAY = 86_400_000;
/** A probe that nobody has put in a standard is worth what one is after a month without (common practice, no source). */
const UNKNOWN_DAYS = 30;

export type StretchKind =
	| 'before-first'
	| 'closed' // between two calibrations
	| 'open' // after the last
	| 'before-jump' // something happened to the probe before it was next in a standard
	| 'after-jump' // and from then on to that standard
	| 'unusable'; // the calibration at its end gives no error curve
export interface Stretch {
	kind: StretchKind;
	/** Milliseconds, from included, to excluded; infinite at the two ends of the record. */
	from: number;
	to: number;
	first: ProbeCalibration | null;
	/** The calibration that ends it, where that could be used. */
	last: ProbeCalibration | null;
	/** Error by calibrations alone of what was shown, in its unit. */
	lineAt: (value: number, at: number) => number;
	/** The same as it could be known before the calibration at its end: as it was left, carried on. */
	knownAt: (value: number) => number;
	/** Largest error that its calibrations found and that was there in it: pH, or percent for EC. */
	visited: number;
	/** Variance of the deviation from the line at the beginning: pH², or share² for EC; and where on the scale that holds. */
	startVariance: number;
	startTold: Told;
	/** With what variance the standards at the end show the deviation to be nothing; null where they do not. */
	endVariance: number | null;
	endTold: Told;
	/** Values that the standards at its end span; null where nothing is known. */
	span: { low: number; high: number; single: boolean } | null;
	/** Something happened to the probe since it was last in a standard. */
	upset: boolean;
	/** How it drifts, by the visits until it began, and by the one at its end too. */
	drift: DriftModel;
	driftAtEnd: DriftModel;
}

/** Variance of the error of a probe that nobody knows: pH², or share² for EC. */
function unknownVariance(quantity: 'ph' | 'ec', drift: DriftModel): number {
	const sigma = Math.max(PRIOR_SIGMA[quantity], drift.wanderPerRootDay);
	return (quantity === 'ph' ? sigma ** 2 : (sigma / 100) ** 2) * UNKNOWN_DAYS;
}

/** How a probe drifts by its first calibrations: none of them, one, and so on to all. */
function driftsOf(
	quantity: 'ph' | 'ec',
	calibrations: readonly ProbeCalibration[],
	jumps: readonly ProbeJump[],
): DriftModel[] {
	return [0, ...calibrations.map((_, i) => i + 1)].map((n) => {
		const until = calibrations[n - 1]?.at ?? Number.NEGATIVE_INFINITY;
		return learnDrift(
			quantity,
			driftIntervals(
				quantity,
				// What was learned from is the newest twenty; the one before begins the oldest of them.
				calibrations.slice(Math.max(n - 1 - MOST_INTERVALS, 0), n),
				jumps.filter((j) => j.at <= until),
			),
		);
	});
}

const nothing = () => 0;
const NOT_TOLD: Told = { lever: 0, slope: null };
const carried = (curve: ErrorCurve | null) => (curve ? (value: number) => curve.errorAt(value) : nothing);

/**
 * The record of one probe, oldest first, as stretches that cover all time.
 * @param calibrations ascending in time
 * @param jumps ascending in time
 */
export function stretchesOf(
	quantity: 'ph' | 'ec',
	calibrations: readonly ProbeCalibration[],
	jumps: readonly ProbeJump[],
): { stretches: Stretch[]; fouling: FoulingSpan[] } {
	const driftBy = driftsOf(quantity, calibrations, jumps);
	const fouling = foulingSpans(
		quantity,
		jumps,
		calibrations.filter((c) => c.kind === 'adjust').map((c) => c.at),
	);
	/** What was found without the fouling that it holds. */
	const clean = (points: FoundPoint[], at: number): FoundPoint[] => {
		const f = foulingAt(fouling, at);
		if (f === 0) return points;
		return points.map((p) => ({ nominal: p.nominal, found: quantity === 'ph' ? p.found - f : p.found * (1 - f) }));
	};
	const unknownJumps = jumps.filter((j) => !toldOfFouling(j));
	const stretches: Stretch[] = [];
	const begin = (c: ProbeCalibration): Curve | null => {
		const points = clean(after(c), c.at);
		// After an adjustment with nothing read afterwards the meter is taken to have been right.
		return c.kind === 'adjust' && points.length === 0 ? null : errorCurve(quantity, points);
	};
	let first: ProbeCalibration | null = null;
	let left: ErrorCurve | null = null;
	let firstVariance: number | null = null;
	let firstTold = NOT_TOLD;
	const loose: Told = { lever: 0, slope: unknownSlope(quantity) };
	for (let i = -1; i < calibrations.length; i++) {
		const next = calibrations[i + 1] ?? null;
		if (i >= 0) {
			const c = calibrations[i]!;
			const curve = begin(c);
			// A check that gave no curve leaves what was known before.
			if (curve === null || curve.ok || c.kind === 'adjust') left = curve?.ok ? curve.value : null;
			first = c;
			const usable = !curve || curve.ok;
			firstVariance = usable ? standardsU(quantity, c) ** 2 : null;
			firstTold = usable ? toldAtStart(quantity, c) : NOT_TOLD;
		}
		const from = first?.at ?? Number.NEGATIVE_INFINITY;
		const to = next?.at ?? Number.POSITIVE_INFINITY;
		if (!(to > from)) continue;
		const inside = unknownJumps.filter((j) => j.at > from && j.at <= to);
		const found = next ? errorCurve(quantity, clean(asFound(next), next.at)) : null;
		const end = found?.ok ? found.value : null;
		const endVariance = next && end ? standardsU(quantity, next) ** 2 : null;
		const endTold = next && end ? toldAtEnd(quantity, next) : NOT_TOLD;
		const span =
			end && next ? { low: end.low, high: end.high, single: clean(asFound(next), next.at).length === 1 } : null;
		const drift = driftBy[i + 1]!;
		const unknown = unknownVariance(quantity, drift);
		const startVariance = firstVariance ?? unknown;
		const visitedAtStart = first ? largest(quantity, clean(after(first), first.at)) : 0;
		const visitedAtEnd = next ? largest(quantity, clean(asFound(next), next.at)) : 0;
		const driftAtEnd = driftBy[i + 2] ?? drift;
		const base = {
			first,
			upset: false,
			span: null,
			last: null,
			endVariance: null,
			endTold: NOT_TOLD,
			startTold: firstTold,
			drift,
			driftAtEnd,
		};
		if (!first || inside.length > 0 || !next || !end) {
			const cut = inside[0]?.at ?? to;
			stretches.push({
				...base,
				kind: !first ? 'before-first' : inside.length > 0 ? 'before-jump' : next ? 'unusable' : 'open',
				from,
				to: cut,
				lineAt: carried(left),
				knownAt: carried(left),
				visited: visitedAtStart,
				startVariance,
			});
			for (const [k, jump] of inside.entries()) {
				const until = inside[k + 1]?.at ?? to;
				const measured = k === inside.length - 1 && end !== null && first !== null;
				if (jump.kind === 'new_probe') left = null;
				if (!(until > jump.at)) continue;
				stretches.push({
					...base,
					kind: measured ? 'after-jump' : first ? 'before-jump' : 'before-first',
					from: jump.at,
					to: until,
					lineAt: measured ? carried(end) : carried(left),
					knownAt: carried(left),
					visited: measured ? visitedAtEnd : visitedAtStart,
					startVariance: unknown,
					startTold: loose,
					last: measured ? next : null,
					endVariance: measured ? endVariance : null,
					endTold: measured ? endTold : NOT_TOLD,
					span: measured ? span : null,
					upset: true,
				});
			}
			continue;
		}
		const start = left;
		stretches.push({
			...base,
			kind: 'closed',
			from,
			to,
			lineAt: (value, at) => {
				const e1 = start ? start.errorAt(value) : 0;
				return e1 + ((end.errorAt(value) - e1) * (at - from)) / (to - from);
			},
			knownAt: carried(start),
			visited: Math.max(visitedAtStart, visitedAtEnd),
			startVariance,
			last: next,
			endVariance,
			endTold,
			span,
		});
	}
	return { stretches, fouling };
}

/** The stretch that a time lies in. */
export function stretchAt(stretches: readonly Stretch[], at: number): Stretch {
	return stretches[Math.max(countWhile(stretches, (s) => s.from <= at) - 1, 0)]!;
}

/** Variance that a wandering error gains in a millisecond: pH², or share² for EC. */
export const wander = (quantity: 'ph' | 'ec', drift: DriftModel): number =>
	(quantity === 'ph' ? drift.wanderPerRootDay : drift.wanderPerRootDay / 100) ** 2 / DAY;
/** The same about the straight line between two visits. */
export const bridgeWander = (quantity: 'ph' | 'ec', drift: DriftModel): number =>
	(quantity === 'ph' ? drift.bridgePerRootDay : drift.bridgePerRootDay / 100) ** 2 / DAY;
