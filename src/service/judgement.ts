import type { JudgeContext } from '@/core/judge/context';
import { Engine } from '@/core/judge/engine';
import { eventsMatterFrom, type Memory } from '@/core/judge/memory';
import { displayStep } from '@/core/probe/display-step';
import { ProbesThen } from '@/core/probe/known-then';
import { unitNamed } from '@/core/quantity';
import { skippedOf } from '@/core/reading/from-text';
import type { Reading, Verdict, WaterEvent } from '@/core/reading/model';
import { probesIn } from '@/core/reading/protocol';
import { listCalibrations, listProbeEvents } from '@/store/calibrations';
import { eventsFrom, memoriesAsOf, putMemories, readingsAfter, thinMemories } from '@/store/judging';
import type { Db } from '@/store/pool';
import type { JudgedReading } from '@/store/readings';
import { Kept } from './kept';
import { timelineJumps } from './probe-record';
import { intervalChoice } from './probes';
import { onlyRemembersMore, type SiteContext } from './site';

/** A judgement of a site as of a time, and the present of it, which is kept between requests. */
const DAY = 86_400_000;
/** Neighbouring lines of one time and station are one sample, up to so many. */
export const MAX_SAMPLE = 32;
const KEPT_DAILY_DAYS = 60;

export const asReading = (r: JudgedReading): Reading => ({
	at: r.at,
	station: r.station,
	instrument: r.instrument ?? '',
	quantity: r.quantity,
	unit: r.unit,
	digits: r.digits,
	value: r.value,
	halfWidth: r.halfWidth,
	tempC: r.tempC,
	waitS: r.waitS,
	...skippedOf(r.extra),
});

/** What a judgement knows of the site and of its probes, each as it was at the time of a reading. */
async function contextOf(db: Db, site: SiteContext) {
	const calibrations = await listCalibrations(db, site.site.id);
	const events = await listProbeEvents(db, site.site.id);
	const probes = new ProbesThen(
		site.instruments.flatMap((i) =>
			probesIn(i.kind).map((quantity) => ({
				instrument: i.code,
				quantity,
				calibrations: calibrations.filter((c) => c.instrument === i.code && c.quantity === quantity),
				jumps: timelineJumps(
					events.filter((e) => e.instrument === i.code),
					quantity,
				),
				interval: intervalChoice(i),
				intervalBefore: site.versions.flatMap((v) =>
					v.instrumentId === i.id && v.instrument ? [{ until: v.until, interval: intervalChoice(v.instrument) }] : [],
				),
				step: displayStep(i, quantity),
			})),
		),
	);
	return { ...site.known, probe: probes.stateAt } satisfies JudgeContext;
}

type KnownContext = Awaited<ReturnType<typeof contextOf>>;
/** The present of each database. */
const presents = new Kept<{ memory: Memory; known: KnownContext }>();
/** An engine with the memory of a site at a time, and what it has judged since. */
export class Judging {
	private readonly touched = new Map<string, number>();
	private readonly kept: { stationId: number; at: number; state: string }[] = [];

	/** Days before the newest are among what was kept. */
	private ofDays = false;

	private constructor(
		private readonly site: SiteContext,
		readonly engine: Engine,
		private readonly known: KnownContext,
		/** Nothing is stored that it does not know. */
		private readonly isPresent = false,
	) {}

	get probeAt(): KnownContext['probe'] {
		return this.known.probe;
	}

	/** As everything up to a time has taught it: with what was read at that very time, or without. */
	static async asOf(db: Db, site: SiteContext, at: number, now: number, including = true): Promise<Judging> {
		const known = await contextOf(db, site);
		const engine = new Engine(known, () => now);
		const memories = await memoriesAsOf(db, site.site.id, at, including);
		for (const m of memories) engine.memory.recall(m.station, m.state);
		const of = new Map(memories.map((m) => [m.station, m]));
		const stations = site.stations.map((s) => {
			const memory = of.get(s.code);
			return {
				station: s.code,
				after: memory?.at ?? Number.NEGATIVE_INFINITY,
				from: memory ? eventsMatterFrom(memory.state) : Number.NEGATIVE_INFINITY,
			};
		});
		for (const { unitText, ...e } of await eventsFrom(db, site.site.id, stations))
			engine.note({ ...e, unit: unitNamed(unitText) ?? null });
		const judging = new Judging(site, engine, known);
		// A station that was read no further is known as it stands.
		const open = stations.filter((s) => !of.get(s.station)?.newest);
		for (const sample of samplesOf(await readingsAfter(db, site.site.id, open, at, including)))
			judging.takeStored(sample);
		return judging;
	}

