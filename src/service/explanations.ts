import type { z } from 'zod';
import type { Contract } from '@/contract';
import type { Act, Book } from '@/core/explain/book';
import { explain } from '@/core/explain/explain';
import { aerationOf } from '@/core/mix/dose/aeration-of';
import { nitrogenOf, sumOf } from '@/core/mix/feed/content';
import type { SeriesQuantity } from '@/core/quantity';
import { runVolumes } from '@/core/rootzone/watering';
import { permits, waits } from '@/core/trust/trust';
import { listCalibrations } from '@/store/calibrations';
import { type EventRecord, listEvents } from '@/store/events';
import { listIrrigations } from '@/store/irrigations';
import type { StationRow } from '@/store/line';
import { listProducts } from '@/store/mix';
import type { Db } from '@/store/pool';
import { type JudgedReading, listReadings } from '@/store/readings';
import { believedReadings } from './believed';
import { inLitres, inMl } from './poured';
import { contentOf } from './products';
import { Refusal } from './refusal';
import type { SiteContext } from './site';
import { believed, tankAsWritten } from './tank-record';

type Answer = z.output<Contract['GET /explanations']['answer']>;

const DAY = 86_400_000;
const USUAL_DAYS = 28;
const MOST_DAYS = 56;
/** Of each quantity so many of the newest: four weeks of a reading every five minutes. */
const MOST = 9000;
/** Of what reports more often than this each part of a day counts once, by its middle. */
const MOST_A_DAY = 6;
const PART_MS = DAY / 4;
/** Where somebody feeds plants. */
const SOLUTIONS: readonly StationRow['kind'][] = ['reservoir', 'mix', 'root_zone', 'drain'];
/** Two pens dipped within so long saw the same water. */
const SAME_MS = 1_800_000;
/** A pen with this share of the readings is the one that is asked about. */
const MOSTLY = 0.6;

/** What would explain how pH and EC of a station went, by all that is written down of it. */
export async function explanationsOf(
	db: Db,
	context: SiteContext,
	code: string,
	span: { from?: number | undefined; to?: number | undefined },
	now: number,
): Promise<Answer> {
	const station = context.stations.find((s) => s.code === code);
	if (!station) throw new Refusal('unknown-station', [{ path: 'station', message: `There is no station “${code}”.` }]);
	const to = span.to ?? now;
	const from = Math.max(span.from ?? to - USUAL_DAYS * DAY, to - MOST_DAYS * DAY);
	const explanations: Answer['explanations'] = [];
	// What a source does is followed in its chart.
	if (!SOLUTIONS.includes(station.kind)) return { station: code, explanations };
	const done = await whatWasDone(db, context, station, { from, to });
	for (const quantity of ['ph', 'ec'] as const) {
		const { book, readings, doubtful } = await bookOf(db, context, station, quantity, { from, to }, done);
		if (readings > 0) explanations.push({ quantity, readings, doubtful, ...explain(book) });
	}
	return { station: code, explanations };
}

/** What was done to it and what it is made of, whatever is asked about. */
interface Done {
	/** As a book has it, whichever quantity is asked about. */
	book: Pick<
		Book,
		'kind' | 'acts' | 'shares' | 'temps' | 'oxygen' | 'volumeL' | 'aeration' | 'water' | 'ammoniumShare'
	>;
	feed: string | undefined;
}
async function whatWasDone(
	db: Db,
	context: SiteContext,
	station: StationRow,
	span: { from: number; to: number },
): Promise<Done> {
	const site = context.site.id;
	const isDrain = station.kind === 'drain' || station.kind === 'root_zone';
	const events = await listEvents(db, site, { ...span, station: station.code, limit: MOST });
	const runs = isDrain && station.system ? await listIrrigations(db, site, { system: station.system, ...span }) : [];
	const system = context.systems.find((y) => y.code === station.system) ?? null;
	const watering = system?.watering ?? {};
	const here = async (quantity: SeriesQuantity) =>
		thinned(await believedReadings(db, context, station.code, quantity, span, MOST));
	const water = isDrain ? null : await waterOf(db, context, station, span.to);
	return {
		feed: isDrain ? station.fedBy[0] : undefined,
		book: {
			kind: isDrain ? 'drain' : 'tank',
			acts: events.flatMap(actOf),
			shares: runs.flatMap((r) => {
				const { applied, drained } = runVolumes(r, watering);
				return applied && drained && applied.litres > 0 ? [{ at: r.at, value: drained.litres / applied.litres }] : [];
			}),
			temps: await here('temp'),
			oxygen: await here('do'),
			volumeL: context.known.stations.get(station.code)?.volumeL ?? null,
			aeration: aerationOf(station, system),
			water: water ?? { alkalinityMeqL: null, ecUsCm: null },
			ammoniumShare: await ammoniumShare(db, site, events),
		},
	};
}

