import type { z } from 'zod';
import type { drainsAnswer } from '@/contract/drains';
import { CROPS, rangesFor, type Stage } from '@/core/crop/presets';
import { startOfDay } from '@/core/quantity/time';
import { sheetDay } from '@/core/rhythm/sheet-row';
import { adviseIrrigation } from '@/core/rootzone/advice';
import { drainOutlook } from '@/core/rootzone/balance';
import { judgeDrains, pairDrains, poolDrains, type Run } from '@/core/rootzone/drains';
import {
	drainsMoreThanGiven,
	drainTarget,
	limitsOf,
	type MeasuredRun,
	runsADay,
	runVolumes,
	type Watering,
} from '@/core/rootzone/watering';
import { type EventRecord, listEvents } from '@/store/events';
import { listSteps } from '@/store/irrigation-steps';
import { insertIrrigation, listIrrigations, withdrawIrrigation } from '@/store/irrigations';
import { atOnce, type Db } from '@/store/pool';
import { insertAudit } from '@/store/site';
import { writing } from '@/store/writing';
import { moreDrainedWords } from '@/words/en/drain';
import { remarkWords } from '@/words/en/remark';
import { believedOf, CLOCKS_MS } from './believed';
import { enterSamples, type TypedSample } from './enter';
import { adviceShown, stepsShown } from './irrigation-steps';
import { inLitres } from './poured';
import { Refusal } from './refusal';
import type { SiteContext } from './site';
import { requireTime } from './time-ahead';

const DAY = 86_400_000;
const USUAL_DAYS = 56;
/** So many steps are shown with what they did, and none that is older. */
const SHOWN_STEPS = 6;
const MOST_DAYS = 1100;

export function requireSystem(context: SiteContext, code: string) {
	const system = context.systems.find((y) => y.code === code);
	if (!system) throw new Refusal('unknown-system', [{ path: 'system', message: `There is no system “${code}”.` }]);
	return system;
}

/** Where the drain of a system is read, and its feed: what feeds that station, else what else the system has. */
export function placesOf(context: SiteContext, system: string): { drain: string | null; feed: string | null } {
	const own = context.inUse.stations.filter((s) => s.system === system);
	const drain = own.find((s) => s.kind === 'drain');
	const feed = drain?.fedBy[0] ?? own.find((s) => s.kind === 'mix' || s.kind === 'reservoir')?.code;
	return { drain: drain?.code ?? null, feed: feed ?? null };
}

/** What is known of the drain of a system: its samples, how it is watered, the steps that were taken, and the next. */
export async function rootZoneOf(db: Db, context: SiteContext, code: string, now: number, days: number) {
	const system = requireSystem(context, code);
	const watering: Watering = system.watering ?? {};
	const { drain, feed } = placesOf(context, code);
	const site = context.site.id;
	const steps = await listSteps(db, site, system.id);
	// What the newest steps did is told, however long ago they were taken.
	const oldest = (steps.at(-SHOWN_STEPS) ?? steps[0])?.at ?? now;
	const from = Math.max(now - MOST_DAYS * DAY, Math.min(now - days * DAY, oldest - 7 * DAY));
	const span = { from, to: now + CLOCKS_MS };
	const [runs, irrigated, [drainEc, drainPh, feedEc, feedPh]] = await atOnce(db, [
		() => listIrrigations(db, site, { system: code, ...span }),
		() => irrigatedEvents(db, context, code, span),
		() =>
			believedOf(
				db,
				context,
				// A place that there is none of has no readings.
				[drain ?? '', feed ?? ''].flatMap((station) => [
					{ station, quantity: 'ec' as const },
					{ station, quantity: 'ph' as const },
				]),
				span,
			),
	]);
	const noted = notedRuns(irrigated, runs);
	const measured = runs.flatMap((r): Run[] => {
		const { applied, drained } = runVolumes(r, watering);
		const { at, minutes, firstDrainMin } = r;
		return applied && drained ? [{ at, applied, drained, minutes, firstDrainMin }] : [];
	});
	const samples = pairDrains({ ec: drainEc!, ph: drainPh! }, { ec: feedEc!, ph: feedPh! }, measured);
	const limits = limitsOf(watering, system.medium);
	const drainPct = drainTarget(watering, sheetDay(now, context.site.timezone));
	const found = judgeDrains(samples, limits);
	const held = watering.heldL ?? null;
	const advice = adviseIrrigation({
		now,
		samples: found,
		schedule: {
			runsADay: runsADay(watering),
			minutes: watering.minutes ?? runs.at(-1)?.minutes ?? noted[0]?.minutes ?? null,
			bags: watering.bags ?? null,
			heldL: held === null || !watering.bags ? null : held * watering.bags,
		},
		taken: steps.map((s) => ({ at: s.at, kind: s.kind, runsBefore: s.wateringBefore && runsADay(s.wateringBefore) })),
		limits,
		drainPct,
		leastFeedUsCm: leastFeed(context, system, feed),
	});
	return { system, watering, drain, feed, runs, noted, samples, found, limits, drainPct, steps, advice };
}

/** A run and an event within so long are one irrigation that was written down twice. */
const SAME_RUN_MS = 1_800_000;
const SHOWN_NOTED = 10;

/** The newest irrigations among the events of each of a system's stations. */
async function irrigatedEvents(
	db: Db,
	context: SiteContext,
	system: string,
	span: { from: number; to: number },
): Promise<EventRecord[]> {
	const own = context.stations.filter((s) => s.system === system);
	const events = await atOnce(
		db,
		own.map(
			(s) => () =>
				listEvents(db, context.site.id, {
					...span,
					station: s.code,
					kinds: ['irrigated'],
					order: 'newest',
					limit: SHOWN_NOTED,
				}),
		),
	);
	return events.flat();
}

