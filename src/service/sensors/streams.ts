import type { SeriesQuantity } from '@/core/quantity';
import { FLAG_OF } from '@/core/series/findings';
import { judgeProbe, type ProbeSeries } from '@/core/series/judge-probe';
import { newProbe, type ProbeMemory } from '@/core/series/stream-memory';
import type { Client } from '@/store/pool';
import { memoryBefore, putProbeMemories } from '@/store/sensors/memory';
import { listSeries, type SensorSeries, updateSeries } from '@/store/sensors/nodes';
import { copySamples, firstSample, putCauses, retell, type SampleRow, samplesBetween } from '@/store/sensors/samples';
import type { SiteContext } from '../site';
import { addToDerived, makeDerivedAgain } from './derived';
import { type Around, surroundingsOf } from './surroundings';

/**
 * Judges what a probe tells and stores it, with everything that is derived from it, in the transaction it is given. What is newer than
 * all that is there goes on from the memory of the probe; what comes late is put in its place, and everything from then on is judged
 * again, until the memory is what it was.
 */
export interface Probe {
	stationId: number;
	station: string;
	instrumentId: number;
}
/** Samples of one series that are not there yet, ascending. */
export interface Coming {
	series: SensorSeries;
	at: number[];
	value: number[];
}

const DAY = 86_400_000;
const dayOf = (at: number): number => Math.floor(at / DAY);

/** The newest sample that a memory knows of; null where it knows none. */
const newestOf = (memory: ProbeMemory): number | null =>
	Object.values(memory.series).reduce<number | null>((m, s) => (s.at === null ? m : Math.max(m ?? s.at, s.at)), null);

/** A part of a series, by places. */
interface Part {
	series: SensorSeries;
	at: number[];
	value: number[];
	from: number;
	to: number;
}
const asProbeSeries = (p: Part): ProbeSeries => ({
	quantity: p.series.quantity,
	at: p.at.slice(p.from, p.to),
	value: p.value.slice(p.from, p.to),
	count: p.to - p.from,
});

/** Series by the days of UTC that they have samples in. */
function byDay(all: readonly { series: SensorSeries; at: number[]; value: number[] }[]): [number, Part[]][] {
	const days = new Map<number, Part[]>();
	for (const { series, at, value } of all)
		for (let from = 0; from < at.length; ) {
			const day = dayOf(at[from]!);
			let to = from + 1;
			while (to < at.length && dayOf(at[to]!) === day) to++;
			const parts = days.get(day);
			if (parts) parts.push({ series, at, value, from, to });
			else days.set(day, [{ series, at, value, from, to }]);
			from = to;
		}
	return [...days].sort(([a], [b]) => a - b);
}

const aroundOf = (around: Around, memory: ProbeMemory) => (quantity: SeriesQuantity) => ({
	disturbed: around.disturbed,
	kept: around.kept(quantity),
	// What was held against it before is in its memory.
	hands: around.hands(quantity).filter((h) => h.at > (memory.series[quantity]?.at ?? Number.NEGATIVE_INFINITY)),
});

