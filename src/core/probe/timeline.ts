import { countWhile } from '../series/search';
import type { DriftModel } from './drift';
import { foulingAt } from './error-curve/fouling';
import type { Deviation } from './error-curve/joint-state';
import type { ProbeErrors } from './error-curve/probe-errors';
import { SiteErrors } from './error-curve/site-errors';
import { type Stretch, stretchAt } from './error-curve/stretch';
import { type ProbeCalibration, type ProbeJump, standardsU } from './error-curve/visit';

/**
 * Every reading that a probe took, put right by its error curve.
 *
 * What is put right is settled for a whole stretch at once, at the visit that ends it: by the criteria of USGS TM 1–D3 on the error
 * found at the visit, or where pairs with other probes show an error as large in between. So no season has a step where the error
 * passes a threshold. After the last visit a known error is carried on and taken off, and what pairs tell is believed once it is told.
 */
const DAY = 86_400_000;

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
/** An error is told where it is beyond the threshold with this many standard deviations to spare: 90 % of one side. */
const SURE = 1.2816;

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

export interface Timeline {
	drift: DriftModel;
	outcomes: TimelineOutcome[];
}

/** Independent standard uncertainties together. (Math.hypot guards against overflow, at ten times the cost.) */
const together = (a: number, b: number, c = 0): number => Math.sqrt(a * a + b * b + c * c);

/** What is believed of a probe's error at a time: of what it shows there, in its unit or percent of it. */
export interface ErrorBelief {
	/** pH, or percent. */
	error: number;
	/** Standard uncertainty of that. */
	u: number;
}

/** What is settled of a stretch as a whole. */
interface Settled {
	/** From when on its readings are put right; never for infinity. */
	rightFrom: number;
	/** And until when, in the last one: pairs may take back what pairs told. */
	changes: { at: number; right: boolean }[];
	rejected: boolean;
	/** Times of its pairs that counted. */
	met: number[];
	deviation: (at: number, value: number) => Deviation;
	/** Of the bottles of its calibrations: pH, or share for EC. */
	standards: number;
}

/** The error of a probe at a time, for what it then shows. */
export function errorBelief(
	quantity: 'ph' | 'ec',
	errors: ProbeErrors,
	at: number,
	value: number,
	stretch = stretchAt(errors.stretches, at),
): ErrorBelief {
	const { mean, variance } = errors.deviationAt(at, value);
	const line = stretch.lineAt(value, at);
	return quantity === 'ph'
		? { error: line + mean, u: Math.sqrt(variance) }
		: { error: 100 * (line / value + mean), u: 100 * Math.sqrt(variance) };
}

/** Whether an error is beyond what may be left alone, and known well enough to say so. */
export const isTold = ({ error, u }: ErrorBelief, leaveAlone: number): boolean =>
	Math.abs(error) - SURE * u >= leaveAlone - 1e-9;

function settle(quantity: 'ph' | 'ec', errors: ProbeErrors, stretch: Stretch, thresholds: Thresholds): Settled {
	const pairs = errors.pairsIn(stretch);
	const open = !Number.isFinite(stretch.to);
	const counted = pairs.filter((p) => (open ? p.whenNew : p.weight) > 0);
	const met = counted.map((p) => p.at);
	const rejected = stretch.visited > thresholds.reject + 1e-9;
	let right = stretch.visited >= thresholds.leaveAlone - 1e-9;
	const changes: Settled['changes'] = [];
	for (const p of counted) {
		const belief = errorBelief(quantity, errors, p.at, p.value, stretch);
		if (!right && isTold(belief, thresholds.leaveAlone)) {
			right = true;
			changes.push({ at: p.at, right });
		} else if (right && open && Math.abs(belief.error) + SURE * belief.u < thresholds.leaveAlone) {
			right = false;
			changes.push({ at: p.at, right });
		}
	}
	const atStart = stretch.visited >= thresholds.leaveAlone - 1e-9;
	// Before the visit nothing could be told; at the visit it is told for the whole stretch.
	return {
		rightFrom: open ? (atStart ? stretch.from : Infinity) : right ? stretch.from : Infinity,
		changes,
		rejected,
		met,
		deviation: errors.deviationIn(stretch),
		standards: Math.max(
			stretch.first ? standardsU(quantity, stretch.first) : 0,
			stretch.last ? standardsU(quantity, stretch.last) : 0,
		),
	};
}

/** What its error curve makes of single readings of a probe; what is settled of a stretch is worked out once. */
export function readOff(
	quantity: 'ph' | 'ec',
	errors: ProbeErrors,
	thresholds: Thresholds = THRESHOLDS[quantity],
): (r: TimelineReading) => TimelineOutcome {
	const settled = new Map<Stretch, Settled>();
	let stretch: Stretch | null = null;
	let whole: Settled | undefined;
	return (r) => {
		// They mostly come in order.
		if (!stretch || !whole || r.at < stretch.from || r.at >= stretch.to) {
			stretch = stretchAt(errors.stretches, r.at);
			whole = settled.get(stretch) ?? settle(quantity, errors, stretch, thresholds);
			settled.set(stretch, whole);
		}
		return restateOne(quantity, r, errors, stretch, whole);
	};
}

