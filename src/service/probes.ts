import { type CalibrationResult, evaluateCalibration } from '@/core/probe/calibration';
import { renewalOverdue } from '@/core/probe/care';
import { dipRecord } from '@/core/probe/dip-record';
import { displayStep } from '@/core/probe/display-step';
import { type CurvePoint, drawCurve, type MetMark, metMarks } from '@/core/probe/drawn';
import { adviseInterval, type DriftModel, type IntervalAdvice, learnDrift, TOLERANCE } from '@/core/probe/drift';
import { type DueReason, type IntervalReason, intervalReason } from '@/core/probe/due';
import { driftIntervals } from '@/core/probe/error-curve/drift-intervals';
import { type IntervalChoice, intervalDays } from '@/core/probe/interval';
import { estimateLife, type LifeEstimate, runningSlopes } from '@/core/probe/life';
import { temperatureFar } from '@/core/probe/temperature-far';
import { type Apart, apartToday, cheapestDip, type ErrorToday, errorToday } from '@/core/probe/today';
import type { TurnedDecision } from '@/core/probe/turned';
import { probesIn } from '@/core/reading/protocol';
import {
	type CalibrationRow,
	listCalibrations,
	listProbeEvents,
	listProbes,
	type ProbeEventRow,
	type ProbeRow,
} from '@/store/calibrations';
import type { InstrumentRow } from '@/store/line';
import type { Db } from '@/store/pool';
import { type JudgedReading, listReadings } from '@/store/readings';
import { dayOf } from './day-of';
import { type ErrorsOf, errorsOf } from './errors';
import { probeRecord, timelineCalibrations, timelineJumps } from './probe-record';
import type { SiteContext } from './site';
import { turnedBy } from './turned';

const DAY = 86_400_000;

export interface ProbeView {
	instrument: InstrumentRow;
	quantity: 'ph' | 'ec';
	probe: ProbeRow | null;
	lastCalibration: CalibrationRow | null;
	lastResult: CalibrationResult | null;
	drift: DriftModel;
	advice: IntervalAdvice;
	/** Days between calibrations by the chosen school, with its reason in words. */
	intervalDays: number;
	intervalReason: IntervalReason;
	dueAt: number | null;
	dueReason: DueReason;
	/** Standard uncertainty of a reading taken now, its known error taken off: pH, or percent for EC. */
	uToday: number;
	/** What is known of its error before anybody dips it. */
	today: ErrorToday;
	life: LifeEstimate;
	/** How its newest dips in standards came out, as found. */
	record: { passed: number; failed: number };
	/** Days by which the solution in its cap is overdue. */
	renewalOverdueDays: number | null;
}

export const evaluateRow = (c: CalibrationRow): CalibrationResult =>
	evaluateCalibration(
		c.quantity,
		c.points.flatMap((p) =>
			p.asFound === null ? [] : [{ nominal: p.nominal, asFound: p.asFound, mv: p.mv ?? undefined }],
		),
		c.tempC ?? 25,
		c.settleS,
	);

export const intervalChoice = (i: Pick<InstrumentRow, 'calibrateBy' | 'makerDays'>): IntervalChoice => ({
	by: i.calibrateBy,
	days: i.makerDays,
});

