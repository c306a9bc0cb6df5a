import { instrumentThen } from '@/core/judge/context';
import { type Displayed, readingUncertainty } from '@/core/judge/uncertainty';
import { PAIRED_WITHIN_MS, type Pair, PairFinder, type Sighting } from '@/core/probe/error-curve/pairs';
import type { ProbeErrors, ProbeOfSite } from '@/core/probe/error-curve/probe-errors';
import { SiteErrors } from '@/core/probe/error-curve/site-errors';
import { type Evidence, evidenceOf } from '@/core/probe/evidence';
import { type Quantity, seriesQuantity } from '@/core/quantity';
import { type EventKind, type InstrumentInfo, POURING_KINDS, type Reading } from '@/core/reading/model';
import { MEASURES } from '@/core/reading/protocol';
import type { InstrumentRow } from '@/store/line';
import { pairReadings, pourings } from '@/store/pairs';
import type { Db } from '@/store/pool';
import { Kept } from './kept';
import {
	freshRecord,
	onScale,
	type ProbeRecord,
	probeRecord,
	timelineCalibrations,
	timelineJumps,
} from './probe-record';
import { onlyRemembersMore, type SiteContext } from './site';

/**
 * The error curves of a site's probes as its record gives them: loaded once, and gone on from with each reading that comes in order.
 */

/** Half of what a drop kit's colours are apart, where its readings do not say (common practice, no source). */
const KIT_HALF_STEP = 0.25;

/** A reading as far as pairs are concerned. */
export interface PairedReading extends Displayed {
	id: number;
	instrument: string | null;
	sampleId: number;
	station: string;
	at: number;
}

/** Whether an instrument shows a quantity; the colours of a kit are a pH. */
const shows = (i: InstrumentRow, quantity: 'ph' | 'ec'): boolean =>
	MEASURES[i.kind].includes(quantity) || (quantity === 'ph' && i.kind === 'drop_kit');

/** What a reading was, to be held against others; null where it cannot be: a meter that did not compensate showed another thing. */
function sightingOf(site: SiteContext, r: PairedReading, instrument: InstrumentRow): Sighting | null {
	const then = instrumentThen(site.known, instrument.code, r.at)!;
	const isEc = seriesQuantity(r.quantity) === 'ec';
	if (isEc && !then.compensates) return null;
	const { u, repeats } = readingUncertainty(r, then);
	return {
		id: r.id,
		probe: instrument.code,
		continuous: then.continuous,
		station: r.station,
		sample: then.continuous ? null : String(r.sampleId),
		at: r.at,
		value: isEc ? onScale(r.value, r.unit, then) : r.value,
		uRepeat: instrument.kind === 'drop_kit' ? u : repeats,
	};
}

/** The errors of all probes of one quantity, and what is needed to go on. */
export class ErrorsOf {
	private constructor(
		private readonly site: SiteContext,
		readonly quantity: 'ph' | 'ec',
		private readonly probes: readonly ProbeOfSite[],
		private readonly finder: PairFinder,
		private readonly pairs: Pair[],
		private errors: SiteErrors,
		/** When something was poured into each water, in order of time. */
		private readonly poured: Map<string, number[]>,
	) {}

	static async load(db: Db, site: SiteContext, quantity: 'ph' | 'ec', record: ProbeRecord): Promise<ErrorsOf> {
		const telling = site.instruments.filter((i) => shows(i, quantity));
		const rows =
			telling.length < 2
				? []
				: await pairReadings(
						db,
						site.site.id,
						quantity,
						{
							byHand: telling.filter((i) => !i.continuous).map((i) => i.id),
							continuous: telling.filter((i) => i.continuous).map((i) => i.id),
						},
						PAIRED_WITHIN_MS,
					);
		const byCode = new Map(telling.map((i) => [i.code, i]));
		const poured = timesOf(telling.length < 2 ? [] : await pourings(db, site.site.id));
		const finder = new PairFinder(quantity, mixedBetween(poured));
		const pairs = rows.flatMap((r) => {
			const seen = sightingOf(site, r, byCode.get(r.instrument)!);
			return seen ? finder.take(seen) : [];
		});
		const halfSteps = new Map<string, number>();
		for (const r of rows) halfSteps.set(r.instrument, Math.max(halfSteps.get(r.instrument) ?? 0, r.halfWidth));
		const probes = site.instruments.map((i) => probeOf(record, i, quantity, halfSteps.get(i.code) ?? 0));
		return new ErrorsOf(site, quantity, probes, finder, pairs, new SiteErrors(quantity, probes, pairs), poured);
	}

