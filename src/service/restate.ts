import { instrumentThen } from '@/core/judge/context';
import { withoutConstant } from '@/core/judge/uncertainty';
import { compensate } from '@/core/probe/conductivity';
import { type Stretch, stretchAt } from '@/core/probe/error-curve/stretch';
import { restateReadings as putRight, THRESHOLDS, type TimelineOutcome } from '@/core/probe/timeline';
import { type Quantity, seriesQuantity } from '@/core/quantity';
import type { NewReading } from '@/store/copy-readings';
import type { InstrumentRow } from '@/store/line';
import type { Client, Db } from '@/store/pool';
import {
	insertRestatements,
	type ProbeReading,
	probeReadings,
	replaceRestatements,
	type StoredRestatement,
	storedRestatements,
} from '@/store/restatements';
import { type Curves, curvesNow, type ErrorsOf, type GrowingErrors, type PairedReading } from './errors';
import { freshRecord, type ProbeRecord, provisionalOf } from './probe-record';
import type { SiteContext } from './site';

/** A meter without compensation in water of unknown temperature: 2 % per °C over a usual ±4 °C. */
const UNKNOWN_TEMPERATURE_U = 0.08;
const QUANTITIES = ['ph', 'ec'] as const;

/** What its error curve makes of an instrument’s readings of one quantity. */
function restateReadings(
	site: SiteContext,
	errors: ErrorsOf,
	instrument: InstrumentRow,
	readings: readonly ProbeReading[],
): TimelineOutcome[] {
	const { quantity } = errors;
	const then = (at: number) => instrumentThen(site.known, instrument.code, at);
	const asRead = readings.map((r) => {
		const info = then(r.at);
		const value = errors.valueOf(r, info);
		return { ...r, value, uRepeat: withoutConstant(r.u, quantity, value, info) };
	});
	const curve = errors.of(instrument.code)!;
	const { outcomes } = putRight(quantity, asRead, curve, THRESHOLDS[quantity]);
	return outcomes.map((o, i) => {
		const r = readings[i]!;
		// Colours are read off, not calibrated: a kit is a witness and is never put right.
		if (instrument.kind === 'drop_kit')
			return {
				...o,
				status: 'before-first',
				value: r.value,
				error: 0,
				u: r.u,
				parts: { instrument: r.u, standards: 0, drift: 0 },
			};
		let { value, u, status } = o;
		const { compensates, alphaPctPerC } = then(r.at)!;
		if (quantity === 'ec' && !compensates) {
			const at25 = r.tempC === null ? null : compensate({ ecUsCm: Math.max(value, 0), tempC: r.tempC, alphaPctPerC });
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
		return { ...o, status, value, u, error: status === 'restated' ? r.value - value : o.error };
	});
}

/** A reading that was just stored, with the uncertainty that its instrument gives it. */
export type FreshReading = ProbeReading & PairedReading;

export const asFresh = (
	site: SiteContext,
	ids: readonly number[],
	rows: readonly NewReading[],
	uOf: (id: number, index: number) => number | undefined,
): FreshReading[] => {
	const stations = new Map(site.stations.map((s) => [s.id, s.code]));
	const instruments = new Map(site.instruments.map((i) => [i.id, i.code]));
	return rows.map((r, i) => ({
		...r,
		station: stations.get(r.stationId)!,
		instrument: instruments.get(r.instrumentId ?? -1) ?? null,
		id: ids[i]!,
		u: uOf(ids[i]!, i) ?? 0,
	}));
};

type Restatable = ProbeReading & { instrument: string | null; quantity: Quantity };

/** Readings of instruments by quantity and instrument, as their error curves have them. */
async function restated(
	site: SiteContext,
	readings: readonly Restatable[],
	errorsOf: (quantity: 'ph' | 'ec') => Promise<ErrorsOf>,
): Promise<TimelineOutcome[]> {
	const instruments = new Map(site.instruments.map((i) => [i.code, i]));
	const series = new Map<string, { instrument: InstrumentRow; quantity: 'ph' | 'ec'; readings: Restatable[] }>();
	for (const r of readings) {
		const quantity = seriesQuantity(r.quantity);
		const instrument = instruments.get(r.instrument ?? '');
		if (!instrument || (quantity !== 'ph' && quantity !== 'ec')) continue;
		const key = `${quantity} ${instrument.id}`;
		const one = series.get(key);
		if (one) one.readings.push(r);
		else series.set(key, { instrument, quantity, readings: [r] });
	}
	const outcomes: TimelineOutcome[] = [];
	for (const s of series.values())
		outcomes.push(...restateReadings(site, await errorsOf(s.quantity), s.instrument, s.readings));
	return outcomes;
}

/** What the error curves make of readings that come after all that was known, and have nothing derived yet. */
export async function restateFresh(
	db: Db,
	site: SiteContext,
	fresh: readonly FreshReading[],
	growing: GrowingErrors,
): Promise<void> {
	for (const quantity of QUANTITIES)
		if (fresh.some((r) => seriesQuantity(r.quantity) === quantity)) growing.of(quantity).take(fresh);
	await insertRestatements(db, site.site.id, await restated(site, fresh, async (q) => growing.of(q)));
}

/**
 * Readings came in from a time on that a later visit already settles: whatever that visit ends is settled anew, now that they are
 * known. Probes that met no other have nothing to learn from them.
 */
export async function settleAnew(client: Client, site: SiteContext, from: number, curves: Curves): Promise<void> {
	for (const quantity of QUANTITIES) {
		const errors = await curves(quantity);
		for (const instrument of site.instruments) {
			const { stretches, metAny } = errors.of(instrument.code)!;
			const stretch = stretchAt(stretches, from);
			if (!metAny || !isSettled(stretch)) continue;
			await recomputeInstrument(client, site, instrument, quantity, { from: stretch.from, curves });
		}
	}
}

/** Writes what differs from what is stored. */
async function store(
	client: Db,
	siteId: number,
	outcomes: readonly TimelineOutcome[],
	progress: (done: number) => void = () => {},
): Promise<void> {
	for (let i = 0; i < outcomes.length; i += PART) {
		await storePart(client, siteId, outcomes.slice(i, i + PART));
		progress(Math.min(i + PART, outcomes.length));
	}
}
const PART = 5000;

async function storePart(client: Db, siteId: number, outcomes: readonly TimelineOutcome[]): Promise<void> {
	const before = await storedRestatements(
		client,
		siteId,
		outcomes.map((o) => o.id),
	);
	const changed = outcomes.filter((o) => differs(before.get(o.id), o));
	await replaceRestatements(client, siteId, changed);
}

const near = (a: number, b: number) => Math.abs(a - b) <= 1e-9 * Math.max(1, Math.abs(a), Math.abs(b));
const differs = (s: StoredRestatement | undefined, o: TimelineOutcome): boolean =>
	!(
		s !== undefined &&
		s.status === o.status &&
		near(s.value, o.value) &&
		near(s.error, o.error) &&
		near(s.u, o.u) &&
		near(s.fouling, o.fouling) &&
		s.from === o.from &&
		s.to === o.to &&
		s.provisional === o.provisional &&
		s.partial === o.partial
	);

/** Brings what is derived of stored readings in accord with the error curves. */
export async function restateStored(
	client: Client,
	site: SiteContext,
	readings: readonly Restatable[],
	curves: Curves,
): Promise<void> {
	await store(client, site.site.id, await restated(site, readings, curves));
}

/**
 * Something became known of a time: whatever was settled by the visit after it is settled anew from the beginning of its stretch, up
 * to that time. What was read from then on is left to whoever goes on from there.
 */
export async function restateStretchesBefore(
	client: Client,
	site: SiteContext,
	from: number,
	curves: Curves,
): Promise<void> {
	if (!Number.isFinite(from)) return;
	for (const instrument of site.instruments)
		for (const quantity of QUANTITIES) {
			const errors = await curves(quantity);
			const stretch = stretchAt(errors.of(instrument.code)!.stretches, from);
			if (!isSettled(stretch) || stretch.from >= from) continue;
			const readings = await probeReadings(client, site.site.id, instrument.id, quantity, stretch.from, from);
			await store(client, site.site.id, restateReadings(site, errors, instrument, readings));
		}
}

/** Ended by something: what it was worth is looked at from there. */
const isSettled = (s: Stretch): boolean => Number.isFinite(s.to);

/**
 * Works into the past what was stored of a probe at a time, from the visit before it on; and where that shows a bottle in another
 * light, whatever was restated by others of its calibrations.
 * @param before the record of the probes as it was
 * @returns what became of the readings of the probe itself
 */
export async function workIn(
	client: Client,
	site: SiteContext,
	probe: { instrument: string; quantity: 'ph' | 'ec'; at: number },
	before: ProbeRecord,
	progress?: (done: number) => void,
): Promise<TimelineOutcome[]> {
	const curves = curvesNow(client, site);
	const { calibrations } = await freshRecord(client, site.site.id);
	const [then, now] = [provisionalOf(before.calibrations), provisionalOf(calibrations)];
	const from = await settledFrom(curves, probe.instrument, probe.quantity, probe.at);
	const instrumentOf = (code: string) => site.instruments.find((i) => i.code === code)!;
	const outcomes = await recomputeInstrument(client, site, instrumentOf(probe.instrument), probe.quantity, {
		from,
		curves,
		progress,
	});
	for (const c of calibrations)
		if (then.has(c.id) !== now.has(c.id) && (c.instrument !== probe.instrument || c.at <= from))
			await recomputeInstrument(client, site, instrumentOf(c.instrument), c.quantity, {
				from: await settledFrom(curves, c.instrument, c.quantity, c.at),
				curves,
			});
	return outcomes;
}

/** From when on what a calibration, or what happened to a probe, at a time has to do with its readings. */
async function settledFrom(curves: Curves, code: string, quantity: 'ph' | 'ec', at: number): Promise<number> {
	const { stretches, fouling } = (await curves(quantity)).of(code)!;
	// A reading of the very time of a visit was taken after it.
	return Math.min(stretchAt(stretches, at - 1).from, ...fouling.filter((f) => f.to >= at).map((f) => f.from));
}

/** Makes anew what is derived for one instrument's readings of one quantity from a time on. Same rows in, same rows out. */
async function recomputeInstrument(
	db: Db,
	site: SiteContext,
	instrument: InstrumentRow,
	quantity: 'ph' | 'ec',
	o: { from?: number; curves: Curves; progress?: ((done: number) => void) | undefined },
): Promise<TimelineOutcome[]> {
	const errors = await o.curves(quantity);
	const readings = await probeReadings(db, site.site.id, instrument.id, quantity, o.from);
	const outcomes = restateReadings(site, errors, instrument, readings);
	await store(db, site.site.id, outcomes, o.progress);
	return outcomes;
}

/** Every instrument, for example after an import; with progress. */
export async function recomputeAll(
	db: Db,
	site: SiteContext,
	progress: (done: number, of: number) => void = () => {},
): Promise<void> {
	const work = site.instruments.flatMap((i) => QUANTITIES.map((q) => [i, q] as const));
	const curves = curvesNow(db, site);
	for (const [n, [instrument, quantity]] of work.entries()) {
		await recomputeInstrument(db, site, instrument, quantity, { curves });
		progress(n + 1, work.length);
	}
}
