import { dayIn } from '@/core/series/days';
import {
	fiveMinutesOf,
	hourOf,
	type KeptSamples,
	type Rollup,
	rollUp,
	rollUpFurther,
	STEP_MINUTES,
	type Step,
} from '@/core/series/rollup';
import { countWhile } from '@/core/series/search';
import { oneEpisodeMs, streamEpisodes } from '@/core/series/stream-episodes';
import type { Client } from '@/store/pool';
import { dropEpisodes, episodesWithin, putEpisodes } from '@/store/sensors/episodes';
import { listSeries, type SensorSeries } from '@/store/sensors/nodes';
import { copyRollups, mergeRollups, type RollupsOfStep, replaceRollups, rollupsBetween } from '@/store/sensors/rollups';
import { doubtfulBetween, samplesBetween } from '@/store/sensors/samples';
import type { SiteContext } from '../site';

/** What is derived from samples, kept with them: rollups by five minutes, hour and day, and episodes of doubt. */
const FIVE_MS = STEP_MINUTES['5min'] * 60_000;
const HOUR_MS = STEP_MINUTES.hour * 60_000;
const DAY_MS = 86_400_000;
/** So many days are rolled up again at a time. */
const AT_ONCE_MS = 4 * DAY_MS;

/** Adds samples that are newer than all that is there of their series. */
export async function addToDerived(
	client: Client,
	context: SiteContext,
	all: readonly (KeptSamples & { seriesId: number; after: number | null; usualMs: number })[],
): Promise<void> {
	const dayOf = dayIn(context.site.timezone);
	const begun: RollupsOfStep[] = [];
	const fresh: RollupsOfStep[] = [];
	for (const { seriesId, after, ...samples } of all) {
		const five = rollUp(samples, fiveMinutesOf);
		const add = (step: Step, rollups: readonly Rollup[], stretch: (at: number) => number) => {
			// The stretch that the newest sample so far lies in is there; those after it are not.
			const there = after === null ? Number.NEGATIVE_INFINITY : stretch(after);
			const known = countWhile(rollups, (r) => r.at <= there);
			begun.push({ seriesId, step, rollups: rollups.slice(0, known) });
			fresh.push({ seriesId, step, rollups: known === 0 ? rollups : rollups.slice(known) });
		};
		add('5min', five, fiveMinutesOf);
		add('hour', rollUpFurther(five, hourOf), hourOf);
		add('day', rollUpFurther(five, dayOf), dayOf);
	}
	await mergeRollups(client, context.site.id, begun);
	await copyRollups(client, context.site.id, fresh);
	const first = Math.min(...all.map((s) => s.at[0]!));
	const before = await episodesWithin(
		client,
		context.site.id,
		all.map((s) => s.seriesId),
		first - oneEpisodeMs(Math.max(...all.map((s) => s.usualMs))),
		Number.POSITIVE_INFINITY,
	);
	for (const samples of all) {
		const own = before.filter((e) => e.seriesId === samples.seriesId);
		await putEpisodes(client, context.site.id, samples.seriesId, streamEpisodes(own, samples, samples.usualMs));
	}
}

/** Makes what is derived of a stretch anew from the samples that are still there. */
export async function makeDerivedAgain(
	client: Client,
	context: SiteContext,
	{ id, rawFrom, usualMs }: SensorSeries,
	from: number,
	upTo: number,
): Promise<void> {
	const siteId = context.site.id;
	const begin = Math.max(fiveMinutesOf(from), rawFrom);
	const end = fiveMinutesOf(upTo) + FIVE_MS;
	for (let at = begin; at < end; at += AT_ONCE_MS) {
		const to = Math.min(at + AT_ONCE_MS, end);
		const rows = await samplesBetween(client, siteId, [id], at, to);
		const samples = {
			at: rows.map((r) => r.at),
			value: rows.map((r) => r.value),
			cause: rows.map((r) => r.cause),
			decision: rows.map((r) => r.decision),
			count: rows.length,
		};
		await replaceRollups(client, siteId, id, '5min', at, to, rollUp(samples, fiveMinutesOf));
	}
	const dayOf = dayIn(context.site.timezone);
	for (const [step, stretch, longest] of [
		['hour', hourOf, HOUR_MS],
		['day', dayOf, 1.5 * DAY_MS],
	] as const) {
		const first = stretch(begin);
		// The beginning of the stretch after the last.
		const after = stretch(stretch(end - 1) + longest);
		const five = await rollupsBetween(client, siteId, [id], '5min', first, after);
		await replaceRollups(client, siteId, id, step, first, after, rollUpFurther(five, stretch));
	}
	await episodesAgain(client, siteId, { id, usualMs }, begin, end);
}

/** The days of a site are others: those of every series are made anew from its five minutes. */
export async function daysAgain(client: Client, siteId: number, zone: string): Promise<void> {
	for (const { id } of await listSeries(client, siteId)) {
		const five = await rollupsBetween(client, siteId, [id], '5min', Number.NEGATIVE_INFINITY, Number.POSITIVE_INFINITY);
		const days = rollUpFurther(five, dayIn(zone));
		await replaceRollups(client, siteId, id, 'day', Number.NEGATIVE_INFINITY, Number.POSITIVE_INFINITY, days);
	}
}

async function episodesAgain(
	client: Client,
	siteId: number,
	{ id, usualMs }: Pick<SensorSeries, 'id' | 'usualMs'>,
	from: number,
	to: number,
): Promise<void> {
	const within = oneEpisodeMs(usualMs);
	const near = await episodesWithin(client, siteId, [id], from - within, to + within);
	const first = Math.min(from, ...near.map((e) => e.since));
	const last = Math.max(to, ...near.map((e) => e.until));
	const rows = await doubtfulBetween(client, siteId, id, first, last);
	const episodes = streamEpisodes(
		[],
		{
			at: rows.map((r) => r.at),
			cause: rows.map((r) => r.cause),
			count: rows.length,
		},
		usualMs,
	);
	await dropEpisodes(client, siteId, id, first, last, episodes);
	await putEpisodes(client, siteId, id, episodes);
}