	/**
	 * As everything that is stored has taught it: kept between requests while nothing was learned elsewhere, so that it costs
	 * the same however many stations and readings there are.
	 */
	static async present(db: Db, site: SiteContext, now: number): Promise<Judging> {
		let kept = presents.find(db, site);
		if (!kept) {
			const { engine, known } = await Judging.asOf(db, site, Number.POSITIVE_INFINITY, now);
			kept = { memory: engine.memory, known };
			presents.put(db, site, kept);
		}
		return new Judging(site, new Engine(kept.known, () => now, kept.memory.fork()), kept.known, true);
	}

	/** An event that comes after all that is stored: the present is as good as before, with it. */
	static noteInPresent(db: Db, before: SiteContext, after: SiteContext, event: WaterEvent): void {
		const kept = presents.find(db, before);
		if (!kept || !onlyRemembersMore(before, after)) return;
		const memory = kept.memory.fork();
		memory.note(event);
		memory.forgetEvents(event.station);
		presents.put(db, after, { memory, known: kept.known });
	}

	/** What was learned from is the present from now on, and learns no more but in this very transaction. */
	private becomePresent(db: Db, memoryVersion: number): void {
		presents.put(db, this.site, { memory: this.engine.memory, known: this.known }, memoryVersion);
	}

	/** Judges a sample and learns from it. */
	take(sample: readonly Reading[], decisions: readonly (string | null)[] = []): Verdict[] {
		const { station, at } = sample[0]!;
		const before = this.touched.get(station);
		// The last of each day is kept, so that a late line of that day need not begin at the beginning.
		if (before !== undefined && Math.floor(before / DAY) !== Math.floor(at / DAY)) this.keep(station, before);
		const verdicts = this.engine.take(sample, decisions);
		this.touched.set(station, Math.max(before ?? Number.NEGATIVE_INFINITY, at));
		return verdicts;
	}

	takeStored(sample: readonly JudgedReading[]): Verdict[] {
		return this.take(
			sample.map(asReading),
			sample.map((r) => r.decision),
		);
	}

	private keep(station: string, at: number): void {
		const stationId = this.site.stations.find((s) => s.code === station)?.id;
		if (stationId !== undefined) this.kept.push({ stationId, at, state: this.engine.memory.keepAsJson(station) });
	}

	/** Keeps what was learned of days that are over, while it learns of others. @returns the version of what is kept, null for nothing */
	async storeDays(db: Db): Promise<number | null> {
		const days = worthKeeping(this.kept.splice(0));
		let version: number | null = null;
		for (let i = 0; i < days.length; i += 500)
			version = await putMemories(db, this.site.site.id, days.slice(i, i + 500));
		this.ofDays ||= days.length > 0;
		return version;
	}

	/**
	 * Keeps what was learned, for the next judgement to go on from.
	 * @returns the version of the site's memory where this is its present, else null
	 */
	async store(db: Db): Promise<number | null> {
		if (this.touched.size === 0) return null;
		const newest = Math.max(...this.touched.values());
		await this.storeDays(db);
		const severalDays = this.ofDays;
		for (const [station, at] of this.touched) this.keep(station, at);
		const version = await this.storeDays(db);
		if (severalDays) await thinMemories(db, this.site.site.id, newest - KEPT_DAILY_DAYS * DAY);
		if (version !== null && this.isPresent) this.becomePresent(db, version);
		this.ofDays = false;
		this.touched.clear();
		return this.isPresent ? version : null;
	}
}

const monthOf = (at: number): string => new Date(at).toISOString().slice(0, 7);
/** One of each station and day, the newest; of days that are thinned at the end (thinMemories) one of each month. */
function worthKeeping<T extends { stationId: number; at: number }>(list: readonly T[]): T[] {
	const newest = list.reduce((at, k) => Math.max(at, k.at), Number.NEGATIVE_INFINITY);
	// By whole days: of one day there is one.
	const daily = (Math.floor(newest / DAY) - KEPT_DAILY_DAYS) * DAY;
	const last = new Map<string, T>();
	for (const k of list) last.set(`${k.stationId} ${k.at < daily ? monthOf(k.at) : Math.floor(k.at / DAY)}`, k);
	return [...last.values()];
}

/** Rows in order, cut into samples: entered together, for one station and time. */
export function* samplesOf<T extends { sampleId: number; station: string; at: number }>(
	rows: readonly T[],
): Generator<T[]> {
	for (let i = 0; i < rows.length; ) {
		const first = rows[i]!;
		let end = i + 1;
		while (
			end < rows.length &&
			end - i < MAX_SAMPLE &&
			rows[end]!.sampleId === first.sampleId &&
			rows[end]!.station === first.station &&
			rows[end]!.at === first.at
		)
			end++;
		yield rows.slice(i, end);
		i = end;
	}
}