async function bookOf(
	db: Db,
	context: SiteContext,
	station: StationRow,
	quantity: 'ph' | 'ec',
	span: { from: number; to: number },
	done: Done,
): Promise<{ book: Book; readings: number; doubtful: number }> {
	const site = context.site.id;
	const at = async (code: string, quantity: SeriesQuantity) =>
		thinned(await believedReadings(db, context, code, quantity, span, MOST));
	const all = (
		await listReadings(db, site, { station: station.code, quantity, ...span, order: 'newest', limit: MOST })
	).reverse();
	const seen = all.filter((r) => permits(r, 'wander'));
	const pen = mainPen(seen);
	const own = pen === null ? seen : seen.filter((r) => r.instrument === pen);
	const book: Book = {
		...done.book,
		quantity,
		other: await at(station.code, quantity === 'ph' ? 'ec' : 'ph'),
		feed: done.feed ? await at(done.feed, quantity) : [],
		...(pen === null
			? // Of several pens, with none that is mostly used, each is taken as calibrations put it right.
				{ readings: thinned(own.map((r) => ({ at: r.at, value: believed(r), off: 0 }))), pairs: [], calibrated: [] }
			: {
					readings: thinned(own.map((r) => ({ at: r.at, value: r.value, off: r.value - believed(r) }))),
					pairs: pairsOf(
						own,
						seen.filter((r) => r.instrument !== pen),
					),
					calibrated: await adjusted(db, site, pen, quantity, span),
				}),
		compensates: context.instruments.find((i) => i.code === pen)?.compensates ?? null,
	};
	// Where nobody read it for itself it stands beside the readings.
	if (book.temps.length === 0)
		book.temps = thinned(own.flatMap((r) => (r.tempC === null ? [] : [{ at: r.at, value: r.tempC }])));
	return { book, readings: own.length, doubtful: all.filter(waits).length };
}

/** When a pen was adjusted, oldest first. */
async function adjusted(
	db: Db,
	site: number,
	pen: string,
	quantity: 'ph' | 'ec',
	span: { from: number; to: number },
): Promise<number[]> {
	return (await listCalibrations(db, site))
		.filter((c) => c.instrument === pen && c.quantity === quantity && c.kind === 'adjust' && !c.withdrawn)
		.map((c) => c.at)
		.filter((at) => at >= span.from && at <= span.to)
		.sort((a, b) => a - b);
}

/** A series that reports every few minutes, as somebody would read it a few times a day. */
function thinned<T extends { at: number; value: number }>(list: readonly T[]): T[] {
	const days = list.length > 1 ? (list.at(-1)!.at - list[0]!.at) / DAY : 0;
	if (list.length <= MOST_A_DAY * Math.max(1, days)) return [...list];
	const parts = new Map<number, T[]>();
	for (const r of list) {
		const part = Math.floor(r.at / PART_MS);
		parts.set(part, [...(parts.get(part) ?? []), r]);
	}
	return [...parts.values()].map((p) => [...p].sort((a, b) => a.value - b.value)[p.length >> 1]!);
}

/** The pen that nearly all was read with; null where there is none. */
function mainPen(readings: readonly JudgedReading[]): string | null {
	const counts = new Map<string, number>();
	for (const r of readings) if (r.instrument) counts.set(r.instrument, (counts.get(r.instrument) ?? 0) + 1);
	const [most] = [...counts].sort((a, b) => b[1] - a[1]);
	return most && most[1] >= MOSTLY * readings.length ? most[0] : null;
}

/** What the pen said less what another said of the same water, as it was put right. */
function pairsOf(own: readonly JudgedReading[], others: readonly JudgedReading[]): { at: number; value: number }[] {
	return others.flatMap((o) => {
		const near = own.filter((r) => Math.abs(r.at - o.at) <= SAME_MS);
		const r = near.sort((a, b) => Math.abs(a.at - o.at) - Math.abs(b.at - o.at))[0];
		return r ? [{ at: r.at, value: r.value - believed(o) }] : [];
	});
}

function actOf(e: EventRecord): Act[] {
	const act = (kind: Act['kind'], litres: number | null = null): Act[] => [{ at: e.at, kind, litres }];
	switch (e.kind) {
		case 'water_added':
			return act('water', inLitres(e.amount, e.unitText));
		case 'nutrient_added':
			return act('feed');
		case 'solution_changed':
			return act('changed');
		case 'acid_added':
			return act('acid');
		case 'base_added':
			return act('base');
		default:
			return [];
	}
}

/** The water that was last poured in, as far as it is known. */
async function waterOf(db: Db, context: SiteContext, station: StationRow, now: number): Promise<Book['water'] | null> {
	const { record } = await tankAsWritten(db, context, station, now);
	const last = record.events.findLast((e) => (e.kind === 'water' || e.kind === 'filled') && e.water !== null);
	return last && 'water' in last && last.water
		? { alkalinityMeqL: last.water.alkalinityMeqL, ecUsCm: last.water.ecUsCm }
		: null;
}

/** Of the nitrogen in what was fed, by the labels; null where none says. */
async function ammoniumShare(db: Db, site: number, events: readonly EventRecord[]): Promise<number | null> {
	const products = await listProducts(db, site);
	const fed = sumOf(
		events.flatMap((e) => {
			const product = e.kind === 'nutrient_added' ? products.find((p) => p.name === e.product) : undefined;
			const content = product && contentOf(product);
			return content ? [[content, inMl(e.amount, e.unitText) ?? 1] as const] : [];
		}),
	);
	const nitrogen = nitrogenOf(fed);
	return nitrogen > 0 ? (fed.nh4_n_mg_l ?? 0) / nitrogen : null;
}
