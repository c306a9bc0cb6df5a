import { compensate } from '@/core/probe/conductivity';
import type { ProbeCalibration, ProbeJump } from '@/core/probe/error-curve/stretch';
import { provisionalCalibrations } from '@/core/probe/provisional';
import { restateAlone, THRESHOLDS, type Timeline } from '@/core/probe/timeline';
import { ppmScaleOf, ppmUnit, type Quantity, seriesQuantity, toCanonical, type Unit } from '@/core/quantity';
import {
	type CalibrationRow,
	type LotRow,
	listCalibrations,
	listLots,
	listProbeEvents,
	listProbes,
	type ProbeEventRow,
	type ProbeRow,
} from '@/store/calibrations';
import type { NewReading } from '@/store/copy-readings';
import type { InstrumentRow } from '@/store/line';
import { type Db, homeOf } from '@/store/pool';
import {
	freshReadings,
	insertRestatements,
	type ProbeReading,
	probeReadings,
	replaceRestatements,
} from '@/store/restatements';
import type { SiteContext } from './site';

/** Tolerance of a bottle where nobody typed it (common practice): ±0.02 pH, ±1 %. */
const BOTTLE = { ph: 0.02, ecPct: 1 } as const;
/** A meter without compensation in water of unknown temperature: 2 % per °C over a usual ±4 °C. */
const UNKNOWN_TEMPERATURE_U = 0.08;

export function timelineCalibrations(
	rows: readonly CalibrationRow[],
	all: readonly CalibrationRow[],
	lots: readonly LotRow[],
): ProbeCalibration[] {
	const findings = all.flatMap((c) =>
		c.points.flatMap((p) =>
			p.asFound === null
				? []
				: [
						{
							calibration: c.id,
							instrument: c.instrument,
							quantity: c.quantity,
							at: c.at,
							lot: p.lot,
							error: c.quantity === 'ph' ? p.asFound - p.nominal : (100 * (p.asFound - p.nominal)) / p.nominal,
						},
					],
		),
	);
	const provisional = provisionalCalibrations(findings, { ph: THRESHOLDS.ph.leaveAlone, ec: THRESHOLDS.ec.leaveAlone });
	return rows.map((c) => ({
		id: c.id,
		at: c.at,
		kind: c.kind,
		provisional: provisional.has(c.id),
		points: c.points.map((p) => {
			const tolerance =
				lots.find((l) => l.name === p.lot)?.tolerance ??
				(c.quantity === 'ph' ? BOTTLE.ph : (BOTTLE.ecPct / 100) * p.nominal);
			return { nominal: p.nominal, asFound: p.asFound, asLeft: p.asLeft, u: tolerance / Math.sqrt(3) };
		}),
	}));
}

export const timelineJumps = (events: readonly ProbeEventRow[], quantity: 'ph' | 'ec'): ProbeJump[] =>
	events
		.filter((e) => e.quantity === quantity)
		.map((e) => ({ at: e.at, kind: e.kind, before: e.before, after: e.after }));

/** Re-reads a ppm of a meter whose scale is known better now. */
function onScale(value: number, unit: Unit, instrument: InstrumentRow): number {
	const scale = ppmScaleOf(unit);
	if (scale === undefined || instrument.ppmScale === null || instrument.ppmScale === scale) return value;
	return toCanonical(value * (scale / 1000), ppmUnit(instrument.ppmScale));
}

/** Everything that was found of the probes of a site. */
export interface ProbeRecord {
	/** Those that were not withdrawn, oldest first. */
	calibrations: CalibrationRow[];
	events: ProbeEventRow[];
	lots: LotRow[];
	probes: ProbeRow[];
}
/** What was read of each database last, by the version that the site names. */
const records = new WeakMap<object, { version: number; record: ProbeRecord }>();

/** The record of the probes as the request found it; what it stored itself since is not in it. */
export async function probeRecord(db: Db, { site }: SiteContext): Promise<ProbeRecord> {
	const kept = records.get(homeOf(db));
	if (kept?.version === site.probeVersion) return kept.record;
	const record = await freshRecord(db, site.id);
	records.set(homeOf(db), { version: site.probeVersion, record });
	return record;
}
const freshRecord = async (db: Db, siteId: number): Promise<ProbeRecord> => ({
	calibrations: await listCalibrations(db, siteId),
	events: await listProbeEvents(db, siteId),
	lots: await listLots(db, siteId),
	probes: await listProbes(db, siteId),
});

