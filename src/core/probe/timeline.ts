import { type DriftInterval, type DriftModel, learnDrift } from './drift';
import { errorCurve, type FoundPoint } from './error-curve';
import { restateBy, startOf } from './restate';

/**
 * One probe's calibrations and jumps in order of time, and every reading it took put right between them.
 *
 * Jumps (dropped, dried out, cleaned) split an interval, since the error is not linear across them. With nothing
 * measured at the jump, readings before it are left as they are, only wider; readings after it carry the error of the
 * next as-found. Cleaning with the same water read before and after it gives fouling its own correction, growing from
 * the last adjustment or cleaning. A restated value's uncertainty holds both calibrations' and the bridge between
 * them, σ_d²·(t − t1)(t2 − t)/(t2 − t1).
 */
const DAY = 86_400_000;

export interface TimelinePoint {
	nominal: number;
	asFound: number | null;
	asLeft: number | null;
	/** Standard uncertainty of the standard, pH or µS/cm. */
	u?: number | undefined;
}
export interface TimelineCalibration {
	id: number;
	at: number;
	kind: 'check' | 'adjust';
	points: readonly TimelinePoint[];
	/** Two meters err alike in this bottle and no second lot has agreed. */
	provisional?: boolean | undefined;
}
export interface TimelineJump {
	at: number;
	kind: string;
	/** The same water read before and after cleaning. */
	before?: number | null | undefined;
	after?: number | null | undefined;
}
export interface TimelineReading {
	id: number;
	at: number;
	value: number;
	/** Standard uncertainty of the instrument alone, stated accuracy and all. */
	u: number;
	/** The same without the part of the accuracy that is a constant of the instrument: calibrations measure that. */
	uRepeat?: number | undefined;
}
export interface Thresholds {
	leaveAlone: number;
	reject: number;
}
/** The grower's defaults, tighter than the ±0.2 pH and ±3 % of the published criteria; beyond 2 pH or 30 % a reading is rejected. */
export const THRESHOLDS: Record<'ph' | 'ec', Thresholds> = {
	ph: { leaveAlone: 0.1, reject: 2 },
	ec: { leaveAlone: 3, reject: 30 },
};

export type TimelineStatus =
	| 'restated'
	| 'left-alone' // the error is too small to matter
	| 'rejected' // the error is too large to be corrected
	| 'before-jump' // a jump follows before the next as-found
	| 'not-yet' // after the last calibration
	| 'before-first'
	| 'unusable'; // the calibrations around it give no error curve

export interface TimelineOutcome {
	id: number;
	status: TimelineStatus;
	value: number;
	error: number;
	/** Standard uncertainty now: instrument, standards and drift together. */
	u: number;
	parts: { instrument: number; standards: number; drift: number };
	from: number | null;
	to: number | null;
	provisional: boolean;
	/** The standards do not bracket the value: wider. */
	partial: boolean;
	fouling: number;
}

const asFound = (c: TimelineCalibration): FoundPoint[] =>
	c.points.flatMap((p) => (p.asFound === null ? [] : [{ nominal: p.nominal, found: p.asFound }]));
const asLeft = (c: TimelineCalibration): FoundPoint[] =>
	c.points.flatMap((p) => (p.asLeft === null ? [] : [{ nominal: p.nominal, found: p.asLeft }]));
/** What the probe was worth just after a calibration. */
const after = (c: TimelineCalibration): FoundPoint[] => (c.kind === 'check' ? asFound(c) : asLeft(c));

function meanError(quantity: 'ph' | 'ec', points: readonly FoundPoint[]): number | null {
	if (points.length === 0) return null;
	return (
		points.reduce(
			(sum, p) => sum + (quantity === 'ph' ? p.found - p.nominal : (100 * (p.found - p.nominal)) / p.nominal),
			0,
		) / points.length
	);
}