/** Every reading of a probe put right by its error curve, with its uncertainty; linear in readings. */
export const restateReadings = (
	quantity: 'ph' | 'ec',
	readings: readonly TimelineReading[],
	errors: ProbeErrors,
	thresholds: Thresholds = THRESHOLDS[quantity],
): Timeline => ({ drift: errors.drift, outcomes: readings.map(readOff(quantity, errors, thresholds)) });

const LEFT: Record<Stretch['kind'], TimelineStatus> = {
	'before-first': 'before-first',
	closed: 'left-alone',
	open: 'not-yet',
	'before-jump': 'before-jump',
	'after-jump': 'left-alone',
	unusable: 'unusable',
};

function restateOne(
	quantity: 'ph' | 'ec',
	r: TimelineReading,
	errors: ProbeErrors,
	stretch: Stretch,
	whole: Settled,
): TimelineOutcome {
	const ph = quantity === 'ph';
	const grown = foulingAt(errors.fouling, r.at);
	const fouling = ph ? grown : grown * r.value;
	const shown = r.value - fouling;
	const inUnits = (share: number) => (ph ? share : share * Math.abs(shown));
	const open = !Number.isFinite(stretch.to);
	const { mean, variance } = whole.deviation(r.at, shown);
	const line = stretch.lineAt(shown, r.at);
	const error = ph ? line + mean : shown - (shown - line) * Math.exp(-mean);
	const closed = stretch.endVariance !== null;
	// What no electrode shows is a slip of the hand: no curve says what it was.
	const shows = ph ? shown >= 0 && shown <= 14 : shown > 0;
	const right = shows && rightAt(whole, stretch, r.at);
	const status: TimelineStatus =
		whole.rejected && (closed || right) ? 'rejected' : right ? 'restated' : LEFT[stretch.kind];
	const applied = status === 'restated';
	const room = ph ? 1 : 0;
	const { span } = stretch;
	const partial =
		span !== null &&
		(span.single
			? ph && Math.abs(r.value - span.low) > 1.5
			: r.value < span.low - room || r.value > span.high + (ph ? room : span.high * 0.5));
	// Nothing has been heard of it since: a rate that it showed before may go on.
	const since = open ? (r.at - (whole.met[countWhile(whole.met, (at) => at <= r.at) - 1] ?? stretch.from)) / DAY : 0;
	const rate =
		open && Number.isFinite(since)
			? inUnits(ph ? stretch.drift.ratePerDay : stretch.drift.ratePerDay / 100) * since
			: 0;
	const spread = together(inUnits(Math.sqrt(variance)), rate) * (partial ? 1.5 : 1);
	const left = status === 'rejected' || applied || !shows ? 0 : error;
	const parts = {
		instrument: closed ? (r.uRepeat ?? r.u) : r.u,
		standards: inUnits(whole.standards),
		drift: together(spread, left),
	};
	const total = (applied ? error : 0) + (status === 'rejected' ? 0 : fouling);
	return {
		id: r.id,
		status: fouling !== 0 && status !== 'rejected' ? 'restated' : status,
		value: r.value - total,
		error: status === 'left-alone' || status === 'rejected' ? error : total,
		u: together(parts.instrument, parts.standards, parts.drift),
		parts,
		from: stretch.first?.id ?? null,
		to: applied ? (stretch.last?.id ?? null) : null,
		provisional: applied && stretch.last?.provisional === true,
		partial,
		fouling,
	};
}

function rightAt(whole: Settled, stretch: Stretch, at: number): boolean {
	let right = at >= whole.rightFrom;
	if (Number.isFinite(stretch.to)) return right;
	for (const c of whole.changes) {
		if (c.at > at) break;
		right = c.right;
	}
	return right;
}

/** The same for a probe that met no other: by its calibrations, and what happened to it, alone. */
export function restateAlone(
	quantity: 'ph' | 'ec',
	readings: readonly TimelineReading[],
	calibrations: readonly ProbeCalibration[],
	jumps: readonly ProbeJump[] = [],
	thresholds: Thresholds = THRESHOLDS[quantity],
): Timeline {
	const probe = {
		code: '',
		calibrations: [...calibrations].sort((a, b) => a.at - b.at || a.id - b.id),
		jumps: [...jumps].sort((a, b) => a.at - b.at),
	};
	return restateReadings(quantity, readings, new SiteErrors(quantity, [probe], []).of('')!, thresholds);
}
