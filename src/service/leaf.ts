import type { z } from 'zod';
import type { leafAnswer } from '@/contract/leaf';
import { scarceAt } from '@/core/crop/availability';
import { fromLeaf, type LeafBook, type Leaves, type Sign } from '@/core/crop/leaf';
import { CROPS, rangesFor, type Stage } from '@/core/crop/presets';
import type { SeriesQuantity } from '@/core/quantity';
import { POURING_KINDS } from '@/core/reading/model';
import { limitsOf } from '@/core/rootzone/watering';
import { median } from '@/core/series/robust';
import { IONS } from '@/core/water/ions';
import { listEvents } from '@/store/events';
import type { Db } from '@/store/pool';
import { listReports } from '@/store/water';
import { believedReadings, CLOCKS_MS } from './believed';
import { placesOf, requireSystem } from './rootzone';
import type { SiteContext } from './site';

const DAY = 86_400_000;
/** What shows on leaves began weeks ago. */
const LOOK_BACK_DAYS = 21;
const SHOWN_CHANGES = 6;
const MOST_EVENTS = 500;
const LEAST = 2;
/** So little beside its range locks nothing out (common practice, no source). */
const BESIDE = 0.3;

/** What may be behind what is seen on the plants of a system, by what was read and done in the weeks before. */
export async function leafOf(
	db: Db,
	context: SiteContext,
	asked: { system: string; leaves: Leaves; signs: readonly Sign[] },
	now: number,
): Promise<z.output<typeof leafAnswer>> {
	const system = requireSystem(context, asked.system);
	const { drain, feed: mixed } = placesOf(context, system.code);
	const feed =
		mixed ?? context.inUse.stations.find((s) => s.system === system.code && s.kind === 'root_zone')?.code ?? null;
	const from = now - LOOK_BACK_DAYS * DAY;
	const span = { from, to: now + CLOCKS_MS };
	const read = async (station: string | null, quantity: SeriesQuantity) =>
		station === null ? [] : believedReadings(db, context, station, quantity, span);
	const middle = (list: readonly { value: number }[]) =>
		list.length < LEAST ? null : median(list.map((r) => r.value));

	const drainPh = await read(drain, 'ph');
	const atDrain = drainPh.length >= LEAST;
	const phReadings = atDrain ? drainPh : await read(feed, 'ph');
	const phStation = atDrain ? drain : feed;
	const crop = rangesFor(
		CROPS.some((c) => c.crop === system.crop) ? system.crop : 'something else',
		(system.stage || 'growing') as Stage,
	);
	const range = context.stations.find((s) => s.code === feed)?.ranges.ph ?? crop.ph;
	const values = phReadings.map((r) => r.value);
	const share = (beyond: (v: number) => boolean) => values.filter(beyond).length / values.length;
	const newest = phReadings.at(-1);
	const ph =
		phStation !== null && newest && values.length >= LEAST
			? {
					station: phStation,
					readings: values.length,
					newest: newest.value,
					newestTime: newest.at,
					low: Math.min(...values),
					high: Math.max(...values),
					median: median(values),
					range: [range[0], range[1]] as [number, number],
					aboveShare: share((v) => v > range[1] + BESIDE),
					belowShare: share((v) => v < range[0] - BESIDE),
				}
			: null;
	const feedEc = middle(await read(feed, 'ec'));
	const drainEc = middle(await read(drain, 'ec'));
	const ecRange = context.stations.find((s) => s.code === feed)?.ranges.ec ?? null;
	const ec =
		feed !== null && feedEc !== null
			? { station: feed, medianUsCm: feedEc, range: ecRange && ([ecRange[0], ecRange[1]] as [number, number]) }
			: null;
	const drainAbove =
		feedEc !== null && drainEc !== null
			? { aboveUsCm: drainEc - feedEc, actUsCm: limitsOf(system.watering ?? {}, system.medium).actUsCm }
			: null;
	const tempC = middle([...(await read(feed, 'temp')), ...(await read(drain, 'temp'))]);
	const oxygenMgL = middle(await read(feed, 'do'));
	const sodiumMmolL = await sodiumOf(db, context, feed);
	const book: LeafBook = { ph, phValues: values, ec, drain: drainAbove, tempC, oxygenMgL, sodiumMmolL };
	return {
		system: system.code,
		from,
		ph,
		scarce: ph ? scarceAt(ph.median) : [],
		ec,
		drain: drainAbove,
		tempC,
		oxygenMgL,
		sodiumMmolL,
		changes: await changesOf(db, context, [drain, feed], span),
		findings: fromLeaf(asked.leaves, asked.signs, book),
	};
}

/** Sodium of the strongest of the waters that go into the feed, by their newest reports. */
async function sodiumOf(db: Db, context: SiteContext, feed: string | null): Promise<number | null> {
	const fedBy = context.stations.find((s) => s.code === feed)?.fedBy ?? [];
	const found: number[] = [];
	for (const source of fedBy) {
		const na = (await listReports(db, context.site.id, source))
			.sort((a, b) => a.at - b.at)
			.findLast((r) => r.ions.na_mg_l !== undefined)?.ions.na_mg_l;
		if (na !== undefined) found.push(na / IONS.na_mg_l.mgPerMeq);
	}
	return found.length > 0 ? Math.max(...found) : null;
}

async function changesOf(
	db: Db,
	context: SiteContext,
	stations: readonly (string | null)[],
	span: { from: number; to: number },
) {
	const all = [];
	for (const station of new Set(stations))
		if (station !== null)
			all.push(
				...(await listEvents(db, context.site.id, { ...span, station, kinds: POURING_KINDS, limit: MOST_EVENTS })),
			);
	return all
		.sort((a, b) => b.at - a.at)
		.slice(0, SHOWN_CHANGES)
		.map((e) => ({
			id: e.id,
			time: e.at,
			station: e.station,
			kind: e.kind,
			amount: e.amount,
			unit: e.unitText,
			product: e.product,
			note: e.note,
		}));
}