/** @returns how many of them were found to be what, by flag */
export async function storeStreams(
	client: Client,
	context: SiteContext,
	probe: Probe,
	coming: readonly Coming[],
): Promise<Map<number, number>> {
	const siteId = context.site.id;
	const kept = await memoryBefore(client, siteId, probe.stationId, probe.instrumentId, Number.POSITIVE_INFINITY);
	const first = Math.min(...coming.map((c) => c.at[0]!));
	const late = coming.some((c) => c.at[0]! <= (kept?.memory.series[c.series.quantity]?.at ?? Number.NEGATIVE_INFINITY));
	if (late) return judgeFrom(client, context, probe, first, coming);
	const memory = kept?.memory ?? newProbe(first);
	const around = await surroundingsOf(
		client,
		context,
		probe,
		coming,
		first,
		Math.max(...coming.map((c) => c.at.at(-1)!)),
	);
	const causes = new Map(coming.map((c) => [c.series.id, new Uint8Array(c.at.length)]));
	const keep: { at: number; memory: string }[] = [];
	const earlier: { seriesId: number; from: number; to: number; cause: number; over: number }[] = [];
	for (const [day, parts] of byDay(coming)) {
		const before = newestOf(memory);
		if (before !== null && dayOf(before) < day) keep.push({ at: day * DAY, memory: JSON.stringify(memory) });
		const judged = judgeProbe(memory, parts.map(asProbeSeries), aroundOf(around, memory));
		for (const [k, part] of parts.entries()) {
			const own = causes.get(part.series.id)!;
			own.set(judged[k]!.cause, part.from);
			for (const e of judged[k]!.earlier) {
				for (let i = part.from - 1; i >= 0 && part.at[i]! >= e.from; i--) if (own[i] === e.over) own[i] = e.cause;
				if (e.from < part.at[0]!) earlier.push({ seriesId: part.series.id, ...e, to: part.at[0]! });
			}
		}
	}
	keep.push({ at: Number.POSITIVE_INFINITY, memory: JSON.stringify(memory) });
	const samples = coming.map((c) => ({
		seriesId: c.series.id,
		after: c.series.newestAt,
		usualMs: memory.series[c.series.quantity]!.usualMs,
		at: c.at,
		value: c.value,
		cause: causes.get(c.series.id)!,
		decision: around.decisions(c.series.id, c.at),
		count: c.at.length,
	}));
	await copySamples(client, siteId, samples);
	for (const e of earlier) await retell(client, siteId, e.seriesId, e);
	await addToDerived(client, context, samples);
	for (const c of coming) {
		const own = earlier.filter((e) => e.seriesId === c.series.id);
		if (own.length > 0)
			await makeDerivedAgain(client, context, c.series, Math.min(...own.map((e) => e.from)), c.at.at(-1)!);
	}
	await putProbeMemories(client, siteId, probe.stationId, probe.instrumentId, keep);
	await updateSeries(
		client,
		siteId,
		coming.map((c) => ({
			id: c.series.id,
			newestAt: c.at.at(-1)!,
			usualMs: memory.series[c.series.quantity]!.usualMs,
		})),
	);
	const flags = new Map<number, number>();
	for (const cause of causes.values()) for (const c of cause) flags.set(FLAG_OF[c]!, (flags.get(FLAG_OF[c]!) ?? 0) + 1);
	return flags;
}

/** Whether what comes next may still tell what was before: a value rests, or a level waits. */
const isOpen = (memory: ProbeMemory): boolean =>
	memory.together.since !== null ||
	Object.values(memory.series).some((m) => m.pending !== null || m.rests.since !== null);

/** What is stored of a day, with what comes put in its place; `was` is null for that. */
function merged(series: SensorSeries, rows: readonly SampleRow[], coming: Coming | undefined, day: number) {
	const all = rows
		.filter((r) => r.seriesId === series.id)
		.map((r) => ({ at: r.at, value: r.value, was: r.cause as number | null }));
	for (const [i, at] of (coming?.at ?? []).entries())
		if (dayOf(at) === day) all.push({ at, value: coming!.value[i]!, was: null });
	all.sort((a, b) => a.at - b.at);
	return { series, at: all.map((x) => x.at), value: all.map((x) => x.value), was: all.map((x) => x.was) };
}

/** Rolls up again what was touched, and tells its episodes anew. */
async function finish(
	client: Client,
	context: SiteContext,
	all: readonly SensorSeries[],
	touched: Touched,
): Promise<void> {
	for (const series of all) {
		const t = touched.of.get(series.id);
		if (t) await makeDerivedAgain(client, context, series, ...t);
	}
}

/** The first time of each series that was touched, and the last. */
class Touched {
	readonly of = new Map<number, [number, number]>();
	add(seriesId: number, from: number, to: number): void {
		const t = this.of.get(seriesId);
		this.of.set(seriesId, t ? [Math.min(t[0], from), Math.max(t[1], to)] : [from, to]);
	}
}

/**
 * Judges everything that a probe told from a time on again, with what comes late put in its place.
 * @returns how many of those that came were found to be what, by flag
 */