function viewOf(
	instrument: InstrumentRow,
	quantity: 'ph' | 'ec',
	all: CalibrationRow[],
	events: ProbeEventRow[],
	probes: ProbeRow[],
	errors: ErrorsOf,
	now: number,
	zone: string,
): ProbeView {
	const own = all.filter((c) => c.instrument === instrument.code && c.quantity === quantity);
	const ownEvents = events.filter((e) => e.instrument === instrument.code && e.quantity === quantity);
	const drift = learnDrift(
		quantity,
		driftIntervals(quantity, timelineCalibrations(own, all, []), timelineJumps(ownEvents, quantity)),
		displayStep(instrument, quantity),
	);
	const advice = adviseInterval(drift, quantity);
	const last = own.at(-1) ?? null;
	const choice = intervalChoice(instrument);
	const days = intervalDays(choice, advice);
	const reason = intervalReason(choice, advice, drift.from);
	const upset = ownEvents.at(-1);
	const upsetNow = upset && (!last || upset.at > last.at) ? upset : null;
	const stated = instrument.quantities[quantity];
	const instrumentU =
		quantity === 'ph'
			? Math.hypot((stated?.resolution ?? 0.01) / Math.sqrt(12), (stated?.accuracy ?? 0.1) / Math.sqrt(3))
			: (stated?.accuracyPct ?? 2) / Math.sqrt(3);
	const today = errorToday(quantity, errors.of(instrument.code)!, now);
	const wrong = today.told
		? ({
				code: 'wrong',
				quantity,
				error: today.error,
				u: today.u,
				by: today.carried || today.met.length === 0 ? 'visit' : 'others',
				others: today.met.slice(0, 2).map((m) => ({ ...m, name: errors.nameOf(m.other) })),
			} as const)
		: null;
	const newSince = ownEvents.filter((e) => e.kind === 'new_probe').at(-1)?.at ?? Number.NEGATIVE_INFINITY;
	const results = own
		.filter((c) => c.at >= newSince)
		.map((c) => ({ ...c, result: evaluateRow(c), mv: c.points.every((p) => p.mv !== null) }));
	const slopes = results.flatMap(({ at, kind, points, result, mv }) => {
		if (!result.ok || result.value.slopePct === null) return [];
		const nominals = points.filter((p) => p.asFound !== null).map((p) => p.nominal);
		return [{ at, kind, slopePct: result.value.slopePct, mv, apart: Math.max(...nominals) - Math.min(...nominals) }];
	});
	const probe = probes.find((p) => p.instrument === instrument.code && p.quantity === quantity) ?? null;
	const hidden = slopes.every((s) => !s.mv);
	return {
		instrument,
		quantity,
		probe,
		lastCalibration: last,
		lastResult: last && evaluateRow(last),
		drift,
		advice,
		intervalDays: days,
		intervalReason: reason,
		dueAt: upsetNow ? upsetNow.at : last && !wrong ? last.at + days * DAY : now,
		dueReason: upsetNow
			? { code: 'upset', by: upsetNow.kind }
			: (wrong ?? (last ? reason : { code: 'never-calibrated' })),
		today,
		record: dipRecord(
			quantity,
			results.map((r) => r.points),
		),
		renewalOverdueDays: renewalOverdue(probe?.storage ?? null, probe?.storageRefilled ?? null, dayOf(now, zone)),
		uToday: Math.hypot(instrumentU, today.u),
		life:
			quantity === 'ph'
				? estimateLife(
						hidden ? runningSlopes(slopes.map((s) => ({ ...s, gain: s.slopePct / 100 }))) : slopes.filter((s) => s.mv),
					)
				: { known: false, reason: 'too-few' },
	};
}

/** How far off a reading taken now may be, in parts of what is tolerated. */
const mayBeOff = (v: ProbeView): number => (Math.abs(v.today.error) + 1.96 * v.uToday) / TOLERANCE[v.quantity];

/** Every probe, the most trustworthy today first. */
export async function fleet(db: Db, context: SiteContext, now: number): Promise<ProbeView[]> {
	const { calibrations: all, events, probes } = await probeRecord(db, context);
	const errors = { ph: await errorsOf(db, context, 'ph'), ec: await errorsOf(db, context, 'ec') };
	const views = context.inUse.instruments.flatMap((i) =>
		probesIn(i.kind).map((q) => viewOf(i, q, all, events, probes, errors[q], now, context.site.timezone)),
	);
	return views.sort((a, b) => mayBeOff(a) - mayBeOff(b));
}

/** Probes that cannot both be right, where it is not known which of the two is wrong. */
export async function apart(
	db: Db,
	context: SiteContext,
	fleet: readonly ProbeView[],
	now: number,
): Promise<(Apart & { quantity: 'ph' | 'ec' })[]> {
	const found: (Apart & { quantity: 'ph' | 'ec' })[] = [];
	for (const quantity of ['ph', 'ec'] as const) {
		const own = fleet.filter((v) => v.quantity === quantity);
		const told = new Set(own.filter((v) => v.today.told).map((v) => v.instrument.code));
		const codes = own.map((v) => v.instrument.code);
		const errors = await errorsOf(db, context, quantity);
		for (const a of apartToday(quantity, errors.all, codes, now, told)) found.push({ ...a, quantity });
	}
	return found;
}