	/** The same, to go on from without changing this one. */
	fork(): ErrorsOf {
		const poured = new Map([...this.poured].map(([station, times]) => [station, [...times]]));
		const finder = this.finder.fork(mixedBetween(poured));
		return new ErrorsOf(this.site, this.quantity, this.probes, finder, [...this.pairs], this.errors.fork(), poured);
	}

	/** Learns from readings that come after all that it knows, in order of time. */
	take(readings: readonly PairedReading[]): void {
		const byCode = new Map(this.site.instruments.map((i) => [i.code, i]));
		const fresh = readings.flatMap((r) => {
			const instrument = byCode.get(r.instrument ?? '');
			if (!instrument || seriesQuantity(r.quantity) !== this.quantity || !shows(instrument, this.quantity)) return [];
			const seen = sightingOf(this.site, r, instrument);
			return seen ? this.finder.take(seen) : [];
		});
		if (fresh.length === 0) return;
		this.pairs.push(...fresh);
		if (!this.errors.add(fresh)) this.errors = new SiteErrors(this.quantity, this.probes, this.pairs);
	}

	/** Something was poured after all that it knows. */
	pour(station: string, at: number): void {
		const times = this.poured.get(station);
		if (times) times.push(at);
		else this.poured.set(station, [at]);
	}

	/** What an instrument showed, on the scale that is known by now of it as it was then. */
	valueOf(r: { value: number; unit: Reading['unit'] }, then: InstrumentInfo | undefined): number {
		return this.quantity === 'ec' ? onScale(r.value, r.unit, then) : r.value;
	}

	nameOf(code: string): string {
		return this.site.instruments.find((i) => i.code === code)?.name ?? code;
	}

	of(code: string): ProbeErrors | null {
		return this.errors.of(code);
	}

	/** What the error of one reading is known from. */
	evidence(instrument: InstrumentRow, r: { at: number; value: number; unit: Reading['unit'] }): Evidence {
		const reading = {
			probe: instrument.code,
			at: r.at,
			value: this.valueOf(r, instrumentThen(this.site.known, instrument.code, r.at)),
		};
		return evidenceOf(this.quantity, this.probes, this.pairs, reading);
	}

	get all(): SiteErrors {
		return this.errors;
	}
}

function probeOf(record: ProbeRecord, i: InstrumentRow, quantity: 'ph' | 'ec', halfStep: number): ProbeOfSite {
	const all = record.calibrations.filter((c) => c.quantity === quantity);
	return {
		code: i.code,
		calibrations: timelineCalibrations(
			all.filter((c) => c.instrument === i.code),
			all,
			record.lots,
		),
		jumps: timelineJumps(
			record.events.filter((e) => e.instrument === i.code),
			quantity,
		),
		kit: i.kind === 'drop_kit' ? { halfStep: halfStep || KIT_HALF_STEP } : undefined,
	};
}

function timesOf(list: readonly { station: string; at: number }[]): Map<string, number[]> {
	const times = new Map<string, number[]>();
	for (const { station, at } of list) {
		const own = times.get(station);
		if (own) own.push(at);
		else times.set(station, [at]);
	}
	return times;
}
const mixedBetween =
	(times: ReadonlyMap<string, readonly number[]>) =>
	(station: string, from: number, to: number): boolean =>
		times.get(station)?.some((at) => at > from && at <= to) ?? false;

