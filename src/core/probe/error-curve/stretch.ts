import type { DriftModel } from '../drift';
import { PRIOR_SIGMA } from '../drift';
import { type FoulingSpan, foulingAt, foulingSpans, toldOfFouling } from './fouling';
import { type Curve, type ErrorCurve, errorCurve, type FoundPoint } from './in-standards';

/**
 * The time of a probe cut at its calibrations and at what happened to it. In each stretch calibrations alone draw a line through the
 * error (USGS TM 1–D3): straight in time between two of them; as it was left, carried on, after the last and before a jump; as it was
 * found, carried back, from a jump to the next. What the error truly did beside that line is what the joint filter follows.
 */
const DAY = 86_400_000;
/** A probe that nobody has put in a standard is worth what one is after a month without (common practice, no source). */
export const UNKNOWN_DAYS = 30;

export interface StandardPoint {
	nominal: number;
	asFound: number | null;
	asLeft: number | null;
	/** Standard uncertainty of the standard, pH or µS/cm. */
	u?: number | undefined;
}
export interface ProbeCalibration {
	id: number;
	at: number;
	kind: 'check' | 'adjust';
	points: readonly StandardPoint[];
	/** Two meters err alike in this bottle and no second lot has agreed. */
	provisional?: boolean | undefined;
}
export interface ProbeJump {
	at: number;
	kind: string;
	before?: number | null | undefined;
	after?: number | null | undefined;
}

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
	/** Variance of the deviation from the line at the beginning: pH², or share² for EC. */
	startVariance: number;
	/** With what variance the standards at the end show the deviation to be nothing; null where they do not. */
	endVariance: number | null;
	/** Values that the standards at its end span; null where nothing is known. */
	span: { low: number; high: number; single: boolean } | null;
	/** Something happened to the probe since it was last in a standard. */
	upset: boolean;
}

const asFound = (c: ProbeCalibration): FoundPoint[] =>
	c.points.flatMap((p) => (p.asFound === null ? [] : [{ nominal: p.nominal, found: p.asFound }]));
const asLeft = (c: ProbeCalibration): FoundPoint[] =>
	c.points.flatMap((p) => (p.asLeft === null ? [] : [{ nominal: p.nominal, found: p.asLeft }]));
/** What the probe was worth just after a calibration. */
const after = (c: ProbeCalibration): FoundPoint[] => (c.kind === 'check' ? asFound(c) : asLeft(c));

const sizeOf = (quantity: 'ph' | 'ec', p: FoundPoint) =>
	quantity === 'ph' ? p.found - p.nominal : (100 * (p.found - p.nominal)) / p.nominal;
/** Mean error of what was read in standards, pH or percent; null for none. */
export function meanError(quantity: 'ph' | 'ec', points: readonly FoundPoint[]): number | null {
	if (points.length === 0) return null;
	return points.reduce((sum, p) => sum + sizeOf(quantity, p), 0) / points.length;
}
export const foundError = (quantity: 'ph' | 'ec', c: ProbeCalibration) => meanError(quantity, asFound(c));
export const leftError = (quantity: 'ph' | 'ec', c: ProbeCalibration) => meanError(quantity, after(c));
const largest = (quantity: 'ph' | 'ec', points: readonly FoundPoint[]): number =>
	Math.max(0, ...points.map((p) => Math.abs(sizeOf(quantity, p))));

/** The largest standard uncertainty of the bottles of a calibration: pH, or share for EC. */
export const standardsU = (quantity: 'ph' | 'ec', c: ProbeCalibration): number =>
	Math.max(0, ...c.points.map((p) => (quantity === 'ph' ? (p.u ?? 0) : (p.u ?? 0) / p.nominal)));

/** Variance of the error of a probe that nobody knows: pH², or share² for EC. */
export function unknownVariance(quantity: 'ph' | 'ec', drift: DriftModel): number {
	const sigma = Math.max(PRIOR_SIGMA[quantity], drift.wanderPerRootDay);
	return (quantity === 'ph' ? sigma ** 2 : (sigma / 100) ** 2) * UNKNOWN_DAYS;
}

const nothing = () => 0;
const carried = (curve: ErrorCurve | null) => (curve ? (value: number) => curve.errorAt(value) : nothing);

/**
 * The record of one probe, oldest first, as stretches that cover all time.
 * @param calibrations ascending in time; @param jumps ascending in time
 */
export function stretchesOf(
	quantity: 'ph' | 'ec',
	calibrations: readonly ProbeCalibration[],
	jumps: readonly ProbeJump[],
	drift: DriftModel,
): { stretches: Stretch[]; fouling: FoulingSpan[] } {
	const unknown = unknownVariance(quantity, drift);
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
	let firstVariance = unknown;
	for (let i = -1; i < calibrations.length; i++) {
		const next = calibrations[i + 1] ?? null;
		if (i >= 0) {
			const c = calibrations[i]!;
			const curve = begin(c);
			// A check that gave no curve leaves what was known before.
			if (curve === null || curve.ok || c.kind === 'adjust') left = curve?.ok ? curve.value : null;
			first = c;
			firstVariance = curve && !curve.ok ? unknown : standardsU(quantity, c) ** 2;
		}
		const from = first?.at ?? Number.NEGATIVE_INFINITY;
		const to = next?.at ?? Number.POSITIVE_INFINITY;
		if (!(to > from)) continue;
		const inside = unknownJumps.filter((j) => j.at > from && j.at <= to);
		const found = next ? errorCurve(quantity, clean(asFound(next), next.at)) : null;
		const end = found?.ok ? found.value : null;
		const endVariance = next && end ? standardsU(quantity, next) ** 2 : null;
		const span =
			end && next ? { low: end.low, high: end.high, single: clean(asFound(next), next.at).length === 1 } : null;
		const startVariance = firstVariance;
		const visitedAtStart = first ? largest(quantity, clean(after(first), first.at)) : 0;
		const visitedAtEnd = next ? largest(quantity, clean(asFound(next), next.at)) : 0;
		const base = { first, upset: false, span: null, last: null, endVariance: null };
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
					last: measured ? next : null,
					endVariance: measured ? endVariance : null,
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
			span,
		});
	}
	return { stretches, fouling };
}

/** The stretch that a time lies in. */
export function stretchAt(stretches: readonly Stretch[], at: number): Stretch {
	let low = 0;
	let high = stretches.length - 1;
	while (low < high) {
		const middle = (low + high + 1) >> 1;
		if (stretches[middle]!.from <= at) low = middle;
		else high = middle - 1;
	}
	return stretches[low]!;
}

/** Variance that a wandering error gains in so long: pH², or share² for EC. */
export const wander = (quantity: 'ph' | 'ec', drift: DriftModel, ms: number): number =>
	((quantity === 'ph' ? drift.wanderPerRootDay : drift.wanderPerRootDay / 100) ** 2 * Math.max(ms, 0)) / DAY;
