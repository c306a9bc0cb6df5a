import { batchFigures, gainOf } from '@/core/mix/compare-batches';
import type { FedBatch } from '@/core/mix/feed/plan';
import { AFTER_MS, BEFORE_MS, litresAt, pairFeeds } from '@/core/mix/feedings';
import { learnGain } from '@/core/mix/nutrient-dose';
import { POURING_KINDS } from '@/core/reading/model';
import { median } from '@/core/series/robust';
import { trustLists } from '@/core/trust/trust';
import { readingsAround } from '@/store/around';
import type { BatchRow } from '@/store/batches';
import { type EventRecord, listEvents } from '@/store/events';
import { atOnce, type Db } from '@/store/pool';
import { fillingsOf, inMl } from './poured';
import type { SiteContext } from './site';

const LEARN_FROM = 12;
const LEARN_FROM_MS = 400 * 86_400_000;

/** Batches with what the first EC of each showed. */
export const fedBatches = (batches: readonly BatchRow[]): FedBatch[] =>
	batches.map((b) => ({
		pours: b.plan.pours,
		waterEcUsCm: b.plan.waterEcUsCm,
		firstEcUsCm: batchFigures(b.plan, b.log, b.startedAt, b.finishedAt).firstEcUsCm,
	}));

/** The gain of a feed by its newest batches: what the first EC of each showed. */
export const gainsOfBatches = (batches: readonly BatchRow[], product: string): number[] =>
	batches
		.filter((b) => b.plan.pours.every((p) => p.product === product))
		.flatMap((b) => {
			const gain = gainOf(batchFigures(b.plan, b.log, b.startedAt, b.finishedAt));
			return gain === null ? [] : [gain];
		})
		.slice(0, LEARN_FROM);

/** What feeding one running tank did to its EC, each time, by product in lower case. @param own its events, oldest first */
async function gainsAt(
	db: Db,
	context: SiteContext,
	station: string,
	own: readonly EventRecord[],
): Promise<{ product: string; list: number[] }[]> {
	const holdsL = context.known.stations.get(station)?.volumeL ?? null;
	if (holdsL === null) return [];
	const feeds = own
		.flatMap((e) => {
			const amount = e.unitText === 'g' ? e.amount : inMl(e.amount, e.unitText);
			return e.kind === 'nutrient_added' && amount !== null && e.product !== ''
				? [{ at: e.at, ml: amount, product: e.product.toLowerCase(), note: e.note }]
				: [];
		})
		.slice(-4 * LEARN_FROM);
	const ec = await readingsAround(
		db,
		context.site.id,
		station,
		'ec',
		feeds.map((f) => f.at),
		{ beforeMs: BEFORE_MS, afterMs: AFTER_MS },
		trustLists('dose'),
	);
	const stirring = own.filter((e) => e.kind !== 'drained').map((e) => e.at);
	const litres = (at: number) => litresAt(fillingsOf(own), at, holdsL);
	return [...new Set(feeds.map((f) => f.product))].map((product) => {
		const samples = pairFeeds(
			feeds.filter((f) => f.product === product),
			ec,
			stirring,
			litres,
			feeds.filter((f) => f.product !== product).map((f) => f.at),
		);
		return { product, list: samples.flatMap((x) => learnGain([x]) ?? []) };
	});
}

/** What feeding running tanks did to their EC: for those who never mix a batch. */
export async function gainsOfFeeding(db: Db, context: SiteContext, now: number): Promise<Map<string, number[]>> {
	const events = await listEvents(db, context.site.id, {
		from: now - LEARN_FROM_MS,
		to: now + 1,
		kinds: POURING_KINDS,
		limit: 20_000,
	});
	const fed = [...new Set(events.filter((e) => e.kind === 'nutrient_added').map((e) => e.station))];
	const found = await atOnce(
		db,
		fed.map(
			(station) => () =>
				gainsAt(
					db,
					context,
					station,
					events.filter((e) => e.station === station),
				),
		),
	);
	// In the order of the tanks, whichever answered first.
	const gains = new Map<string, number[]>();
	for (const { product, list } of found.flat()) gains.set(product, [...(gains.get(product) ?? []), ...list]);
	return gains;
}

/** Batches say most: they begin from plain water. Feeding a running tank counts where there are none. */
export function gainOfAll(ofBatches: readonly number[], ofFeeding: readonly number[] = []) {
	const list = ofBatches.length > 0 ? ofBatches : ofFeeding.slice(-LEARN_FROM);
	return { learnedGainUsCm: list.length === 0 ? null : median(list), learnedFromBatches: list.length };
}