export async function judgeFrom(
	client: Client,
	context: SiteContext,
	probe: Probe,
	from: number,
	coming: readonly Coming[] = [],
): Promise<Map<number, number>> {
	const siteId = context.site.id;
	const all = await listSeries(client, siteId, { stationIds: [probe.stationId], instrumentIds: [probe.instrumentId] });
	const ids = all.map((s) => s.id);
	const kept = await memoryBefore(client, siteId, probe.stationId, probe.instrumentId, from);
	const begin = kept?.at ?? Number.NEGATIVE_INFINITY;
	const stored = all.flatMap((s) => (s.newestAt === null ? [] : [s.newestAt]));
	const last = Math.max(...stored, ...coming.map((c) => c.at.at(-1)!));
	if (!Number.isFinite(last)) return new Map();
	const firstStored = kept ? begin : ((await firstSample(client, siteId, ids)) ?? last);
	const first = Math.min(firstStored, ...coming.map((c) => c.at[0]!));
	const around = await surroundingsOf(
		client,
		context,
		probe,
		all.map((series) => ({ series })),
		first,
		last,
	);
	const memory = kept?.memory ?? newProbe(first);
	const touched = new Touched();
	const flags = new Map<number, number>();
	const lastComing = Math.max(Number.NEGATIVE_INFINITY, ...coming.map((c) => c.at.at(-1)!));
	for (let day = dayOf(first); day <= dayOf(last); day++) {
		const rows = await samplesBetween(client, siteId, ids, Math.max(day * DAY, begin), (day + 1) * DAY);
		const parts = all
			.map((series) =>
				merged(
					series,
					rows,
					coming.find((c) => c.series.id === series.id),
					day,
				),
			)
			.filter((p) => p.at.length > 0);
		if (parts.length === 0) continue;
		if (newestOf(memory) !== null && day * DAY > begin) {
			const text = JSON.stringify(memory);
			const before = await memoryBefore(client, siteId, probe.stationId, probe.instrumentId, day * DAY);
			if (
				before?.at === day * DAY &&
				before.text === text &&
				day * DAY > Math.max(lastComing, from) &&
				!isOpen(memory)
			) {
				await finish(client, context, all, touched);
				return flags;
			}
			await putProbeMemories(client, siteId, probe.stationId, probe.instrumentId, [{ at: day * DAY, memory: text }]);
		}
		const judged = judgeProbe(
			memory,
			parts.map((p) => ({ quantity: p.series.quantity, at: p.at, value: p.value, count: p.at.length })),
			aroundOf(around, memory),
		);
		const changed: { seriesId: number; at: number; cause: number }[] = [];
		const fresh = [];
		for (const [k, part] of parts.entries()) {
			const { cause, earlier } = judged[k]!;
			const seriesId = part.series.id;
			const now: { at: number[]; value: number[]; cause: number[] } = { at: [], value: [], cause: [] };
			for (let i = 0; i < part.at.length; i++) {
				if (part.was[i] === null) {
					now.at.push(part.at[i]!);
					now.value.push(part.value[i]!);
					now.cause.push(cause[i]!);
					flags.set(FLAG_OF[cause[i]!]!, (flags.get(FLAG_OF[cause[i]!]!) ?? 0) + 1);
				} else if (part.was[i] !== cause[i]) changed.push({ seriesId, at: part.at[i]!, cause: cause[i]! });
				else continue;
				touched.add(seriesId, part.at[i]!, part.at[i]!);
			}
			if (now.at.length > 0)
				fresh.push({ seriesId, ...now, decision: around.decisions(seriesId, now.at), count: now.at.length });
			for (const e of earlier) {
				await retell(client, siteId, seriesId, e);
				touched.add(seriesId, e.from, e.to);
			}
		}
		if (fresh.length > 0) await copySamples(client, siteId, fresh);
		await putCauses(client, siteId, changed);
	}
	await putProbeMemories(client, siteId, probe.stationId, probe.instrumentId, [
		{ at: Number.POSITIVE_INFINITY, memory: JSON.stringify(memory) },
	]);
	await updateSeries(
		client,
		siteId,
		all.flatMap((s) => {
			const m = memory.series[s.quantity];
			return m?.at == null ? [] : [{ id: s.id, newestAt: m.at, usualMs: m.usualMs }];
		}),
	);
	await finish(client, context, all, touched);
	return flags;
}