type Both = Record<'ph' | 'ec', ErrorsOf>;
/** What was loaded of each database last. */
const kept = { ph: new Kept<ErrorsOf>(), ec: new Kept<ErrorsOf>() };

/** The error curves as everything that is stored gives them; kept while nothing was stored since. Not to be changed. */
export async function errorsOf(db: Db, site: SiteContext, quantity: 'ph' | 'ec'): Promise<ErrorsOf> {
	const before = kept[quantity].find(db, site);
	if (before) return before;
	const errors = await ErrorsOf.load(db, site, quantity, await probeRecord(db, site));
	kept[quantity].put(db, site, errors);
	return errors;
}

/** The error curves of a site as it is stored now, each loaded when it is first asked for. */
export function curvesNow(db: Db, site: SiteContext): (quantity: 'ph' | 'ec') => Promise<ErrorsOf> {
	const loaded = new Map<'ph' | 'ec', Promise<ErrorsOf>>();
	return (quantity) => {
		const before = loaded.get(quantity);
		if (before) return before;
		// Read anew: the request may have stored a calibration just now.
		const made = freshRecord(db, site.site.id).then((record) => ErrorsOf.load(db, site, quantity, record));
		loaded.set(quantity, made);
		return made;
	};
}
export type Curves = ReturnType<typeof curvesNow>;
/** The same, all loaded by now: they outlive the connection that they were loaded by. */
export async function loadCurves(db: Db, site: SiteContext): Promise<Curves> {
	const curves = curvesNow(db, site);
	for (const quantity of ['ph', 'ec'] as const) await curves(quantity);
	return curves;
}

/** The present error curves of a site, learning from what a request stores: begun before it stores anything. */
export class GrowingErrors {
	private constructor(
		private readonly db: Db,
		private readonly site: SiteContext,
		private readonly errors: Both,
	) {}

	static async begin(db: Db, site: SiteContext): Promise<GrowingErrors> {
		const errors = { ph: (await errorsOf(db, site, 'ph')).fork(), ec: (await errorsOf(db, site, 'ec')).fork() };
		return new GrowingErrors(db, site, errors);
	}

	of(quantity: 'ph' | 'ec'): ErrorsOf {
		return this.errors[quantity];
	}

	/** They are what is stored, at a version of what is remembered. */
	keep(memoryVersion: number): void {
		for (const quantity of ['ph', 'ec'] as const)
			kept[quantity].put(this.db, this.site, this.errors[quantity], memoryVersion);
	}
}

/** An event that comes after all that is stored: what was loaded is as good as before, with it. */
export function keepWithEvent(
	db: Db,
	before: SiteContext,
	after: SiteContext,
	event: { station: string; at: number; kind: EventKind },
): void {
	if (!onlyRemembersMore(before, after)) return;
	for (const quantity of ['ph', 'ec'] as const) {
		const own = kept[quantity].find(db, before);
		if (!own) continue;
		const errors = POURS.has(event.kind) ? own.fork() : own;
		if (POURS.has(event.kind)) errors.pour(event.station, event.at);
		kept[quantity].put(db, after, errors);
	}
}
const POURS: ReadonlySet<EventKind> = new Set(POURING_KINDS);

/** What the error of a reading's probe is known from, other probes by their names; null for what no probe of the site took. */
export async function readingEvidence(
	db: Db,
	site: SiteContext,
	r: { instrument: string | null; quantity: Quantity; at: number; value: number; unit: Reading['unit'] },
): Promise<Evidence | null> {
	const quantity = seriesQuantity(r.quantity);
	const instrument = site.instruments.find((i) => i.code === r.instrument);
	if (!instrument || instrument.kind === 'drop_kit' || (quantity !== 'ph' && quantity !== 'ec')) return null;
	const errors = await errorsOf(db, site, quantity);
	const found = errors.evidence(instrument, r);
	return { ...found, beside: found.beside.map((b) => ({ ...b, other: errors.nameOf(b.other) })) };
}