/** Errors grown between successive calibrations: what the drift model learns from. Intervals with a jump tell of the jump. */
export function driftIntervals(
	quantity: 'ph' | 'ec',
	calibrations: readonly TimelineCalibration[],
	jumps: readonly TimelineJump[],
): DriftInterval[] {
	const intervals: DriftInterval[] = [];
	// A new probe has a history of its own.
	const since = jumps
		.filter((j) => j.kind === 'new_probe')
		.reduce((latest, j) => Math.max(latest, j.at), Number.NEGATIVE_INFINITY);
	for (let i = 1; i < calibrations.length; i++) {
		const from = calibrations[i - 1]!;
		const to = calibrations[i]!;
		const end = meanError(quantity, asFound(to));
		if (end === null || from.at < since || jumps.some((j) => j.at > from.at && j.at <= to.at)) continue;
		intervals.push({ days: (to.at - from.at) / DAY, grown: end - (meanError(quantity, after(from)) ?? 0) });
	}
	return intervals;
}

/** Independent standard uncertainties together. (Math.hypot guards against overflow, at ten times the cost.) */
const together = (a: number, b: number, c = 0): number => Math.sqrt(a * a + b * b + c * c);

/** Index of the last element at or before a time, −1 for none. */
function lastAtOrBefore(list: readonly { at: number }[], at: number): number {
	let low = 0;
	let high = list.length;
	while (low < high) {
		const middle = (low + high) >> 1;
		if (list[middle]!.at <= at) low = middle + 1;
		else high = middle;
	}
	return low - 1;
}

const standardsU = (c: TimelineCalibration | undefined): number =>
	c ? Math.max(0, ...c.points.map((p) => p.u ?? 0)) : 0;

export interface Timeline {
	drift: DriftModel;
	outcomes: TimelineOutcome[];
}