/** Irrigations that stand among the events, newest first; not those that were logged as runs as well. */
const notedRuns = (events: readonly EventRecord[], runs: readonly { at: number }[]) =>
	events
		.filter((e) => !runs.some((r) => Math.abs(r.at - e.at) < SAME_RUN_MS))
		.sort((a, b) => b.at - a.at)
		.slice(0, SHOWN_NOTED)
		.map((e) => ({
			eventId: e.id,
			at: e.at,
			minutes: e.unitText === 'min' ? e.amount : e.unitText === 'h' && e.amount !== null ? 60 * e.amount : null,
			appliedL: inLitres(e.amount, e.unitText),
		}));

/** Weaker than this the crop is not fed: the range of the feed’s station, else that of crop and stage; null where neither is known. */
function leastFeed(context: SiteContext, system: { crop: string; stage: string }, feed: string | null): number | null {
	const range = context.stations.find((s) => s.code === feed)?.ranges.ec;
	if (range) return range[0];
	return CROPS.some((c) => c.crop === system.crop) ? rangesFor(system.crop, system.stage as Stage).ec[0] : null;
}

/** The drain of a system beside its feed, sample by sample and pooled, with what it says and what to do first. */
export async function drainsOf(
	db: Db,
	context: SiteContext,
	code: string,
	now: number,
	days = USUAL_DAYS,
): Promise<z.output<typeof drainsAnswer>> {
	// What is advised does not hang on how far back somebody looks.
	const z = await rootZoneOf(db, context, code, now, Math.max(days, USUAL_DAYS));
	const since = <T extends { at: number }>(list: readonly T[]) => list.filter((x) => x.at >= now - days * DAY);
	const samples = since(z.samples);
	const zone = context.site.timezone;
	const dayOf = (at: number) => startOfDay(sheetDay(at, zone), zone) ?? at;
	// Weeks that end today: what is asked is how the last seven days were.
	const today = dayOf(now);
	const weekOf = (at: number) => {
		// Counted in days of the calendar: one of them may be an hour longer.
		const ago = Math.round((today - dayOf(at)) / DAY);
		return dayOf(today + DAY / 2 - (7 * Math.floor(ago / 7) + 6) * DAY);
	};
	const weeks = poolDrains(samples, weekOf);
	const newest = weeks.findLast((w) => w.balance !== null);
	return {
		system: code,
		drainStation: z.drain,
		feedStation: z.feed,
		watering: z.watering,
		...z.limits,
		drainPct: [...z.drainPct] as [number, number],
		runsADay: runsADay(z.watering),
		advice: adviceShown(z.advice, z.watering),
		steps: stepsShown(z.steps, z.found).reverse(),
		outlook: newest?.balance
			? drainOutlook(newest.balance, newest.feedUsCm, z.drainPct[1] / 100, z.limits.watchUsCm)
			: null,
		samples: since(z.found).map((s) => ({ ...s, actions: s.actions.map(remarkWords) })),
		days: poolDrains(samples, dayOf),
		weeks,
		runs: since(z.runs).reverse(),
		noted: since(z.noted),
	};
}

/** Logs an irrigation with what was read of feed and drain: all of it, or nothing. @returns its number */
export const logIrrigation = (
	db: Db,
	context: SiteContext,
	r: MeasuredRun & {
		system: string;
		at: number;
		firstDrainMin: number | null;
		note: string;
		feed: TypedSample['readings'];
		drain: TypedSample['readings'];
	},
	by: { who: string; now: number },
): Promise<number> =>
	writing(db, async (client) => {
		const system = requireSystem(context, r.system);
		requireTime(r.at, by.now, 'time');
		const volumes = [r.minutes, r.appliedL, r.drainedL].some((x) => x !== null);
		if (!volumes && r.appliedCups.length + r.drainedCups.length + r.feed.length + r.drain.length === 0)
			throw new Refusal('nothing-entered', [
				{ path: 'minutes', message: 'Type at least how long it ran, or what was caught or read.' },
			]);
		const more = drainsMoreThanGiven(r, system.watering ?? {});
		if (more) throw new Refusal('more-drained-than-given', [{ path: 'drained_l', message: moreDrainedWords(more) }]);
		const places = placesOf(context, r.system);
		for (const [station, readings, path] of [
			[places.feed, r.feed, 'feed'],
			[places.drain, r.drain, 'drain'],
		] as const) {
			if (readings.length === 0) continue;
			if (station === null)
				throw new Refusal('unknown-station', [
					{ path, message: `${system.name} has no station for its ${path}: add one in Setup.` },
				]);
			await enterSamples(client, context, [{ at: r.at, station, readings: [...readings] }], {
				source: 'bench',
				who: by.who,
				now: by.now,
			});
		}
		const id = await insertIrrigation(client, context.site.id, { ...r, systemId: system.id, who: by.who });
		await insertAudit(client, context.site.id, by.who, 'irrigation.logged', r.system, { id });
		return id;
	});

export async function takeBackIrrigation(
	db: Db,
	context: SiteContext,
	id: number,
	withdrawn: boolean,
	who: string,
): Promise<void> {
	await writing(db, async (client) => {
		if (!(await withdrawIrrigation(client, context.site.id, id, withdrawn)))
			throw new Refusal('no-such-irrigation', [{ path: 'id', message: `There is no irrigation ${id}.` }]);
		await insertAudit(
			client,
			context.site.id,
			who,
			withdrawn ? 'irrigation.withdrawn' : 'irrigation.reinstated',
			String(id),
			{},
		);
	});
}