/** What the record of its probe makes of an instrument’s readings of one quantity. */
export function restateReadings(
	known: ProbeRecord,
	instrument: InstrumentRow,
	quantity: 'ph' | 'ec',
	readings: readonly ProbeReading[],
): Timeline {
	const all = known.calibrations.filter((c) => c.quantity === quantity);
	const own = all.filter((c) => c.instrument === instrument.code);
	const jumps = timelineJumps(
		known.events.filter((e) => e.instrument === instrument.code),
		quantity,
	);
	const asRead = readings.map((r) => ({
		...r,
		value: quantity === 'ec' ? onScale(r.value, r.unit, instrument) : r.value,
	}));
	const timeline = restateAlone(quantity, asRead, timelineCalibrations(own, all, known.lots), jumps);
	const outcomes = timeline.outcomes.map((o, i) => {
		const r = readings[i]!;
		let { value, u } = o;
		let status: string = o.status;
		if (quantity === 'ec' && !instrument.compensates) {
			const at25 =
				r.tempC === null
					? null
					: compensate({ ecUsCm: Math.max(value, 0), tempC: r.tempC, alphaPctPerC: instrument.alphaPct });
			if (at25?.ok) value = at25.value;
			else u = Math.hypot(u, UNKNOWN_TEMPERATURE_U * Math.abs(value));
		}
		// What differs from the original is shown as restated, whichever way it came about.
		if (
			status !== 'restated' &&
			status !== 'rejected' &&
			Math.abs(value - r.value) > 1e-9 * Math.max(1, Math.abs(r.value))
		)
			status = 'restated';
		return {
			...o,
			status: status as typeof o.status,
			value,
			u,
			error: status === 'restated' ? r.value - value : o.error,
		};
	});
	return { drift: timeline.drift, outcomes };
}

/** A reading that was just stored, with the uncertainty that its instrument gives it. */
type FreshReading = ProbeReading & { instrumentId: number | null; quantity: Quantity };

export const asFresh = (
	ids: readonly number[],
	rows: readonly NewReading[],
	uOf: (id: number, index: number) => number | undefined,
): FreshReading[] => rows.map((r, i) => ({ ...r, id: ids[i]!, u: uOf(ids[i]!, i) ?? 0 }));

/** What the records of their probes make of readings that have nothing derived yet. */
export async function restateFresh(db: Db, context: SiteContext, fresh: readonly FreshReading[]): Promise<void> {
	const record = await probeRecord(db, context);
	const series = new Map<string, { instrument: InstrumentRow; quantity: 'ph' | 'ec'; readings: FreshReading[] }>();
	const instruments = new Map(context.instruments.map((i) => [i.id, i]));
	for (const r of fresh) {
		const quantity = seriesQuantity(r.quantity);
		const instrument = instruments.get(r.instrumentId ?? -1);
		if (!instrument || (quantity !== 'ph' && quantity !== 'ec')) continue;
		const key = `${quantity} ${instrument.id}`;
		const one = series.get(key);
		if (one) one.readings.push(r);
		else series.set(key, { instrument, quantity, readings: [r] });
	}
	const outcomes = [...series.values()].flatMap(
		({ instrument, quantity, readings }) => restateReadings(record, instrument, quantity, readings).outcomes,
	);
	await insertRestatements(db, context.site.id, outcomes);
}

const PART = 20_000;
/** The same for all readings from a number on, part by part. */
export async function restateFrom(db: Db, context: SiteContext, firstId: number): Promise<void> {
	for (let from = firstId; ; ) {
		const part = await freshReadings(db, context.site.id, from, PART);
		await restateFresh(db, context, part);
		if (part.length < PART) return;
		from = part.at(-1)!.id + 1;
	}
}

/** Makes anew everything derived for one instrument's readings of one quantity. Same rows in, same rows out. */
export async function recomputeInstrument(
	db: Db,
	context: SiteContext,
	instrument: InstrumentRow,
	quantity: 'ph' | 'ec',
	progress: (done: number) => void = () => {},
	known?: ProbeRecord,
): Promise<Timeline> {
	const readings = await probeReadings(db, context.site.id, instrument.id, quantity);
	// Read anew: the request may have stored a calibration just now.
	const timeline = restateReadings(known ?? (await freshRecord(db, context.site.id)), instrument, quantity, readings);
	await replaceRestatements(
		db,
		context.site.id,
		readings.map((r) => r.id),
		timeline.outcomes,
		progress,
	);
	return timeline;
}

/** Every instrument, for example after an import; with progress. */
export async function recomputeAll(
	db: Db,
	context: SiteContext,
	progress: (done: number, of: number) => void = () => {},
): Promise<void> {
	const work = context.instruments.flatMap((i) => (['ph', 'ec'] as const).map((q) => [i, q] as const));
	const known = await freshRecord(db, context.site.id);
	for (const [n, [instrument, quantity]] of work.entries()) {
		await recomputeInstrument(db, context, instrument, quantity, undefined, known);
		progress(n + 1, work.length);
	}
}