/** The one dip that would tell most of all probes, and which of them it would tell of. */
export async function bestDip(
	db: Db,
	context: SiteContext,
	now: number,
): Promise<{ instrument: string; quantity: 'ph' | 'ec'; share: number } | null> {
	const dipped = context.inUse.instruments.filter((i) => i.kind !== 'sensor_node');
	const dips: { instrument: string; quantity: 'ph' | 'ec'; takes: number }[] = [];
	let whole = 0;
	for (const quantity of ['ph', 'ec'] as const) {
		const codes = dipped.filter((i) => probesIn(i.kind).includes(quantity)).map((i) => i.code);
		const dip = cheapestDip(quantity, (await errorsOf(db, context, quantity)).all, codes, now, TOLERANCE[quantity]);
		if (!dip) continue;
		whole += dip.whole;
		dips.push({ instrument: dip.code, quantity, takes: dip.takes });
	}
	const best = dips.sort((a, b) => b.takes - a.takes)[0];
	return best && whole > 0 ? { instrument: best.instrument, quantity: best.quantity, share: best.takes / whole } : null;
}

export interface ProbeStory extends ProbeView {
	calibrations: (CalibrationRow & { result: CalibrationResult })[];
	events: ProbeEventRow[];
	curve: CurvePoint[];
	met: MetMark[];
	touched: JudgedReading[];
	rejected: number;
	turned: TurnedDecision[];
	/** Its waters are far from the temperature of its last calibration: what they usually have, °C. */
	farAtC: number | null;
}

/** So many readings say at what temperature a probe is usually read. */
const LATELY = 60;
/** Marks of a probe's page. */
const MOST_MARKS = 400;

/** The error curve of a probe from a time to now, with what it was held against. */
function drawn(quantity: 'ph' | 'ec', all: ErrorsOf, code: string, from: number, now: number) {
	const errors = all.of(code)!;
	const begin = Math.min(from, errors.stretches[1]?.from ?? now);
	return {
		curve: drawCurve(quantity, errors, begin, now),
		met: metMarks(quantity, errors, (other) => all.of(other)!, MOST_MARKS).map((m) => ({
			...m,
			other: all.nameOf(m.other),
		})),
	};
}

/** One probe: its calibrations, what happened to it, the readings it touched and the decisions those would have turned. */
export async function probeStory(
	db: Db,
	context: SiteContext,
	code: string,
	quantity: 'ph' | 'ec',
	now: number,
): Promise<ProbeStory | null> {
	const instrument = context.instruments.find((i) => i.code === code);
	if (!instrument) return null;
	// Nothing of these waits for another; a page asks for them at once.
	const [withWithdrawn, events, errors, probes, readings] = await Promise.all([
		listCalibrations(db, context.site.id, { withWithdrawn: true }),
		listProbeEvents(db, context.site.id),
		errorsOf(db, context, quantity),
		listProbes(db, context.site.id),
		listReadings(db, context.site.id, { instrument: code, quantity, order: 'oldest', limit: 20_000 }),
	]);
	const all = withWithdrawn.filter((c) => !c.withdrawn);
	const view = viewOf(instrument, quantity, all, events, probes, errors, now, context.site.timezone);
	const touched = readings.filter((r) => r.restated !== null && r.decision !== 'discard');
	const turned = await turnedBy(db, context, quantity, readings, touched);
	return {
		...view,
		calibrations: withWithdrawn
			.filter((c) => c.instrument === code && c.quantity === quantity)
			.map((c) => ({ ...c, result: evaluateRow(c) })),
		events: events.filter((e) => e.instrument === code && e.quantity === quantity),
		...drawn(quantity, errors, code, readings[0]?.at ?? now, now),
		touched,
		farAtC: temperatureFar(
			quantity,
			readings.slice(-LATELY).flatMap((r) => (r.tempC === null ? [] : [r.tempC])),
			view.lastCalibration?.tempC ?? null,
		),
		rejected: readings.filter((r) => r.restatedStatus === 'rejected').length,
		turned,
	};
}