/** Every reading of a probe put right by the calibrations around it, with its uncertainty; linear in readings. Jumps split the interval they lie in. */
export function restateTimeline(
	quantity: 'ph' | 'ec',
	readings: readonly TimelineReading[],
	calibrationsAnyOrder: readonly TimelineCalibration[],
	jumpsAnyOrder: readonly TimelineJump[] = [],
	thresholds: Thresholds = THRESHOLDS[quantity],
): Timeline {
	const calibrations = [...calibrationsAnyOrder].sort((a, b) => a.at - b.at || a.id - b.id);
	const jumps = [...jumpsAnyOrder].sort((a, b) => a.at - b.at);
	const drift = learnDrift(quantity, driftIntervals(quantity, calibrations, jumps));
	const known = calibrations.map((c) => ({
		...c,
		found: errorCurve(quantity, asFound(c)),
		left: startOf(quantity, c.kind, after(c)),
		single: asFound(c).length === 1,
		standardsU: standardsU(c),
	}));
	// Only a cleaning that was read before and after tells of fouling.
	const fouled = jumps.some((j) => j.before != null && j.after != null);
	const inUnits = (share: number, value: number) => (quantity === 'ph' ? share : (share / 100) * Math.abs(value));
	const outcomes = readings.map((r): TimelineOutcome => {
		const i = lastAtOrBefore(calibrations, r.at);
		const from = known[i];
		const to = known[i + 1];
		const sigma = inUnits(drift.sigmaPerRootDay, r.value);
		const lastAdjust = from ? (r.at - from.at) / DAY : null;
		const nextJump = jumps[lastAtOrBefore(jumps, r.at) + 1];
		const lastJump = jumps[lastAtOrBefore(jumps, r.at)];
		const jumpAfter = nextJump && to && nextJump.at <= to.at ? nextJump : null;
		const jumpBefore = lastJump && from && lastJump.at > from.at ? lastJump : null;
		const fouling = fouled ? foulingAt(quantity, r, jumps, calibrations) : 0;
		const result = (status: TimelineStatus, error: number, driftU: number, partial = false): TimelineOutcome => {
			const applied = status === 'restated';
			const total = (applied ? error : 0) + fouling;
			const between = status === 'restated' || status === 'left-alone';
			const parts = {
				instrument: between ? (r.uRepeat ?? r.u) : r.u,
				standards: together(from?.standardsU ?? 0, applied ? (to?.standardsU ?? 0) : 0),
				drift: driftU * (partial ? 1.5 : 1),
			};
			return {
				id: r.id,
				status: fouling !== 0 && status !== 'rejected' ? 'restated' : status,
				value: r.value - total,
				error: status === 'left-alone' || status === 'rejected' ? error : total,
				u: together(parts.instrument, parts.standards, parts.drift),
				parts,
				from: from?.id ?? null,
				to: applied ? (to?.id ?? null) : null,
				provisional: applied && to?.provisional === true,
				partial,
				fouling,
			};
		};
		const openU = (days: number) => together(sigma * Math.sqrt(days), inUnits(drift.ratePerDay, r.value) * days);
		// Never calibrated before: as if a month had passed since it was right.
		if (!from) return result('before-first', 0, openU(30));
		const days = lastAdjust ?? 0;
		if (!to)
			return result(jumpBefore ? 'before-jump' : 'not-yet', 0, jumpBefore ? 2 * openU(Math.max(days, 1)) : openU(days));
		// What cleaning took away was fouling and is put right by itself; it is no unknown jump.
		const unknownJump = jumpAfter && !(jumpAfter.before != null && jumpAfter.after != null) ? jumpAfter : null;
		if (unknownJump && !jumpBefore) return result('before-jump', 0, openU(days));
		const start =
			jumpBefore && (jumpBefore.before == null || jumpBefore.after == null)
				? { at: jumpBefore.at, curve: to.found }
				: { at: from.at, curve: from.left };
		if (unknownJump) return result('before-jump', 0, 2 * openU(Math.max(days, 1)));
		const found = restateBy({
			quantity,
			value: r.value - fouling,
			takenAt: r.at,
			from: start,
			to: { at: to.at, curve: to.found },
			thresholds,
		});
		if (!found.ok) return result('unusable', 0, openU(days));
		const { error, why } = found.value;
		const span = (to.at - start.at) / DAY;
		const d1 = (r.at - start.at) / DAY;
		const bridge =
			start.at > from.at
				? sigma * Math.sqrt(Math.max((to.at - r.at) / DAY, 0))
				: sigma * Math.sqrt(Math.max((d1 * (span - d1)) / span, 0));
		const curve = to.found;
		const room = quantity === 'ph' ? 1 : 0;
		const partial =
			curve.ok &&
			(to.single
				? quantity === 'ph' && Math.abs(r.value - curve.value.low) > 1.5
				: r.value < curve.value.low - room ||
					r.value > curve.value.high + (quantity === 'ph' ? room : curve.value.high * 0.5));
		const status = why === 'rejected' ? 'rejected' : why === 'leave-alone' ? 'left-alone' : 'restated';
		return result(
			status,
			error,
			status === 'restated' ? bridge : together(bridge, status === 'left-alone' ? error : 0),
			partial,
		);
	});
	return { drift, outcomes };
}

/** Fouling grown linearly from the last adjustment or cleaning to a cleaning that was read before and after. */
function foulingAt(
	quantity: 'ph' | 'ec',
	r: TimelineReading,
	jumps: readonly TimelineJump[],
	calibrations: readonly TimelineCalibration[],
): number {
	const cleaning = jumps.find((j) => j.at >= r.at && j.before != null && j.after != null);
	if (!cleaning) return 0;
	const earlierCleaning =
		jumps.filter((j) => j.kind === 'cleaned' && j.at <= r.at).at(-1)?.at ?? Number.NEGATIVE_INFINITY;
	const adjusted = calibrations.filter((c) => c.at <= r.at).at(-1)?.at ?? Number.NEGATIVE_INFINITY;
	const start = Math.max(earlierCleaning, adjusted);
	// An adjustment in between would have taken the fouling up into the calibration.
	if (!Number.isFinite(start) || calibrations.some((c) => c.at > r.at && c.at < cleaning.at)) return 0;
	const share = (r.at - start) / (cleaning.at - start);
	const whole = cleaning.before! - cleaning.after!;
	return quantity === 'ph' ? whole * share : cleaning.before! > 0 ? (whole / cleaning.before!) * r.value * share : 0;
}
